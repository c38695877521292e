"""Headless Chromium, the same for the tests, the pictures and the benchmarks."""

from pathlib import Path

from playwright.sync_api import Browser, Playwright

_PROGRAMS = (
    Path("/usr/bin/chromium-headless-shell"),  # without a window system: two thirds of the work
    Path("/usr/bin/chromium"),
)
_FLAGS = (
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--autoplay-policy=no-user-gesture-required",
)


def launch(playwright: Playwright, *flags: str) -> Browser:
    """Start a browser of its own, with more flags."""
    program = next(path for path in _PROGRAMS if path.exists() or path is _PROGRAMS[-1])
    return playwright.chromium.launch(executable_path=program, args=[*_FLAGS, *flags])
