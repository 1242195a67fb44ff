"""`omnipel export`: a job on paper, as a drawing, as plain data: whatever there is an export for."""

import argparse
from pathlib import Path

from omnipel.cli.stock import stock_of
from omnipel.cli.usage import Commands, UsageError, may_replace, said
from omnipel.core.pictures.pens import PAPERS, at_home
from omnipel.core.words.phrases import Count, Name, Voice, listed, plain, tr
from omnipel.exchange.exports import DESPITE_STOP, EXPORTS, MANY, MANY_SHEETS


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("export", help=said(tr("a job on paper, as a drawing, as plain data")))
    parser.add_argument("job", type=Path, metavar="JOB")
    for export in EXPORTS.values():
        parser.add_argument(f"--{export.id}", type=Path, metavar="F", help=said(export.words))
    parser.add_argument(
        "--paper", choices=tuple(PAPERS), help=said(tr("otherwise what those who measure in the job's unit have at home"))
    )
    parser.add_argument(f"--{DESPITE_STOP}", action="store_true", help=said(tr("export although a finding says: do not cut")))
    parser.add_argument(f"--{MANY_SHEETS}", action="store_true", help=said(tr("export more than {n} sheets", n=Count(MANY))))
    parser.add_argument("--replace", action="store_true", help=said(tr("write over a file that is something else")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import draft
    from omnipel.exchange.asked import NotExported, Order
    from omnipel.exchange.exports import exported
    from omnipel.exchange.travel import with_photos
    from omnipel.shop.whole import write_whole

    wanted = [(export, path) for export in EXPORTS.values() if (path := getattr(asked, export.id)) is not None]
    if not wanted:
        options = listed([plain(f"--{export.id} F") for export in EXPORTS.values()])
        raise UsageError(tr("export: say what to write: {options}", options=options))
    yes = [question for question in (DESPITE_STOP, MANY_SHEETS) if getattr(asked, question.replace("-", "_"))]
    job, photos = with_photos(asked.job)
    drafted = draft(job)
    stock = stock_of(asked)
    made = []
    for export, path in wanted:
        may_replace(path, asked.replace, export.begins)
        paper = asked.paper if asked.paper in export.papers else at_home(drafted.job.unit)
        try:
            made.append((path, exported(export, Order(drafted, Voice(job.unit), paper, stock, photos=photos), *yes)))
        except NotExported as error:
            name = Name(asked.job.name)
            if error.asks:
                option = Name(f"--{error.asks}")
                raise UsageError(
                    tr("{job}: {fault} ({option} exports all the same)", job=name, fault=error.phrase, option=option)
                ) from None
            raise UsageError(tr("{job}: {fault}", job=name, fault=error.phrase)) from None
    for path, content in made:
        write_whole(path, content)
    return 0
