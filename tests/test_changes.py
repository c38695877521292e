"""What docs/changes.md promises is done for real, in a scratch copy."""

from pathlib import Path

from benchmarks.mutants import MUTANTS
from scripts.prove_changes import EXERCISE, EXPECTED, INSTRUMENT, MEASURE, driven, make, scratch


def test_an_exercise_a_judged_measure_and_an_instrument_take_what_the_page_says(tmp_path: Path) -> None:
    page = Path("docs/changes.md").read_text()
    place = scratch(tmp_path)
    for change in (EXERCISE, MEASURE, INSTRUMENT):
        assert f"| {change.what} | {change.most_files} |" in page
        make(change, place)
        assert len(change.files) <= change.most_files
    found = driven(place)
    assert {name: found[name] for name in EXPECTED} == EXPECTED


def test_every_mutant_finds_the_code_that_it_changes() -> None:
    for mutant in MUTANTS:
        assert mutant.old in (Path("src/orexis") / mutant.file).read_text(), f"{mutant.file}: {mutant.old}"
        assert mutant.new != mutant.old
