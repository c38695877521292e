"""The command line. Results go to stdout and nothing else does; an error is one line on stderr and exit code 1."""

import sys

import click

from orexis.cli import keeping, listening, playing, starting
from orexis.cli.own_language import in_own_language, own, say
from orexis.errors import OrexisError


class _InOrder(click.Group):
    """Lists its commands in the order in which they were added."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return list(self.commands)


@click.group(cls=_InOrder, invoke_without_command=True, context_settings={"show_default": True})
@click.pass_context
def app(context: click.Context) -> None:
    """Practice for brass players: it listens, measures, and plans what comes next. Without a command: start it and open the browser."""
    if context.invoked_subcommand is None:
        from orexis.cli.server import open_or_serve

        open_or_serve()


for _command in (
    starting.version,
    starting.serve,
    starting.demo,
    keeping.export_all,
    keeping.import_all,
    keeping.backup,
    keeping.restore,
    keeping.check,
    listening.trace,
    listening.listen_to,
    playing.show_instrument,
    playing.make_exercise,
    playing.read_tune_file,
    playing.rehearse,
    playing.play_exercise,
    starting.desktop,
):
    app.add_command(_command)


def run() -> None:
    """Entry point: a deliberate error is one clear line, as is a wrong use."""
    try:
        sys.exit(in_own_language(app)(standalone_mode=False) or 0)
    except OrexisError as error:
        say(f"orexis: {own(str(error))}")
        sys.exit(1)
    except click.ClickException as error:
        told = error.format_message()
        say(told if "\n" in told else f"orexis: {own(told)}")  # a command without its own command gives its help
        sys.exit(error.exit_code)
    except click.Abort:
        sys.exit(1)


if __name__ == "__main__":
    run()
