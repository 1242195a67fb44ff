"""`omnipel readings`: readings from a table put into a job."""

from __future__ import annotations

import argparse
from pathlib import Path

from omnipel.cli.usage import Commands, said
from omnipel.core.words.phrases import Count, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("readings", help=said(tr("put readings from a table into a job, by letter or place")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("table", type=Path, metavar="TABLE")
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.job.document import with_reading
    from omnipel.exchange.files.travel import read_job, write_job
    from omnipel.exchange.reading.readings import read_readings

    job = read_job(asked.job)
    readings = read_readings(asked.table, job)
    for reading in readings:
        job = with_reading(job, reading)
    write_job(job, asked.job)
    print(said(tr("{n} readings taken", n=Count(len(readings)))))
    return 0
