"""Everything that a server loads, loaded once: the servers of the page tests are forked from the process that did."""

import orexis.api.app
import orexis.cli.server  # noqa: F401
from orexis.core.listen import warm
from tests.new_records import copy_new_records

warm()
copy_new_records()
