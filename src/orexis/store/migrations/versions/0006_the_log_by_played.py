"""The log's pages and their number are read from an index alone, however long the record."""

from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_index("ix_session_player_id_played", "session", ["player_id", "played", "started_at"])


def downgrade() -> None:
    op.drop_index("ix_session_player_id_played", "session")
