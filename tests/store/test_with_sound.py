"""A take that was played to a loudspeaker: its page shows the player, and its sound is kept as it was."""

from contextlib import closing
from pathlib import Path

import numpy as np

from benchmarks.with_sound import Beside, beside_it
from orexis.core.player import play
from orexis.files.soundfiles import read_sound
from orexis.services.application import Application


def test_the_lanes_of_a_kept_take_show_the_player_alone(tmp_path: Path) -> None:
    with closing(Application(tmp_path)) as house:
        player = house.players.add(name="A", standard="developing", instrument="trumpet-bb")
        session = house.sessions.open(player.id, "tune", {"sounds": "chords"})
        played, _ = play(session.exercise, seed=3)
        sound = beside_it(played, session.exercise, Beside(-6.0))
        take = house.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device={})
        shown = house.log.trace(take.id)
        early = session.exercise.alone_until_s
        assert not shown.part(0.3, early).voiced.any()
        assert shown.part(early, session.exercise.duration_s).voiced.mean() > 0.8
        kept = read_sound(house.record.sound_path(take.id)).samples
        assert np.allclose(kept, np.clip(sound.samples, -1.0, 1.0), atol=1e-4)
        assert "loudspeaker was almost as loud as you" in (take.verdict.hidden or "")
