"""Moving house: everything out into one file, and in again; copies of the record; looking whether all is well."""

from orexis.services.moving.backup import back_up, weekly_backup
from orexis.services.moving.bringing import Brought, bring_in
from orexis.services.moving.checking import Fault, check
from orexis.services.moving.job import Job, Progress
from orexis.services.moving.taking import Taken, taken_out, write_export

__all__ = [
    "Brought",
    "Fault",
    "Job",
    "Progress",
    "Taken",
    "back_up",
    "bring_in",
    "check",
    "taken_out",
    "weekly_backup",
    "write_export",
]
