"""The command line, one module for each command. Errors go to stderr in one line, exit code 2; `check` exits 1 when a finding says stop.

Commands load what they need when they run: a shell that only asks for help, or sends one reading, does not wait for geometry and documents.
"""

import argparse
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import NoReturn

from omnipel import __version__
from omnipel.cli import card, check, draft, export, new, outline, schema, tape
from omnipel.cli.usage import UsageError, said
from omnipel.core.words.phrases import Name, tr

COMMANDS = (draft, check, export, outline, tape, card, schema, new)


class _Parser(argparse.ArgumentParser):
    """Says what is wrong in one line."""

    def error(self, message: str) -> NoReturn:
        raise UsageError(tr("{message}; see {program} --help", message=Name(message), program=Name(self.prog)))


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; its exit code."""
    try:
        asked = _parser().parse_args(arguments)
        return int(asked.run(asked))
    except UsageError as error:
        print(f"omnipel: {said(error.phrase)}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        sys.stderr.close()
        return 2
    except Exception as error:  # only what the user can mend is said in a line; our own bugs keep their traceback
        from omnipel.shop.document import DocumentError
        from omnipel.shop.store import StoreError

        if not isinstance(error, DocumentError | StoreError | OSError):
            raise
        print(f"omnipel: {' '.join(str(error).split())}", file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="omnipel", description=said(tr("Drafts the panels of a fitted cover, and says whether it will go on.")))
    parser.add_argument("--version", action="version", version=f"omnipel {__version__}")
    parser.add_argument("--demo", action="store_true", help=said(tr("open the bench on a fresh copy of the sample shop")))
    parser.add_argument(
        "--shop", type=Path, metavar="PATH", help=said(tr("the shop's database, instead of the one in your data folder"))
    )
    parser.set_defaults(run=_bench)
    commands = parser.add_subparsers(metavar="COMMAND", parser_class=_Parser)
    for command in COMMANDS:
        command.add(commands)
    return parser


def _bench(asked: argparse.Namespace) -> int:
    from omnipel.bench.app import run

    return run(demo=asked.demo, shop=asked.shop)
