"""`omnipel export`: the pattern as PDF or SVG."""

import argparse
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, said
from omnipel.core.pictures.pens import PAPERS
from omnipel.core.words.phrases import Name, Voice, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("export", help=said(tr("pattern as PDF or SVG")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("--pdf", type=Path, metavar="F")
    parser.add_argument("--svg", type=Path, metavar="F")
    parser.add_argument("--paper", default="A4", choices=tuple(PAPERS))
    parser.add_argument("--despite-stop", action="store_true", help=said(tr("export although a finding says: do not cut")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import NotYet, draft
    from omnipel.shop.document import read

    if not (asked.pdf or asked.svg):
        raise UsageError(tr("export: say what to write, --pdf F or --svg F"))
    drafted = draft(read(asked.job))
    name, voice = Name(asked.job.name), Voice(drafted.job.unit)
    first = Name(voice.sentence(drafted.findings[0].text)) if drafted.findings else Name("")
    if isinstance(drafted, NotYet):
        raise UsageError(tr("{job}: there are no panels yet. {finding}", job=name, finding=first))
    if drafted.stops and not asked.despite_stop:
        raise UsageError(tr("{job}: do not cut. {finding} (--despite-stop exports all the same)", job=name, finding=first))
    if asked.svg:
        from omnipel.exchange.svg import svg

        asked.svg.write_text(svg(drafted), encoding="utf-8")
    if asked.pdf:
        from omnipel.exchange.pattern import pattern_pdf

        asked.pdf.write_bytes(pattern_pdf(drafted, asked.paper))
    return 0
