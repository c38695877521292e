"""Letting devices on the network in, from the command line: the passphrase is asked for where there is none."""

import sys
from pathlib import Path

import click

from orexis.cli.own_language import own
from orexis.cli.server import data_folder
from orexis.errors import InputError
from orexis.services.standing import Pairing


def let_in(data: Path | None) -> None:
    """Switch it on; the server that starts next listens on the network, too."""
    pairing = Pairing((data or data_folder()) / "stand")
    if not pairing.has_passphrase:
        if not sys.stdin.isatty():
            raise InputError("There is no passphrase yet: start once from a terminal, or set it in the settings.")
        pairing.set_passphrase(
            click.prompt(
                own("Passphrase for devices"),
                hide_input=True,
                confirmation_prompt=own("Repeat for confirmation"),
                err=True,
            )
        )
    pairing.switch(True)
