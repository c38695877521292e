"""Write docs/api/openapi.json, from which the front end's types are made."""

import json
import sys
from pathlib import Path

from orexis.api.app import create_app

out = Path(sys.argv[1]) if len(sys.argv) > 1 else Path("docs/api/openapi.json")
out.parent.mkdir(parents=True, exist_ok=True)
app = create_app(Path("data"))
app.state.later.load()
out.write_text(json.dumps(app.openapi(), indent=1, sort_keys=True) + "\n")
