"""What the measures of a day's takes were in the middle; filled when the record is next opened (rules 3 in `derived`)."""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "measure_day",
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
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

    op.create_index("ix_take_player_id_day", "take", ["player_id", "horn", "day"])


def downgrade() -> None:
    op.drop_index("ix_take_player_id_day", "take")
    op.drop_table("measure_day")
