"""`omnipel card`: the blank tape card of a job."""

import argparse
from pathlib import Path

from omnipel.cli.usage import Commands, UsageError, said
from omnipel.core.pictures.pens import SMALL
from omnipel.core.words.phrases import Name, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("card", help=said(tr("the blank tape card of a job, as PDF")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument("pdf", type=Path, metavar="F")
    parser.add_argument("--paper", default="A4", choices=SMALL)
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.forms import FORMS
    from omnipel.exchange.tape_card import tape_card
    from omnipel.shop.document import read
    from omnipel.shop.starter import plausible

    job = read(asked.job)
    form = FORMS.get(job.thing.form)
    if form is None:
        raise UsageError(tr("{job}: there is no form named “{form}”", job=Name(asked.job.name), form=Name(job.thing.form)))
    asked.pdf.write_bytes(tape_card(job, plausible(job), form.places(job.readings, job.thing), asked.paper))
    return 0
