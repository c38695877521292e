"""Sessions of several blocks, a player's settings, and tries at rungs.

A session's series becomes a routine of one block. Where its machine stood is kept as takes of that block; a session that
was under way is ended, its takes are not touched.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    with op.batch_alter_table("player") as batch:
        batch.add_column(sa.Column("settings", sa.JSON(), nullable=False, server_default="{}"))
    with op.batch_alter_table("take") as batch:
        batch.add_column(sa.Column("schools", sa.JSON(), nullable=False, server_default="{}"))
    op.create_table(
        "rung_attempt",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("take_id", sa.String(), nullable=True),
        sa.Column("midi", sa.Integer(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
        sa.Column("held", sa.Boolean(), nullable=False),
        sa.Column("sounded_s", sa.Double(), nullable=False),
        sa.Column("connected", sa.Boolean(), nullable=False),
        sa.Column("from_midi", sa.Integer(), nullable=True),
        sa.Column("match", sa.Double(), nullable=True),
        sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f("fk_rung_attempt_player_id_player"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["take_id"], ["take.id"], name=op.f("fk_rung_attempt_take_id_take"), ondelete="SET NULL"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_rung_attempt")),
    )
    op.create_index(op.f("ix_rung_attempt_player_id"), "rung_attempt", ["player_id", "horn"])
    with op.batch_alter_table("session") as batch:
        batch.alter_column("series", new_column_name="routine")
    _convert()


def _convert() -> None:
    connection = op.get_bind()
    for key, text, state in connection.execute(sa.text("SELECT id, routine, state FROM session")).all():
        series, old = json.loads(text), json.loads(state)
        machine = old["machine"]
        plan = {
            "family": series["family"],
            "title": series["title"],
            "place": "",
            "load": "easy",
            "advance": "in-order",
            "figures": len(series["figures"]),
        }
        made: dict[str, Any] = {
            "plan": [plan],
            "figure_index": min(machine["figure_index"], len(series["figures"]) - 1),
            "phase": "done",
            "takes": [take | {"block": 0} for take in machine["takes"]],
        }
        routine = {"blocks": [series], "check": None}
        connection.execute(
            sa.text("UPDATE session SET routine = :routine, state = :state WHERE id = :id"),
            {
                "routine": json.dumps(routine),
                "state": json.dumps({"machine": made, "owner": None}),
                "id": key,
            },
        )


def downgrade() -> None:
    with op.batch_alter_table("session") as batch:
        batch.alter_column("routine", new_column_name="series")
    op.drop_index(op.f("ix_rung_attempt_player_id"), "rung_attempt")
    op.drop_table("rung_attempt")
    with op.batch_alter_table("take") as batch:
        batch.drop_column("schools")
    with op.batch_alter_table("player") as batch:
        batch.drop_column("settings")
