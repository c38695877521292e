"""Moving house: everything out into one file, and in again; copies of the record; looking whether all is well."""

from orexis.services.archive.backup import back_up, weekly_backup
from orexis.services.archive.check import RecordFault, check
from orexis.services.archive.exporter import ExportSummary, taken_out, write_export
from orexis.services.archive.importer import ImportSummary, bring_in
from orexis.services.archive.job import Job, JobProgress

__all__ = [
    "ExportSummary",
    "ImportSummary",
    "Job",
    "JobProgress",
    "RecordFault",
    "back_up",
    "bring_in",
    "check",
    "taken_out",
    "weekly_backup",
    "write_export",
]
