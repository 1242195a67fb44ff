"""`omnipel outline`: a traced outline from a drawing put into a job."""

import argparse
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, said, voiced
from omnipel.core.words import refs
from omnipel.core.words.phrases import tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("outline", help=said(tr("put a traced outline from an SVG or DXF drawing into a job")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("drawing", type=Path, metavar="DRAWING")
    parser.add_argument(
        "--smooth", type=float, default=0.0, metavar="MM", help=said(tr("smooth it, leaving its points by no more than this"))
    )
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.job.changes import changed
    from omnipel.core.job.findings import Change
    from omnipel.exchange.files.travel import read_job as read
    from omnipel.exchange.files.travel import write_job as write
    from omnipel.exchange.reading.outlines import read_outline

    if not 0.0 <= asked.smooth <= 100.0:
        raise UsageError(tr("outline: --smooth takes 0 to 100, in millimetres"))
    job = read(asked.job)
    read_ = read_outline(asked.drawing, smoothing=asked.smooth)
    write(changed(job, Change(refs.OUTLINE, read_.outline)), asked.job)
    for note in read_.notes:
        print(voiced(job.unit).say(note))
    return 0
