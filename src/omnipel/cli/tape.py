"""`omnipel tape`: a simulated wireless tape."""

import argparse
import sys
from pathlib import Path

from omnipel.cli.usage import Commands, said
from omnipel.core.words.phrases import tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser(
        "tape", help=said(tr("a simulated wireless tape: sends each line it is given to the open bench"))
    )
    parser.add_argument(
        "lengths",
        nargs="*",
        metavar="LENGTH",
        help=said(tr("as written on paper; without any, lines are read from the terminal")),
    )
    parser.add_argument(
        "--socket", type=Path, metavar="PATH", help=said(tr("where the bench listens, when not in the usual place"))
    )
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.exchange.devices.tape_device import TapeDevice, send_all, socket_path

    refused = 0
    for answer in send_all(asked.lengths or sys.stdin, TapeDevice(asked.socket or socket_path())):
        print(answer, flush=True)
        refused += answer.startswith("NO")
    return 2 if refused else 0
