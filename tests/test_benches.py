"""What the benches are told by name is there: a renamed measure must not leave a bench with nothing to do."""

from benchmarks.asked import LEAVES, NOT_ASKED
from orexis.core.coach.judging.table import JUDGED


def test_all_that_is_left_out_is_judged() -> None:
    judged = {criterion.measure for criterion in JUDGED}
    assert set(LEAVES) - judged == set()
    assert judged - set(LEAVES) - NOT_ASKED <= {"", "buzz_off"}  # notes and partials, and the mouthpiece
