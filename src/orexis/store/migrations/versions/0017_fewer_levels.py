"""Levels of interval patterns, lip trills, two-partial slurs and scales by their new numbers: fewer and wider ones.

Where players stand is worked out again from their takes when the record is next opened.
"""

from alembic import op

from orexis.store.earlier_levels import renumber_levels

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    renumber_levels(op.get_bind())


def downgrade() -> None:
    """The numbers stay: what an earlier release reads is a level within its own."""
