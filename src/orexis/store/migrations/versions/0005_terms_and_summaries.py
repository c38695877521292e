"""What a session is judged by is kept with it; schools by id; summaries beside the takes.

Series leave the session's row for rows of their own. Columns that are derived from a take's snapshots are left empty
here, and made from them at the first start (rules 0 in `derived`). The note table's rows go: the measures hold them.
"""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

# The prose in which choices were kept, and their ids.
_CHOICES = {
    "loudness-upwards": {"grow": "grow", "even": "even", "ease": "ease"},
    "pressure": {
        "as little as seals": "least-seal",
        "none, on the open palm": "open-palm",
        "a firm seal": "firm-seal",
    },
    "double-pedals": {"in their usual setting": "usual-setting", "free, for recovery": "free-lips"},
    "slurs-led-by": {"air and tongue": "air-and-tongue", "jaw and lower lip": "jaw-and-lip"},
    "low-air": {"slow and wide": "slow-and-wide", "fast and firm": "fast-and-firm"},
    "climbing": {"a gate at each semitone": "gate", "triads to today's limit": "to-todays-limit"},
    "wide-slurs": {"tongue first": "tongue-first", "slur first": "slur-first"},
    "lips": {"firm at the corners, free in the centre": "free-centre", "firm and flat throughout": "firm-and-flat"},
    "corners": {"gathered": "gathered", "drawn back a little": "drawn-back"},
    "after-a-lost-rung": {
        "a step back": "step-back",
        "stop here for today": "stop-here",
        "one more try, then stop": "one-more-try",
    },
    "body": {"tongue, jaw and air": "body-named", "sound only": "sound-only"},
    "breath-inside": {"one breath, no new setting": "one-breath", "a nose breath, corners kept": "nose-breath"},
    "day-begins": {"buzzing": "buzzing", "long low tones": "low-tones"},
}


