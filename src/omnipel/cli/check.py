"""`omnipel check`: findings, and the first remedy of one of them."""

import argparse
import json
import sys
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, said
from omnipel.core.words.phrases import Name, Voice, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("check", help=said(tr("findings; exit 1 when one says stop")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--fix", metavar="CODE", help=said(tr("apply the first remedy of this finding and write the job back")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import draft
    from omnipel.core.job.changes import changed
    from omnipel.exchange.report import finding_lines, report
    from omnipel.shop.document import read, write

    job = read(asked.job)
    drafted = draft(job)
    if asked.fix:
        found = [f for f in drafted.findings if f.code == asked.fix and f.remedies]
        if not found:
            raise UsageError(tr("{job} has no finding “{code}” with a remedy", job=Name(asked.job.name), code=Name(asked.fix)))
        remedy = found[0].remedies[0]
        job = changed(job, *remedy.changes)
        write(job, asked.job)
        print(Voice(job.unit).say(tr("done: {remedy}", remedy=remedy.words)), file=sys.stderr)
        drafted = draft(job)
    if asked.json:
        print(json.dumps(report(drafted)["findings"], indent=1, ensure_ascii=False))
    else:
        print("\n".join(finding_lines(drafted)) or said(tr("nothing to say: every seam is true and the cover goes on")))
    return int(drafted.stops)
