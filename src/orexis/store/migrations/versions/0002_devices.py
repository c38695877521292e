"""Devices and what their check found."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "device",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("facts", sa.JSON(), nullable=False),
        sa.Column("checked_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("delay_s", sa.Double(), nullable=True),
        sa.Column("found", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_device")),
    )


def downgrade() -> None:
    op.drop_table("device")
