"""Tunes from files are kept by their parts, so that part, octave and height can be chosen later; ranges by day in both ways."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None
_ENDS = ("alone_low", "alone_high", "joined_low", "joined_high")


def upgrade() -> None:
    op.add_column("own_figure", sa.Column("tune", sa.String(), nullable=True))
    for name in _ENDS:
        op.add_column("range_day", sa.Column(name, sa.Integer(), nullable=True))


def downgrade() -> None:
    for name in _ENDS:
        op.drop_column("range_day", name)
    op.drop_column("own_figure", "tune")
