"""Commands that start Orexis: the server, the demo, the entry in the desktop's menu."""

from pathlib import Path

import click

from orexis import __version__
from orexis.cli.options import DATA
from orexis.cli.own_language import say


@click.command()
def version() -> None:
    """Print the version of this release."""
    print(__version__)


@click.command()
@click.option("--host", default="127.0.0.1")
@click.option("--port", default=8722)
@DATA
@click.option("--open", "open_browser", is_flag=True, help="Open the browser.")
@click.option("--stand", is_flag=True, help="Let devices on the network in, over HTTPS, by a passphrase.")
@click.option("--stand-port", default=8723, help="The port for devices on the network.")
@click.option(
    "--workers", type=click.IntRange(0, 16), help="Processes for judging and for files; 0: none of their own."
)
def serve(
    host: str, port: int, data: Path | None, open_browser: bool, stand: bool, stand_port: int, workers: int | None
) -> None:
    """Start Orexis and print its address."""
    from orexis.cli.server import WORKERS
    from orexis.cli.server import serve as start

    count = WORKERS if workers is None else workers
    if stand:
        from orexis.cli.standing import let_in

        let_in(data)
    start(host=host, port=port, data=data, open_browser=open_browser, workers=count, stand_port=stand_port)


@click.command()
@click.option("--port", default=8722)
@DATA
def demo(port: int, data: Path | None) -> None:
    """Start Orexis with made-up players and sessions."""
    from orexis.cli.server import serve as start
    from orexis.services.demo import demo_folder, fill

    folder = data or demo_folder()
    say("Preparing the demo …")
    fill(folder)
    start(host="127.0.0.1", port=port, data=folder, open_browser=False)


@click.group()
def desktop() -> None:
    """The entry in the desktop's menu."""


@desktop.command("install")
@click.option("--service", is_flag=True, help="Start Orexis with the computer, too.")
def desktop_install(service: bool) -> None:
    """Add Orexis to the menu, with its icon."""
    from orexis.cli.desktop import install

    for path in install(service=service):
        print(path)


@desktop.command("remove")
def desktop_remove() -> None:
    """Take away all that `orexis desktop install` wrote."""
    from orexis.cli.desktop import remove

    for path in remove():
        print(path)
