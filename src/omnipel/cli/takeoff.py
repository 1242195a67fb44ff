"""`omnipel takeoff`: what is to be bought for a job."""

import argparse
import json
from pathlib import Path

from omnipel.cli.stock import drafts, stock_of
from omnipel.cli.usage import Commands, said, voiced
from omnipel.core.words.phrases import tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("takeoff", help=said(tr("what is to be bought, with what the shop has and what it costs there")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.cloth.takeoff import takeoff
    from omnipel.exchange.files.lays import takeoff_data, takeoff_text

    drafted = drafts([asked.job])[0]
    taken, voice = takeoff(drafted, None, stock_of(asked)), voiced(drafted.job.unit)
    print(json.dumps(takeoff_data(taken, voice), indent=1, ensure_ascii=False) if asked.json else takeoff_text(taken, voice))
    return 0
