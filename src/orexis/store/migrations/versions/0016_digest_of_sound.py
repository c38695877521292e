"""A digest of each take's sound as it was kept, so that damage is found."""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("take", sa.Column("sound_sha256", sa.String(), nullable=True))


def downgrade() -> None:
    op.drop_column("take", "sound_sha256")
