"""Figures of a player's own, and what is a player's own about a horn."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "own_figure",
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("params", sa.JSON(), nullable=False),
        sa.Column("figure", sa.JSON(), nullable=True),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f("fk_own_figure_player_id_player"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_own_figure")),
    )
    op.create_index(op.f("ix_own_figure_player_id"), "own_figure", ["player_id"])
    with op.batch_alter_table("horn") as batch:
        batch.add_column(sa.Column("setup", sa.JSON(), nullable=False, server_default="{}"))


def downgrade() -> None:
    with op.batch_alter_table("horn") as batch:
        batch.drop_column("setup")
    op.drop_index(op.f("ix_own_figure_player_id"), "own_figure")
    op.drop_table("own_figure")
