"""Versions of the summaries, and what a take's session had played before it; summaries are made again when the record is next opened.

Since when takes that were thrown away go for good moves to a table of its own.
"""

import sqlalchemy as sa
from alembic import op

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "projection",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_projection")),
    )
    op.create_table(
        "upkeep",
        sa.Column("task", sa.String(), nullable=False),
        sa.Column("since", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("task", name=op.f("pk_upkeep")),
    )
    op.execute("INSERT INTO upkeep (task, since) SELECT 'trash', rules FROM derived WHERE name = 'trash'")
    op.drop_table("derived")
    op.add_column("take", sa.Column("played_before_s", sa.Double(), nullable=False, server_default="0"))
    op.execute(
        "UPDATE own_figure SET figure = NULL WHERE figure = 'null'"
    )  # as the fourth version of the tables wrote it
    op.execute(
        "UPDATE take SET played_before_s = coalesce((SELECT sum(other.playing_s) FROM take AS other "
        "WHERE other.session_id = take.session_id AND other.number < take.number), 0)"
    )


def downgrade() -> None:
    op.drop_column("take", "played_before_s")
    op.create_table(
        "derived",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("rules", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_derived")),
    )
    op.execute("INSERT INTO derived (name, rules) SELECT task, since FROM upkeep")
    op.drop_table("upkeep")
    op.drop_table("projection")