def upgrade() -> None:
    op.drop_table("note_measure")
    op.create_table(
        "session_block",
        sa.Column("session_id", sa.String(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("series", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["session_id"], ["session.id"], name=op.f("fk_session_block_session_id_session"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("session_id", "number", name=op.f("pk_session_block")),
    )
    _summaries()
    _session_columns()
    _convert()
    with op.batch_alter_table("session") as batch:
        batch.drop_column("routine")
    _take_columns()


def _session_columns() -> None:
    with op.batch_alter_table("session") as batch:
        batch.add_column(sa.Column("title", sa.String(), nullable=False, server_default=""))
        batch.add_column(sa.Column("terms", sa.String(), nullable=False, server_default="{}"))
        batch.add_column(sa.Column("summary", sa.String(), nullable=False, server_default="{}"))
        batch.add_column(sa.Column("owner", sa.String(), nullable=True))
        batch.add_column(sa.Column("rest_since", sa.DateTime(timezone=True), nullable=True))
        batch.add_column(sa.Column("played", sa.Boolean(), nullable=False, server_default="0"))
        batch.drop_index("ix_session_player_id")
        batch.drop_index("ix_session_started_at")
        batch.create_index("ix_session_player_id_started_at", ["player_id", "started_at"])


def _take_columns() -> None:
    words = ("player_id", "family", "figure_id", "title", "written", "tube", "outcome")
    numbers = ("centre_cents", "spread_cents", "sag_cents", "hold_s")
    with op.batch_alter_table("take") as batch:
        for name in words:
            batch.add_column(sa.Column(name, sa.String(), nullable=False, server_default=""))
        batch.add_column(sa.Column("reason", sa.String(), nullable=True))
        batch.add_column(sa.Column("day", sa.Integer(), nullable=False, server_default="0"))
        batch.add_column(sa.Column("playing_s", sa.Double(), nullable=False, server_default="0"))
        batch.add_column(sa.Column("load", sa.Double(), nullable=False, server_default="0"))
        for name in numbers:
            batch.add_column(sa.Column(name, sa.Double(), nullable=True))
        batch.drop_index("ix_take_session_id")
        batch.drop_index("ix_take_started_at")
    op.execute("UPDATE take SET player_id = (SELECT player_id FROM session WHERE session.id = take.session_id)")
    with op.batch_alter_table("take") as batch:
        batch.create_foreign_key("fk_take_player_id_player", "player", ["player_id"], ["id"], ondelete="CASCADE")
    op.create_index("ix_take_session_id_number", "take", ["session_id", "number"])
    op.create_index("ix_take_player_id_family", "take", ["player_id", "horn", "family", "started_at"])
    op.create_index("ix_take_player_id_figure_id", "take", ["player_id", "horn", "figure_id", "started_at"])
    op.create_index("ix_rung_attempt_take_id", "rung_attempt", ["take_id"])


def _summaries() -> None:
    def player(table: str) -> sa.ForeignKeyConstraint:
        return sa.ForeignKeyConstraint(
            ["player_id"], ["player.id"], name=op.f(f"fk_{table}_player_id_player"), ondelete="CASCADE"
        )

    op.create_table(
        "voice",
        sa.Column("take_id", sa.String(), nullable=False),
        sa.Column("player_id", sa.String(), nullable=False),
        sa.Column("horn", sa.String(), nullable=False),
        sa.Column("source", sa.String(), nullable=False),
        sa.Column("device_key", sa.String(), nullable=False),
        sa.Column("started_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("held", sa.Boolean(), nullable=False),
        sa.Column("away", sa.Double(), nullable=False),
        sa.Column("voice", sa.String(), nullable=False),
        player("voice"),
        sa.ForeignKeyConstraint(["take_id"], ["take.id"], name=op.f("fk_voice_take_id_take"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("take_id", name=op.f("pk_voice")),
    )
    op.create_index("ix_voice_player_id", "voice", ["player_id", "horn", "device_key", "started_at"])
    for table, key, columns in (
        ("rung", "midi", [sa.Column("rung", sa.String(), nullable=False)]),
        (
            "range_day",
            "day",
            [sa.Column("low", sa.Integer(), nullable=True), sa.Column("high", sa.Integer(), nullable=True)],
        ),
        (
            "practice_day",
            "day",
            [
                sa.Column("takes", sa.Integer(), nullable=False),
                sa.Column("held", sa.Integer(), nullable=False),
                sa.Column("playing_s", sa.Double(), nullable=False),
                sa.Column("load", sa.Double(), nullable=False),
            ],
        ),
    ):
        op.create_table(
            table,
            sa.Column("player_id", sa.String(), nullable=False),
            sa.Column("horn", sa.String(), nullable=False),
            sa.Column(key, sa.Integer(), nullable=False),
            *columns,
            player(table),
            sa.PrimaryKeyConstraint("player_id", "horn", key, name=op.f(f"pk_{table}")),
        )
    op.create_table(
        "derived",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("rules", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("name", name=op.f("pk_derived")),
    )
    op.execute("INSERT INTO derived (name, rules) VALUES ('takes', 0)")


def _by_id(schools: dict[str, str]) -> dict[str, str]:
    return {ask: _CHOICES.get(ask, {}).get(choice, choice) for ask, choice in schools.items()}


def _convert() -> None:
    connection = op.get_bind()

    def rows(query: str) -> list[Any]:
        return list(connection.execute(sa.text(query)).all())

    def change(query: str, **values: Any) -> None:
        connection.execute(sa.text(query), values)

    settings = {}
    for key, stage, text in rows("SELECT id, stage, settings FROM player"):
        kept = json.loads(text or "{}")
        kept["schools"] = _by_id(kept.get("schools", {}))
        settings[key] = (stage, kept)
        change("UPDATE player SET settings = :settings WHERE id = :id", settings=json.dumps(kept), id=key)
    for key, text in rows("SELECT id, schools FROM take"):
        change(
            "UPDATE take SET schools = :schools WHERE id = :id",
            schools=json.dumps(_by_id(json.loads(text or "{}"))),
            id=key,
        )
    horns = {
        (player, instrument): (part, a4, json.loads(setup or "{}"))
        for player, instrument, part, a4, setup in rows("SELECT player_id, instrument, part, a4_hz, setup FROM horn")
    }
    for key, player, horn, routine, state in rows("SELECT id, player_id, horn, routine, state FROM session"):
        _convert_session(
            change, key, horn, json.loads(routine), json.loads(state), settings[player], horns.get((player, horn))
        )


def _convert_session(
    change: Any, key: str, horn: str, routine: dict[str, Any], state: dict[str, Any], person: Any, own: Any
) -> None:
    stage, kept = person
    part, a4, setup = own or ("", 440.0, {})
    machine = state["machine"]
    lost = _CHOICES["after-a-lost-rung"]
    machine["lost_rung"] = lost.get(machine.get("lost_rung", ""), machine.get("lost_rung", "step-back"))
    terms = {
        "horn": horn, "part": part, "a4_hz": a4, "setup": setup, "stage": stage, "own_limits": kept.get("limits", {}),
        "schools": kept["schools"], "braces": kept.get("braces", False), "returning": kept.get("returning", False),
        "reference_take": kept.get("reference_take"),
    }  # fmt: skip
    blocks = routine["blocks"]
    title = blocks[0]["title"] if len(blocks) == 1 else f"Routine of {len(blocks)} blocks"
    change(
        "UPDATE session SET title = :title, terms = :terms, state = :state, owner = :owner, rest_since = :since WHERE id = :id",
        title=title,
        terms=json.dumps(terms),
        state=json.dumps(machine),
        owner=state.get("owner"),
        since=(state.get("rest_since") or "").replace("T", " ").replace("+00:00", "") or None,
        id=key,
    )
    series = list(enumerate(blocks)) + ([(-1, routine["check"])] if routine.get("check") else [])
    for number, block in series:
        change(
            "INSERT INTO session_block (session_id, number, series) VALUES (:id, :number, :series)",
            id=key,
            number=number,
            series=json.dumps(block),
        )


def downgrade() -> None:
    raise NotImplementedError("The copy made before this migration is the way back.")
