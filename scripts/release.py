"""Make a release: `python -m scripts.release 0.2.0 [--tested] [--sign KEY]`.

Sets the version and the changelog's heading, runs `make test` (left out with --tested), builds the wheel and the API pages, writes notes and SHA-256
sums beside them in `dist/`, signs the sums where a GnuPG key is named, commits and tags. It pushes nothing.
"""

import argparse
import datetime
import hashlib
import re
import shutil
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).parent.parent
UNRELEASED = "unreleased"
_VERSION = re.compile(r"(0|[1-9]\d*)\.(0|[1-9]\d*)\.(0|[1-9]\d*)")


def parsed(version: str) -> tuple[int, int, int]:
    """Return the three numbers of a semantic version; ValueError where it is none."""
    match = _VERSION.fullmatch(version)
    if match is None:
        raise ValueError(f"{version} is no version: write three numbers, as in 0.2.0.")
    major, minor, patch = match.groups()
    return int(major), int(minor), int(patch)


def released(changelog: str, version: str, day: str) -> tuple[str, str]:
    """Return the changelog with its unreleased part under a version and a day, and that part as notes; ValueError without one."""
    heading = re.search(rf"^## \S+ – {UNRELEASED}$", changelog, re.MULTILINE)
    if heading is None:
        raise ValueError("CHANGELOG.md has no unreleased part.")
    rest = changelog[heading.end() :]
    following = re.search(r"^## ", rest, re.MULTILINE)
    notes = rest[: following.start()] if following else rest
    if not notes.strip():
        raise ValueError("CHANGELOG.md says nothing of this release.")
    return f"{changelog[: heading.start()]}## {version} – {day}{rest}", notes.strip() + "\n"


def with_version(text: str, assignment: str, version: str) -> str:
    """Return the text with the first `assignment = "..."` at the start of a line set; ValueError where there is none."""
    out, count = re.subn(rf'^{assignment} = "[^"]+"', f'{assignment} = "{version}"', text, count=1, flags=re.MULTILINE)
    if not count:
        raise ValueError(f"No {assignment} is set there.")
    return out


def sums(files: list[Path]) -> str:
    """Return lines as `sha256sum --check` reads them."""
    return "".join(f"{hashlib.sha256(file.read_bytes()).hexdigest()}  {file.name}\n" for file in files)


def main() -> None:
    """Make it, or say why not."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("version")
    read.add_argument("--tested", action="store_true", help="The tests ran already.")
    read.add_argument("--sign", metavar="KEY", help="A GnuPG key for the sums.")
    given = read.parse_args()
    if _out("git", "status", "--porcelain") or _out("git", "branch", "--show-current") != "main":
        raise ValueError("A release is made on main, with nothing uncommitted.")
    tag = f"v{given.version}"
    earlier = [parsed(name[1:]) for name in _out("git", "tag", "--list", "v*").split()]
    latest = max(earlier, default=(0, 0, 0))
    if parsed(given.version) <= latest:
        raise ValueError(f"{given.version} does not come after {'.'.join(map(str, latest))}.")
    day = datetime.datetime.now(tz=datetime.UTC).date().isoformat()
    changelog, notes = released((ROOT / "CHANGELOG.md").read_text(), given.version, day)
    (ROOT / "CHANGELOG.md").write_text(changelog)
    for file, assignment in (("pyproject.toml", "version"), ("src/orexis/__init__.py", "__version__")):
        (ROOT / file).write_text(with_version((ROOT / file).read_text(), assignment, given.version))
    if not given.tested:
        _run("make", "test")
    shutil.rmtree(ROOT / "dist", ignore_errors=True)
    _run("make", "wheel", "docs")
    shutil.make_archive(str(ROOT / "dist" / f"orexis-{given.version}-api"), "zip", ROOT / "build" / "docs")
    (ROOT / "dist" / "NOTES.md").write_text(notes)
    (ROOT / "dist" / "SHA256SUMS").write_text(sums(sorted((ROOT / "dist").glob("orexis-*"))))
    if given.sign:
        _run("gpg", "--local-user", given.sign, "--detach-sign", "--armor", "dist/SHA256SUMS")
    _run("git", "commit", "-qam", f"Release {given.version}")
    _run("git", "tag", "-a", tag, "-m", f"Orexis {given.version}")
    print(*sorted(path.name for path in (ROOT / "dist").iterdir()), sep="\n")


def _run(*command: str) -> None:
    subprocess.run(command, cwd=ROOT, check=True)


def _out(*command: str) -> str:
    return subprocess.run(command, cwd=ROOT, check=True, capture_output=True, text=True).stdout.strip()


if __name__ == "__main__":
    try:
        main()
    except (ValueError, subprocess.CalledProcessError) as error:
        sys.exit(f"release: {error}")
