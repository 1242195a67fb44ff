"""`omnipel card`: the blank tape card of a job; short for `omnipel export JOB --card F`."""

import argparse
from datetime import datetime
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, may_replace, said, voiced
from omnipel.core.pictures.pens import SMALL, at_home
from omnipel.core.words.phrases import Name, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("card", help=said(tr("the blank tape card of a job, as PDF")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("pdf", type=Path, metavar="F")
    parser.add_argument(
        "--paper", choices=SMALL, help=said(tr("otherwise what those who measure in the job's unit have at home"))
    )
    parser.add_argument("--replace", action="store_true", help=said(tr("write over a file that is something else")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import draft
    from omnipel.exchange.asked import NotExported, Order
    from omnipel.exchange.export import exported
    from omnipel.exchange.exports import EXPORTS
    from omnipel.exchange.files.travel import read_job as read
    from omnipel.shop.whole import write_whole

    job = read(asked.job)
    may_replace(asked.pdf, asked.replace, EXPORTS["card"].begins)
    try:
        order = Order(draft(job), voiced(job.unit), asked.paper or at_home(job.unit), made=datetime.now().astimezone())
        write_whole(asked.pdf, exported(EXPORTS["card"], order))
    except NotExported as error:
        raise UsageError(tr("{job}: {fault}", job=Name(asked.job.name), fault=error.phrase)) from None
    return 0
