"""`omnipel open`, or just the names of files: the bench, with these jobs brought in."""

import argparse
from collections.abc import Sequence
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, said
from omnipel.core.words.phrases import Name, tr

JOBS = (".omnipel", ".omnipel.json")
"""How files of jobs are called."""


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("open", help=said(tr("the bench, with jobs brought in; the word may be left out")))
    parser.add_argument("files", type=Path, nargs="+", metavar="JOB")
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.bench.screen import hindrance

    for path in asked.files:
        if not path.is_file():
            raise UsageError(tr("{file}: there is no such file", file=Name(str(path))))
    why = hindrance()
    if why.template:
        raise UsageError(why)
    from omnipel.bench.app import run as work

    return work(demo=asked.demo, shop=asked.shop, files=asked.files)


def with_word(arguments: Sequence[str], known: Sequence[str]) -> list[str]:
    """Arguments of which the first that is no option is the name of a job file, with the command that opens it.

    >>> with_word(["--demo", "drum.omnipel"], ["draft"]), with_word(["draft", "drum.omnipel"], ["draft"])
    (['--demo', 'open', 'drum.omnipel'], ['draft', 'drum.omnipel'])
    """
    made = list(arguments)
    for i, word in enumerate(made):
        if word == "--shop" or (i and made[i - 1] == "--shop") or word.startswith("-"):
            continue
        if word not in known and word.casefold().endswith(JOBS):
            made.insert(i, "open")
        break
    return made
