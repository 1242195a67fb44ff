"""The command line, one module for each command. Errors go to stderr in one line, exit code 2; `check` exits 1 when a finding says stop.

Commands load what they need when they run: a shell that only asks for help, or sends one reading, does not wait for geometry and documents.
"""

import argparse
import io
import os
import sys
import traceback
from collections.abc import Sequence
from pathlib import Path
from typing import Final, NoReturn

from omnipel import __version__
from omnipel.cli import (
    advise,
    card,
    check,
    cut,
    cutter,
    desktop,
    draft,
    export,
    fits,
    lay,
    new,
    order,
    outline,
    readings,
    schema,
    shop,
    takeoff,
    tape,
)
from omnipel.cli import open as opening
from omnipel.cli.usage import UsageError, said
from omnipel.core.words.phrases import Name, Refusal, tr
from omnipel.tongues import arguments_speak

OUR_FAULT: Final = 70
"""Not 1: that is what a script takes for *do not cut*."""
COMMANDS = (
    draft,
    check,
    lay,
    takeoff,
    order,
    advise,
    fits,
    export,
    outline,
    readings,
    cut,
    cutter,
    tape,
    card,
    schema,
    new,
    shop,
    desktop,
    opening,
)


class _Parser(argparse.ArgumentParser):
    """Says what is wrong in one line."""

    def error(self, message: str) -> NoReturn:
        raise UsageError(tr("{message}; see {program} --help", message=Name(message), program=Name(self.prog)))


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; its exit code: 0 done, 1 what was checked says stop, 2 it could not be done, 70 a fault of our own, 130 broken off."""
    for stream in (sys.stdout, sys.stderr):
        if isinstance(stream, io.TextIOWrapper):  # a terminal that cannot show a sign gets a plain one
            stream.reconfigure(errors="plainly")
    try:
        typed = sys.argv[1:] if arguments is None else arguments
        asked = whole_parser().parse_args(opening.with_word(typed, [command.__name__.rpartition(".")[2] for command in COMMANDS]))
        return int(asked.run(asked))
    except Refusal as error:
        return _refused(said(error.phrase))
    except BrokenPipeError:  # whoever read has seen enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 2
    except KeyboardInterrupt:
        return 130
    except Exception as error:  # what the user can mend is said in a line; our own bugs keep their traceback
        from omnipel.shop.reasons import reason_of

        if isinstance(error, OSError):
            return _refused(f"{error.filename}: {said(reason_of(error))}" if error.filename else said(reason_of(error)))
        traceback.print_exc()
        print(f"omnipel: {said(tr('this is a fault of the program, not of yours; nothing was written'))}", file=sys.stderr)
        return OUR_FAULT


def _refused(words: str) -> int:
    print(f"omnipel: {' '.join(words.split())}", file=sys.stderr)
    return 2


def whole_parser() -> argparse.ArgumentParser:
    """Everything the command line understands."""
    arguments_speak()
    parser = _Parser(prog="omnipel", description=said(tr("Drafts the panels of a fitted cover, and says whether it will go on.")))
    parser.add_argument("--version", action="version", version=f"omnipel {__version__}")
    parser.add_argument("--demo", action="store_true", help=said(tr("open the bench on a fresh copy of the sample shop")))
    parser.add_argument(
        "--shop", type=Path, metavar="PATH", help=said(tr("the shop's database, instead of the one in your data folder"))
    )
    parser.add_argument("--new", action="store_true", help=said(tr("open the bench with a new job")))
    parser.set_defaults(run=_bench)
    commands = parser.add_subparsers(metavar="COMMAND", parser_class=_Parser)
    for command in COMMANDS:
        command.add(commands)
    return parser


def _bench(asked: argparse.Namespace) -> int:
    from omnipel.bench.screen import hindrance

    why = hindrance()
    if why.template:
        raise UsageError(why)
    from omnipel.bench.app import run

    return run(demo=asked.demo, shop=asked.shop, new=asked.new)
