"""What a release writes: the changelog's heading, its notes, sums that are read by others."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from scripts.release import parsed, released, sums, with_version

TEXT = "# Changelog\n\n## 0.2.0 – unreleased\n\n### Practice\n\n- One thing.\n\n## 0.1.0 – 2026-01-01\n\n- Older.\n"


def test_the_unreleased_part_becomes_the_release_and_its_notes() -> None:
    text, notes = released(TEXT, "0.2.0", "2026-12-01")
    assert "## 0.2.0 – 2026-12-01\n" in text
    assert "unreleased" not in text
    assert notes == "### Practice\n\n- One thing.\n"
    with pytest.raises(ValueError, match="no unreleased part"):
        released(text, "0.3.0", "2026-12-02")
    with pytest.raises(ValueError, match="says nothing"):
        released("## 0.2.0 – unreleased\n\n## 0.1.0 – 2026-01-01\n", "0.2.0", "2026-12-01")
    assert released(Path("CHANGELOG.md").read_text(), "0.1.0", "2026-12-01")[1].startswith("### ")


def test_versions_are_semantic_and_in_order() -> None:
    assert parsed("0.10.2") > parsed("0.9.11")
    for wrong in ("1.0", "v1.0.0", "1.0.0-rc1", "01.0.0", ""):
        with pytest.raises(ValueError, match="three numbers"):
            parsed(wrong)


def test_sums_are_checked_by_other_programs(tmp_path: Path) -> None:
    files = [tmp_path / name for name in ("a.whl", "b.zip")]
    for number, file in enumerate(files):
        file.write_bytes(bytes([number]) * 1000)
    (tmp_path / "SHA256SUMS").write_text(sums(files))
    assert subprocess.run(["sha256sum", "--check", "SHA256SUMS"], cwd=tmp_path, capture_output=True).returncode == 0
    files[1].write_bytes(b"changed")
    assert subprocess.run(["sha256sum", "--check", "SHA256SUMS"], cwd=tmp_path, capture_output=True).returncode == 1


def test_the_version_is_set_where_it_stands() -> None:
    project = Path("pyproject.toml").read_text()
    changed = with_version(project, "version", "9.8.7")
    assert [line for line in changed.splitlines() if line not in project.splitlines()] == ['version = "9.8.7"']
    assert with_version(Path("src/orexis/__init__.py").read_text(), "__version__", "9.8.7").endswith('"9.8.7"\n')
    with pytest.raises(ValueError, match="No version"):
        with_version("name = 'x'", "version", "9.8.7")


def test_the_container_is_made_of_what_is_built_and_starts_what_there_is() -> None:
    lines = Path("Containerfile").read_text().replace("\\\n", " ").splitlines()
    told = [tuple(line.split(maxsplit=1)) for line in lines if line and not line.startswith("#")]
    assert told[0] == ("FROM", "docker.io/library/debian:bookworm-slim"), "the release whose Python runs the package"
    assert "Depends: python3.11" in Path("scripts/make-deb").read_text()
    copied = next(words.split()[0] for name, words in told if name == "COPY")
    assert copied == "dist/orexis_*.deb"
    command = json.loads(next(words for name, words in told if name == "CMD"))
    options = subprocess.run(
        [str(Path(sys.executable).parent / "orexis"), command[1], "--help"], capture_output=True, text=True
    ).stdout
    assert command[0] == "orexis"
    assert all(word in options for word in command[2:] if word.startswith("--"))
