"""An entry in the desktop's menu and, where asked, a service of the user's own: files in the places that freedesktop.org names.

Desktop Entry Specification 1.5, Icon Theme Specification 0.13, XDG Base Directory Specification 0.8; systemd.service(5) for the service.
"""

import os
import shutil
import subprocess
import sys
from pathlib import Path

from orexis.core.messages import tell
from orexis.errors import StorageError

_ICONS = {192: "icon-192.png", 512: "icon-512.png"}
_SERVICE = "orexis.service"


def install(*, service: bool = False) -> list[Path]:
    """Write the entry, its icons and, where asked, the service; StorageError where that cannot be. Return what was written."""
    command = _command()
    web = Path(__file__).parent.parent / "web"
    written = []
    try:
        for size, name in _ICONS.items():
            icon = _icon(size)
            icon.parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(web / name, icon)
            written.append(icon)
        written.append(_written(_entry_file(), entry_text(command)))
        if service:
            written.append(_written(_unit(), _unit_text(command)))
            _systemctl("enable", "--now", _SERVICE)
    except OSError as error:
        raise StorageError(
            tell("{path} cannot be written: {why}.", path=error.filename or data_home(), why=error.strerror)
        ) from error
    return written


def remove() -> list[Path]:
    """Take away what `install` writes, as far as it is there. Return what was taken away."""
    if _unit().exists():
        _systemctl("disable", "--now", _SERVICE)
    there = [path for path in (*map(_icon, _ICONS), _entry_file(), _unit()) if path.exists()]
    for path in there:
        path.unlink()
    return there


def _command() -> str:
    """How this Orexis is started: its own command beside the Python that runs now, or that Python with the module."""
    own = Path(sys.executable).parent / "orexis"
    return f'"{own}"' if own.exists() else f'"{sys.executable}" -m orexis.cli.main'


def _written(path: Path, text: str) -> Path:
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(text)
    return path


def entry_text(command: str) -> str:
    """The menu entry that starts this command."""
    return f"""[Desktop Entry]
Type=Application
Version=1.5
Name=Orexis
Comment=Practice for brass players
Exec={command}
Icon=orexis
Terminal=false
Categories=Education;Music;AudioVideo;
Keywords=practice;brass;tuner;metronome;
"""


def _unit_text(command: str) -> str:
    return f"""[Unit]
Description=Orexis, practice for brass players

[Service]
ExecStart={command} serve
Restart=on-failure

[Install]
WantedBy=default.target
"""


def data_home() -> Path:
    """The user's folder for data."""
    return Path(os.environ.get("XDG_DATA_HOME") or Path.home() / ".local" / "share")


def _entry_file() -> Path:
    return data_home() / "applications" / "orexis.desktop"


def _icon(size: int) -> Path:
    return data_home() / "icons" / "hicolor" / f"{size}x{size}" / "apps" / "orexis.png"


def _unit() -> Path:
    home = Path(os.environ.get("XDG_CONFIG_HOME") or Path.home() / ".config")
    return home / "systemd" / "user" / _SERVICE


def _systemctl(*words: str) -> None:
    """Tell the user's service manager, where there is one; without it the file waits for the next login."""
    try:
        subprocess.run(["systemctl", "--user", *words], check=False, capture_output=True, timeout=30)
    except (OSError, subprocess.TimeoutExpired):
        return
