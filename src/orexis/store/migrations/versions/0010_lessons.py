"""Lessons and hearings; words at moments of a take; guests; words on a kept figure."""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("player", sa.Column("guest", sa.Boolean(), server_default=sa.text("0"), nullable=False))
    op.add_column("own_figure", sa.Column("words", sa.String(), server_default="", nullable=False))
    op.create_table(
        "mark",
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("take_id", sa.String(), nullable=False),
        sa.Column("at_s", sa.Float(), nullable=True),
        sa.Column("nearer", sa.Boolean(), nullable=False),
        sa.Column("words", sa.String(), nullable=False),
        sa.Column("by", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(["take_id"], ["take.id"], name=op.f("fk_mark_take_id_take"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mark")),
    )
    op.create_index(op.f("ix_mark_take_id"), "mark", ["take_id"])
    op.create_table(
        "parcel",
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("way", sa.String(), nullable=False),
        sa.Column("sender", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("told", sa.String(), nullable=False),
        sa.Column("taken", sa.String(), server_default="[]", nullable=False),
        sa.Column("answer", sa.String(), nullable=True),
        sa.Column("answered_by", sa.String(), nullable=True),
        sa.Column("answered_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f("fk_parcel_player_id_player"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_parcel")),
    )
    op.create_index(op.f("ix_parcel_player_id"), "parcel", ["player_id"])


def downgrade() -> None:
    op.drop_table("parcel")
    op.drop_table("mark")
    op.drop_column("own_figure", "words")
    op.drop_column("player", "guest")
