"""Notes by day, for telling the horn from the player, filled when the record is next opened (rules 6); words on a session."""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index(
        "ix_take_thrown_away", "take", ["player_id", "discarded_at"], sqlite_where=sa.text("discarded_at IS NOT NULL")
    )
    op.add_column("take", sa.Column("sound_gone_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("session", sa.Column("remark", sa.String(), server_default="", nullable=False))
    op.create_table(
        "note_day",
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
        sa.Column("midi", sa.Integer(), nullable=False),
        sa.Column("tube", sa.String(), nullable=False),
        sa.Column("partial", sa.Integer(), nullable=False),
        sa.Column("told", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f("fk_note_day_player_id_player"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("player_id", "horn", "day", "midi", "tube", "partial", name=op.f("pk_note_day")),
    )


def downgrade() -> None:
    op.drop_index("ix_take_thrown_away", "take")
    op.drop_column("session", "remark")
    op.drop_column("take", "sound_gone_at")
    op.drop_table("note_day")
