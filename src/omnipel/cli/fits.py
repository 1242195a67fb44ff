"""`omnipel fits`: whether a job goes onto a piece of cloth, what would make it go, how many come out of it."""

import argparse
import json
from dataclasses import replace
from pathlib import Path

from omnipel.cli.stock import drafts, piece_of, stock_of
from omnipel.cli.usage import Commands, said, voiced
from omnipel.core.words.phrases import Name, listed, tr, trn


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("fits", help=said(tr("whether jobs go onto a piece of cloth, and how many come out of it")))
    parser.add_argument("jobs", type=Path, metavar="JOB", nargs="+")
    parser.add_argument("--piece", metavar="LxW", required=True, help=said(tr("length along the warp by width")))
    parser.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code: 1 when one of them does not go onto it."""
    from omnipel.core.cloth.fitting import fits, how_many
    from omnipel.core.cloth.sheets import sheet_of
    from omnipel.core.drafting.panel import Cloth

    stash = [kept.piece for kept in stock_of(asked).pieces.values()]
    data, lines, all_fit = [], [], True
    for drafted in drafts(asked.jobs):
        voice, name = voiced(drafted.job.unit), Name(drafted.job.name)
        piece = piece_of(asked.piece, drafted.job.unit)
        sheet = sheet_of(drafted, Cloth.OUTER)
        found = fits(sheet, piece, stash)
        many = how_many(replace(sheet, cuts=tuple(cut for cut in sheet.cuts if cut.copy == 1)), piece)
        all_fit = all_fit and found.all
        left = [voice.say(sheet.by_key[key].words) for key in found.left]
        would = [voice.say(phrase) for phrase in found.would]
        data.append({"job": drafted.job.name, "fits": found.all, "left": left, "would_fit": would, "how_many": many})
        over = tr("{job}: left over: {pieces}", job=name, pieces=listed(map(Name, left)))
        lines.append(voice.say(tr("{job}: all of it fits", job=name) if found.all else over))
        lines += [f"  {voice.say(tr('it fits if you {change}', change=Name(change)))}" for change in would]
        lines.append("  " + voice.say(trn("{n} cover comes out of it", "{n} covers come out of it", many)))
    print(json.dumps(data, indent=1, ensure_ascii=False) if asked.json else "\n".join(lines))
    return 0 if all_fit else 1
