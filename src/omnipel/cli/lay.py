"""`omnipel lay`: how the panels of one job, or of several on a cutting day, lie on their cloth."""

from __future__ import annotations

import argparse
import json
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from omnipel.cli.stock import drafts, piece_of
from omnipel.cli.usage import Commands, UsageError, said, voiced
from omnipel.core.words.phrases import Name, tr

if TYPE_CHECKING:
    from omnipel.core.cloth.lay import Lay


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("lay", help=said(tr("how panels lie on their cloth, and how much of it is to be bought")))
    several = tr("several are laid together where they use the same cloth")
    parser.add_argument("jobs", type=Path, metavar="JOB", nargs="+", help=said(several))
    seconds = tr("look for a shorter lay no longer than this")
    parser.add_argument("--seconds", type=float, default=3.0, metavar="S", help=said(seconds))
    parser.add_argument("--piece", metavar="LxW", help=said(tr("lay them on a piece of this length and width first")))
    parser.add_argument("--keep", action="store_true", help=said(tr("keep where they lie in the job's file")))
    parser.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code: 1 when something does not fit on its cloth."""
    from omnipel.core.cloth.cuts import layers_of
    from omnipel.core.cloth.day import cloths_of, together
    from omnipel.core.cloth.fitting import on_piece
    from omnipel.core.cloth.lay import laid
    from omnipel.exchange.files.lays import day_text, lay_data, lay_text

    if not 0.0 <= asked.seconds <= 3600.0:
        raise UsageError(tr("--seconds takes 0 to 3600"))
    if len(asked.jobs) > 1 and (asked.keep or asked.piece):
        raise UsageError(tr("--keep and --piece are for one job"))
    jobs = drafts(asked.jobs)
    voice = voiced(jobs[0].job.unit)
    told, data, lays = [], [], []
    if len(jobs) == 1:
        for layer in layers_of(jobs[0]):
            lay = laid(jobs[0], layer)
            if asked.piece:
                lay = on_piece(lay, piece_of(asked.piece, voice.unit))
            lay, least, off = searched(lay, asked.seconds)
            lays.append(lay)
            told.append(lay_text(lay, voice, off))
            data.append(lay_data(lay, voice, least))
    else:
        for cloth in cloths_of(jobs):
            day = together(jobs, cloth)
            lay, least, _ = searched(day.laid(), asked.seconds)
            lays.append(lay)
            told.append(day_text(day, lay, voice))
            shares = [{"job": share.name, "share": day.share(share.job)} for share in day.shares]
            data.append({**lay_data(lay, voice, least), "shares": shares, "alone": day.alone})
    print(json.dumps(data, indent=1, ensure_ascii=False) if asked.json else "\n\n".join(told))
    if asked.keep:
        keep(asked.jobs[0], lays)
    return 1 if any(lay.left for lay in lays) else 0


def searched(lay: Lay, seconds: float) -> tuple[Lay, float, float]:
    """A lay made shorter, as far as that is found in so many seconds; below which length none can be; how far it is from that, a share.

    Raises:
        UsageError: the search broke down; what lay before is still good.
    """
    from omnipel.core.cloth.lay import by_the_piece, with_nest
    from omnipel.work.laying import searched as found_in

    on = lay.on(lay.bolt)
    if not on or by_the_piece(lay.sheet):
        return lay, 0.0, 0.0
    found = found_in(lay.problem, seconds, lay.sheet.lying(lay.bolt, on))
    if found.broken:
        raise UsageError(tr("the search for a shorter lay broke down: {fault}", fault=Name(found.broken)))
    made = replace(lay, placed=with_nest(lay, found.nest)) if found.nest is not None else lay
    return made, max(0.0, found.least - lay.sheet.gap), found.off


def keep(path: Path, lays: list[Lay]) -> None:
    """Keep lays in a job's file."""
    from omnipel.exchange.files.travel import read_job as read
    from omnipel.exchange.files.travel import write_job as write

    job = read(path)
    kept = dict(job.lays)
    for lay in lays:
        known = {ground.id for ground in lay.grounds} - {"piece"}
        kept[lay.layer.value] = replace(lay.sheet.choice, placed=tuple(piece for piece in lay.placed if piece.on in known))
    write(replace(job, lays=kept), path)
