"""`omnipel export`: a job on paper, as a drawing, as plain data: whatever there is an export for."""

from __future__ import annotations

import argparse
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING

from omnipel.cli.stock import setting_of, stock_of
from omnipel.cli.usage import Commands, UsageError, may_replace, said, voiced
from omnipel.core.pictures.pens import PAPERS, at_home
from omnipel.core.words.phrases import Count, Name, listed, plain, tr
from omnipel.exchange.booklet import IN_BOOKLET
from omnipel.exchange.export import DESPITE_STOP, MANY, MANY_SHEETS
from omnipel.exchange.exports import EXPORTS

if TYPE_CHECKING:
    from omnipel.shop.machine import Machine


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
    parser.add_argument(
        "--of", default="", metavar="PART", help=said(tr("of drawings: one panel by its name, or “lay”; otherwise all panels"))
    )
    parser.add_argument(
        "--parts", metavar="A,B", help=said(tr("what the booklet consists of: {parts}", parts=Name(", ".join(IN_BOOKLET))))
    )
    machine_options(parser)
    parser.add_argument("--replace", action="store_true", help=said(tr("write over a file that is something else")))
    parser.set_defaults(run=run)


def parts_asked(text: str | None) -> tuple[str, ...]:
    """The parts of the booklet that are asked for; nothing for what is usual.

    Raises:
        UsageError: there is no such part.
    """
    parts = tuple(part.strip() for part in (text or "").split(",") if part.strip())
    unknown = [part for part in parts if part not in IN_BOOKLET]
    if unknown:
        raise UsageError(
            tr("the booklet has no part “{part}”; it has {parts}", part=Name(unknown[0]), parts=Name(", ".join(IN_BOOKLET)))
        )
    return parts


def machine_options(parser: argparse.ArgumentParser) -> None:
    """The options that tell about a cutter."""
    from omnipel.shop.machine import LANGUAGES

    parser.add_argument("--language", choices=LANGUAGES, help=said(tr("what the cutter understands")))
    parser.add_argument("--knife-offset", metavar="LENGTH", help=said(tr("how far its blade cuts behind its axis")))
    parser.add_argument("--over-cut", metavar="LENGTH", help=said(tr("how far a closed line is followed on")))
    parser.add_argument("--no-marks", action="store_true", help=said(tr("cut only: no sew lines, marks and words by a pen")))


def machine_asked(asked: argparse.Namespace) -> Machine:
    """The cutter that options tell about, else the shop's own.

    Raises:
        UsageError: such a cutter cannot be.
    """
    from dataclasses import replace

    from omnipel.core.words.notation import TapeError, parse_length
    from omnipel.core.words.units import Unit
    from omnipel.shop.machine import SETTING, machine_of

    known = machine_of(setting_of(asked, SETTING))
    try:
        offset, over = (
            parse_length(text, Unit.MM) if text is not None else kept
            for text, kept in ((asked.knife_offset, known.knife_offset), (asked.over_cut, known.over_cut))
        )
        marks = known.marks and not asked.no_marks
        return replace(known, language=asked.language or known.language, knife_offset=offset, over_cut=over, marks=marks)
    except TapeError as error:
        raise UsageError(error.phrase) from None
    except ValueError as error:
        raise UsageError(tr("{fault}", fault=Name(str(error)))) from None


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.draft import draft
    from omnipel.exchange.asked import NotExported, Order
    from omnipel.exchange.export import exported
    from omnipel.exchange.files.travel import with_photos
    from omnipel.shop.whole import write_whole

    wanted = [(export, path) for export in EXPORTS.values() if (path := getattr(asked, export.id)) is not None]
    if not wanted:
        options = listed([plain(f"--{export.id} F") for export in EXPORTS.values()])
        raise UsageError(tr("export: say what to write: {options}", options=options))
    yes = [question for question in (DESPITE_STOP, MANY_SHEETS) if getattr(asked, question.replace("-", "_"))]
    job, photos = with_photos(asked.job)
    drafted = draft(job)
    stock, machine, now = stock_of(asked), machine_asked(asked), datetime.now().astimezone()
    made = []
    for export, path in wanted:
        may_replace(path, asked.replace, export.begins)
        paper = asked.paper if asked.paper in export.papers else at_home(drafted.job.unit)
        of = asked.of if export.in_parts else ""
        order = Order(
            drafted,
            voiced(job.unit),
            paper,
            stock,
            photos=photos,
            of=of,
            machine=machine,
            parts=parts_asked(asked.parts),
            made=now,
        )
        try:
            made.append((path, exported(export, order, *yes)))
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
