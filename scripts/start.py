"""Starts Orexis from the folder that this file lies in, with all that it asks for beside it."""

from orexis.cli.main import run

if __name__ == "__main__":
    run()
