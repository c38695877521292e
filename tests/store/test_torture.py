"""A short run of what `python -m benchmarks.torture` does for an hour: anything at any moment, and nothing is lost."""

from benchmarks.torture.__main__ import torture


def test_nothing_is_lost_whatever_happens() -> None:
    torture(1, records=2, steps=12)
