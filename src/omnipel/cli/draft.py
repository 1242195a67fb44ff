"""`omnipel draft`: panels with their sums, seams, fit and findings."""

import argparse
import json
from pathlib import Path

from omnipel.cli.usage import Commands, said, voiced
from omnipel.core.words.phrases import tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("draft", help=said(tr("panels with their sums, seams, fit and findings")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import draft
    from omnipel.core.remedies import advised
    from omnipel.exchange.files.report import report, text
    from omnipel.exchange.files.travel import read_job as read
    from omnipel.shop.document import lawful

    drafted = advised(draft(read(asked.job)), lawful)
    voice = voiced(drafted.job.unit)
    print(json.dumps(report(drafted, voice), indent=1, ensure_ascii=False) if asked.json else text(drafted, voice))
    return 0
