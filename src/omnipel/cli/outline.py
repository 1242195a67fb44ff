"""`omnipel outline`: a traced outline from an SVG file put into a job."""

import argparse
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, said
from omnipel.core.words import refs
from omnipel.core.words.phrases import Voice, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("outline", help=said(tr("put a traced outline from an SVG file into a job")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("svg", type=Path, metavar="SVG")
    parser.add_argument(
        "--smooth", type=float, default=0.0, metavar="MM", help=said(tr("smooth it, leaving its points by no more than this"))
    )
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.job.changes import changed
    from omnipel.core.job.findings import Change
    from omnipel.exchange.outlines import read_svg_outline
    from omnipel.exchange.travel import read_job as read
    from omnipel.exchange.travel import write_job as write

    if not 0.0 <= asked.smooth <= 100.0:
        raise UsageError(tr("outline: --smooth takes 0 to 100, in millimetres"))
    job = read(asked.job)
    read_ = read_svg_outline(asked.svg, smoothing=asked.smooth)
    write(changed(job, Change(refs.OUTLINE, read_.outline)), asked.job)
    for note in read_.notes:
        print(Voice(job.unit).say(note))
    return 0
