"""`omnipel check`: findings, and the first remedy of one of them."""

import argparse
import json
import sys
from pathlib import Path
from typing import Final

from omnipel.cli.usage import Commands, UsageError, said, voiced
from omnipel.core.words.phrases import Name, tr

EVERYTHING: Final = "*"


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("check", help=said(tr("findings; exit 1 when one says stop")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--json", action="store_true")
    parser.add_argument(
        "--fix",
        metavar="CODE",
        nargs="?",
        const=EVERYTHING,
        help=said(tr("apply the first remedy of this finding, or of all of them, and write the job back")),
    )
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import draft
    from omnipel.core.remedies import advised, put_right
    from omnipel.exchange.files.report import finding_lines, report
    from omnipel.exchange.files.travel import read_job as read
    from omnipel.exchange.files.travel import write_job as write
    from omnipel.shop.document import lawful

    job = read(asked.job)
    if asked.fix:
        code = "" if asked.fix == EVERYTHING else asked.fix
        right, voice = put_right(job, lawful, code), voiced(job.unit)
        if code and not right.done:
            raise UsageError(tr("{job} has no finding “{code}” with a remedy", job=Name(asked.job.name), code=Name(code)))
        if right.done:
            write(right.drafted.job, asked.job)
        for remedy in right.done:
            print(voice.say(tr("done: {remedy}", remedy=remedy.words)), file=sys.stderr)
        for finding in right.left:
            print(voice.say(tr("for you to decide: {finding}", finding=finding.text)), file=sys.stderr)
        drafted = right.drafted
    else:
        drafted = advised(draft(job), lawful)
    if asked.json:
        print(json.dumps(report(drafted)["findings"], indent=1, ensure_ascii=False))
    else:
        print(
            "\n".join(finding_lines(drafted, voiced(drafted.job.unit)))
            or said(tr("nothing to say: every seam is true and the cover goes on"))
        )
    return int(drafted.stops)
