"""Columns, outcomes, reasons and standards by the names of the trade.

Stored JSON is brought up when it is read; summaries are made again when the record is next opened.
"""

from alembic import op

from orexis.core.earlier_names import OUTCOMES, REASONS, STANDARDS

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None

_COLUMNS = (
    ("player", "stage", "standard"),
    ("take", "stage", "standard"),
    ("take", "centre_cents", "pitch_error_cents"),
    ("take", "spread_cents", "pitch_wobble_cents"),
    ("take", "sag_cents", "pitch_drift_cents"),
    ("voice", "held", "clean"),
    ("rung_attempt", "held", "clean"),
    ("practice_day", "held", "clean"),
    ("family_day", "told", "stats_json"),
    ("measures_of_day", "told", "stats_json"),
    ("measures_of_week", "told", "stats_json"),
    ("notes_of_day", "told", "stats_json"),
    ("parcel", "told", "contents"),
)
_VALUES = (
    ("player", "standard", STANDARDS),
    ("take", "standard", STANDARDS),
    ("take", "outcome", OUTCOMES),
    ("take", "reason", REASONS),
    ("analysis", "outcome", OUTCOMES),
    ("analysis", "reason", REASONS),
)


def upgrade() -> None:
    for table, before, after in _COLUMNS:
        op.execute(f'ALTER TABLE "{table}" RENAME COLUMN "{before}" TO "{after}"')
    for table, column, names in _VALUES:
        for before, after in names.items():
            op.execute(f"UPDATE \"{table}\" SET {column} = '{after}' WHERE {column} = '{before}'")
    op.execute("DELETE FROM projection")


def downgrade() -> None:
    for table, column, names in _VALUES:
        for before, after in names.items():
            op.execute(f"UPDATE \"{table}\" SET {column} = '{before}' WHERE {column} = '{after}'")
    for table, before, after in _COLUMNS:
        op.execute(f'ALTER TABLE "{table}" RENAME COLUMN "{after}" TO "{before}"')
