"""Tunes from files are kept by their parts, so that part, octave and height can be chosen later."""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("own_figure", sa.Column("tune", sa.String(), nullable=True))


def downgrade() -> None:
    op.drop_column("own_figure", "tune")
