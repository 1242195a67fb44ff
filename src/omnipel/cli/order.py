"""`omnipel order`: the order of work."""

import argparse
import json
from pathlib import Path

from omnipel.cli.stock import drafts
from omnipel.cli.usage import Commands, UsageError, said, voiced
from omnipel.core.words.phrases import Count, tr

MOST = 1000


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("order", help=said(tr("the order of work; exit 1 when a finding says stop")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--batch", type=int, metavar="N", help=said(tr("so many covers at once; else as many as the job says")))
    parser.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.sewing.plan import planned
    from omnipel.core.sewing.traps import traps
    from omnipel.exchange.files.work_order import order_data, order_text

    if asked.batch is not None and not 1 <= asked.batch <= MOST:
        raise UsageError(tr("order: --batch takes a number from 1 to {most}", most=Count(MOST)))
    drafted = drafts([asked.job])[0]
    job = drafted.job
    plan = planned(drafted, copies=asked.batch or job.copies, wanted=job.sewing.order)
    found, voice = (*drafted.findings, *traps(plan)), voiced(job.unit)
    if asked.json:
        print(json.dumps(order_data(plan, found, voice), indent=1, ensure_ascii=False))
    else:
        print(order_text(plan, found, voice))
    return int(drafted.stops)
