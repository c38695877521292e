"""Measures and notes of a day in one row each, measures of a week beside them; filled when the record is next opened (rules 9).

What pages of endurance read of a sitting lies in an index of its own.
"""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

_ENDURANCE = (
    "json_extract(summary, '$.checks', '$.check_minutes', '$.stopped', '$.tiring_after_s', "
    "'$.playing_s', '$.lasted_s', '$.load', '$.high_load')"
)
_TABLES = ("measures_of_day", "measures_of_week", "notes_of_day")


def upgrade() -> None:
    op.add_column("session", sa.Column("endurance", sa.String(), sa.Computed(_ENDURANCE, persisted=False)))
    columns = ["player_id", "horn", "played", "started_at", "endurance"]
    op.create_index("ix_session_endurance", "session", columns)
    op.drop_table("measure_day")
    op.drop_table("note_day")
    for name in _TABLES:
        op.create_table(
            name,
            sa.Column("player_id", sa.String(), nullable=False),
            sa.Column("horn", sa.String(), nullable=False),
            sa.Column("day", sa.Integer(), nullable=False),
            sa.Column("told", sa.String(), nullable=False),
            sa.ForeignKeyConstraint(
                ["player_id"], ["player.id"], name=op.f(f"fk_{name}_player_id_player"), ondelete="CASCADE"
            ),
            sa.PrimaryKeyConstraint("player_id", "horn", "day", name=op.f(f"pk_{name}")),
        )


def downgrade() -> None:
    """The older tables come back empty: they are summaries, made anew by the release that reads them."""
    op.drop_index("ix_session_endurance", "session")
    op.drop_column("session", "endurance")
    for name in _TABLES:
        op.drop_table(name)
    keys = [
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
    ]
    op.create_table(
        "measure_day",
        *keys,
        sa.Column("measure", sa.String(), nullable=False),
        sa.Column("takes", sa.Integer(), nullable=False),
        sa.Column("low", sa.Double(), nullable=False),
        sa.Column("middle", sa.Double(), nullable=False),
        sa.Column("high", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f("fk_measure_day_player_id_player"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("player_id", "horn", "day", "measure", name=op.f("pk_measure_day")),
    )
    op.create_table(
        "note_day",
        *(column.copy() for column in keys),
        sa.Column("midi", sa.Integer(), nullable=False),
        sa.Column("tube", sa.String(), nullable=False),
        sa.Column("partial", sa.Integer(), nullable=False),
        sa.Column("told", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f("fk_note_day_player_id_player"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("player_id", "horn", "day", "midi", "tube", "partial", name=op.f("pk_note_day")),
    )
