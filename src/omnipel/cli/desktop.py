"""`omnipel desktop`: a launcher, the icon and the file types for this person, or all of that taken away again."""

from __future__ import annotations

import argparse
import shutil
import sys
from pathlib import Path

from omnipel.cli.usage import Commands, said
from omnipel.core.words.phrases import Count, Name, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("desktop", help=said(tr("put Omnipel into the menu of your desktop, or take it away again")))
    parser.add_argument("--remove", action="store_true", help=said(tr("take everything away again")))
    parser.add_argument("--program", type=Path, metavar="PATH", help=said(tr("what is started, when not this very program")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.desktop.placing import data_home, put, take_away

    home = data_home()
    if asked.remove:
        print(said(tr("{n} files taken away from {home}", n=Count(len(take_away(home))), home=Name(str(home)))))
        return 0
    program = asked.program or _this_program()
    print(said(tr("{n} files put into {home}", n=Count(len(put(home, program.absolute()))), home=Name(str(home)))))
    return 0


def _this_program() -> Path:
    """What was started just now, or lies beside the Python that runs it."""
    started = Path(sys.argv[0])
    if started.name == "omnipel" and started.is_file():
        return started
    beside = Path(sys.executable).with_name("omnipel")
    return beside if beside.is_file() else Path(shutil.which("omnipel") or beside)
