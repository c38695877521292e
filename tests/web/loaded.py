"""Everything that a server loads, loaded once: the servers of the page tests are forked from the process that did."""

import orexis.api.app
import orexis.cli.server  # noqa: F401
from orexis.api.later_routes import LaterRoutes
from orexis.core.listen import warm

LaterRoutes().load()
warm()
