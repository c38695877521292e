"""Tables and columns by the words that players use: instrument, exercise, fingering, range, goal.

Stored JSON is brought up when it is read; summaries are made again when the record is next opened.
"""

from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

_TABLES = (
    ("horn", "instrument"),
    ("own_figure", "own_exercise"),
    ("family_day", "exercise_type_day"),
    ("programme", "goal"),
    ("programme_day", "goal_day"),
    ("parcel", "exchange"),
    ("voice", "timbre"),
    ("rung_attempt", "range_attempt"),
    ("rung", "range_note"),
)
_COLUMNS = (
    ("player", "horn_id", "instrument_id"),
    ("instrument", "instrument", "catalogue_id"),
    ("own_exercise", "horn", "instrument"),
    ("own_exercise", "family", "exercise_type"),
    ("own_exercise", "figure", "exercise"),
    ("session", "horn", "instrument"),
    ("session", "family", "exercise_type"),
    ("take", "horn", "instrument"),
    ("take", "family", "exercise_type"),
    ("take", "figure", "exercise"),
    ("take", "figure_id", "exercise_id"),
    ("take", "figure_index", "exercise_index"),
    ("take", "tube", "fingering"),
    ("take", "schools", "approaches"),
    ("exercise_type_day", "horn", "instrument"),
    ("exercise_type_day", "family", "exercise_type"),
    ("goal", "horn", "instrument"),
    ("goal", "aim", "target"),
    ("goal_day", "programme_id", "goal_id"),
    ("timbre", "horn", "instrument"),
    ("timbre", "voice", "timbre"),
    ("range_attempt", "horn", "instrument"),
    ("range_note", "horn", "instrument"),
    ("range_note", "rung", "range_note"),
    ("range_day", "horn", "instrument"),
    ("practice_day", "horn", "instrument"),
    ("path_place", "horn", "instrument"),
    ("path_place", "family", "exercise_type"),
    ("measures_of_day", "horn", "instrument"),
    ("measures_of_week", "horn", "instrument"),
    ("notes_of_day", "horn", "instrument"),
)
_INDEXES = (
    ("instrument", "ix_horn_player_id", "ix_instrument_player_id", ("player_id",)),
    ("own_exercise", "ix_own_figure_player_id", "ix_own_exercise_player_id", ("player_id",)),
    ("goal", "ix_programme_player_id", "ix_goal_player_id", ("player_id",)),
    ("exchange", "ix_parcel_player_id", "ix_exchange_player_id", ("player_id",)),
    ("timbre", "ix_voice_player_id", "ix_timbre_player_id", ("player_id", "instrument", "device_key", "started_at")),
    ("range_attempt", "ix_rung_attempt_player_id", "ix_range_attempt_player_id", ("player_id", "instrument")),
    ("range_attempt", "ix_rung_attempt_take_id", "ix_range_attempt_take_id", ("take_id",)),
    (
        "take",
        "ix_take_player_id_family",
        "ix_take_player_id_exercise_type",
        ("player_id", "instrument", "exercise_type", "started_at"),
    ),
    (
        "take",
        "ix_take_player_id_figure_id",
        "ix_take_player_id_exercise_id",
        ("player_id", "instrument", "exercise_id", "started_at"),
    ),
)


def upgrade() -> None:
    for before, after in _TABLES:
        op.execute(f'ALTER TABLE "{before}" RENAME TO "{after}"')
    for table, before, after in _COLUMNS:
        op.execute(f'ALTER TABLE "{table}" RENAME COLUMN "{before}" TO "{after}"')
    for table, before, after, columns in _INDEXES:
        op.drop_index(before, table)
        op.create_index(after, table, list(columns))
    op.execute("UPDATE exchange SET kind = 'review_request' WHERE kind = 'hearing'")
    op.execute("DELETE FROM projection")


def downgrade() -> None:
    op.execute("UPDATE exchange SET kind = 'hearing' WHERE kind = 'review_request'")
    for table, before, after in reversed(_COLUMNS):
        op.execute(f'ALTER TABLE "{table}" RENAME COLUMN "{after}" TO "{before}"')
    for before, after in _TABLES:
        op.execute(f'ALTER TABLE "{after}" RENAME TO "{before}"')
    names = {(table, after): before for table, before, after in _COLUMNS}
    tables = {after: before for before, after in _TABLES}
    for table, before, after, columns in _INDEXES:
        op.drop_index(after, tables.get(table, table))
        op.create_index(before, tables.get(table, table), [names.get((table, name), name) for name in columns])
