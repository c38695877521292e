"""Days by family, standings on paths, programmes, own routines; filled when the record is next opened (rules 4)."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def _player() -> sa.Column:
    return sa.Column("player_id", sa.String(), nullable=False)


def _of_player(table: str) -> sa.ForeignKeyConstraint:
    name = op.f(f"fk_{table}_player_id_player")
    return sa.ForeignKeyConstraint(["player_id"], ["player.id"], name=name, ondelete="CASCADE")


def upgrade() -> None:
    op.create_table(
        "family_day",
        _player(),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("told", sa.String(), nullable=False),
        _of_player("family_day"),
        sa.PrimaryKeyConstraint("player_id", "horn", "day", "family", name=op.f("pk_family_day")),
    )
    op.create_table(
        "path_place",
        _player(),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("family", sa.String(), nullable=False),
        sa.Column("standing", sa.String(), nullable=True),
        sa.Column("by_hand", sa.String(), server_default="[]", nullable=False),
        _of_player("path_place"),
        sa.PrimaryKeyConstraint("player_id", "horn", "family", name=op.f("pk_path_place")),
    )
    op.create_table(
        "programme",
        sa.Column("id", sa.String(), nullable=False),
        _player(),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("aim", sa.String(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("began", sa.Integer(), nullable=False),
        sa.Column("ended", sa.Integer(), nullable=True),
        _of_player("programme"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_programme")),
    )
    op.create_index(op.f("ix_programme_player_id"), "programme", ["player_id"])
    op.create_table(
        "programme_day",
        sa.Column("programme_id", sa.String(), nullable=False),
        sa.Column("day", sa.Integer(), nullable=False),
        sa.Column("position", sa.Double(), nullable=False),
        sa.ForeignKeyConstraint(
            ["programme_id"], ["programme.id"], name=op.f("fk_programme_day_programme_id_programme"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("programme_id", "day", name=op.f("pk_programme_day")),
    )
    op.create_table(
        "own_routine",
        sa.Column("id", sa.String(), nullable=False),
        _player(),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("blocks", sa.String(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        _of_player("own_routine"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_own_routine")),
    )
    op.create_index(op.f("ix_own_routine_player_id"), "own_routine", ["player_id"])
    op.add_column("take", sa.Column("fact", sa.String(), nullable=True))
    op.add_column("practice_day", sa.Column("kind", sa.String(), nullable=True))


def downgrade() -> None:
    op.drop_column("practice_day", "kind")
    op.drop_column("take", "fact")
    for table in ("own_routine", "programme_day", "programme", "path_place", "family_day"):
        op.drop_table(table)
