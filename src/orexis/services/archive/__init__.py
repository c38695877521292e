"""Moving house: everything out into one file, and in again; copies of the record; looking whether all is well."""

from orexis.services.archive.backup import BackupCopy, back_up, copies, weekly_backup
from orexis.services.archive.check import RecordFault, check
from orexis.services.archive.exporter import ExportSummary, taken_out, write_export
from orexis.services.archive.importer import ImportSummary, bring_in
from orexis.services.archive.job import Job, JobProgress
from orexis.services.archive.restore import Restored, restore

__all__ = [
    "BackupCopy",
    "ExportSummary",
    "ImportSummary",
    "Job",
    "JobProgress",
    "RecordFault",
    "Restored",
    "back_up",
    "bring_in",
    "check",
    "copies",
    "restore",
    "taken_out",
    "weekly_backup",
    "write_export",
]
