"""`omnipel shop`: what a shop holds, listed, written out, backed up, without a window."""

from __future__ import annotations

import argparse
import json
from pathlib import Path
from typing import TYPE_CHECKING

from omnipel.cli.stock import shop_of
from omnipel.cli.usage import Commands, UsageError, may_replace, said
from omnipel.core.words.phrases import Count, Name, tr

if TYPE_CHECKING:
    from omnipel.shop.store import Store


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("shop", help=said(tr("the jobs of a shop: listed, written out, backed up")))
    what = parser.add_subparsers(metavar="WHAT", required=True)
    listed = what.add_parser("list", help=said(tr("every job with its number")))
    listed.add_argument("--archived", action="store_true", help=said(tr("archived ones, too")))
    listed.add_argument("--json", action="store_true", help=said(tr("as plain data")))
    listed.set_defaults(run=_list)
    written = what.add_parser("export", help=said(tr("write jobs with their photos into a folder")))
    written.add_argument("folder", type=Path, metavar="FOLDER")
    written.add_argument("jobs", nargs="*", metavar="JOB", help=said(tr("by number or name; otherwise all")))
    written.add_argument("--replace", action="store_true", help=said(tr("write over what is there")))
    written.set_defaults(run=_export)
    backup = what.add_parser("backup", help=said(tr("the whole shop with its history as one file, while it may be in use")))
    backup.add_argument("file", type=Path, metavar="F")
    backup.add_argument("--replace", action="store_true", help=said(tr("write over a file that is something else")))
    backup.set_defaults(run=_backup)


def _opened(asked: argparse.Namespace) -> Store:
    from omnipel.shop.store import Store

    path = shop_of(asked)
    if not path.is_file():
        raise UsageError(tr("{path}: there is no shop yet", path=Name(str(path))))
    return Store(path, read_only=True)


def _list(asked: argparse.Namespace) -> int:
    with _opened(asked) as store:
        cards = store.cards(archived=asked.archived)
        if asked.json:
            told = [
                {"id": c.id, "name": c.name, "owner": c.owner, "place": c.place, "touched": c.touched, "archived": c.archived}
                for c in cards
            ]
            print(json.dumps(told, indent=1, ensure_ascii=False))
            return 0
        for card in cards:
            about = " · ".join(part for part in (card.owner, card.place) if part)
            print(f"{card.id:>5}  {card.name}" + (f"   ({about})" if about else ""))
    return 0


def _export(asked: argparse.Namespace) -> int:
    from omnipel.exchange.files.travel import packed
    from omnipel.shop.document import file_name
    from omnipel.shop.photos import contents
    from omnipel.shop.whole import write_whole

    with _opened(asked) as store:
        cards = store.cards(archived=True)
        wanted = [card for card in cards if not asked.jobs or str(card.id) in asked.jobs or card.name in asked.jobs]
        unknown = [job for job in asked.jobs if job not in {str(c.id) for c in cards} | {c.name for c in cards}]
        if unknown:
            raise UsageError(tr("there is no job “{job}”; shop list tells which there are", job=Name(unknown[0])))
        asked.folder.mkdir(parents=True, exist_ok=True)
        taken: set[str] = set()
        made = []
        for card in wanted:
            job = store.job(card.id)
            name = file_name(job.name, ".omnipel")
            if name in taken:
                name = file_name(f"{job.name} {card.id}", ".omnipel")
            taken.add(name)
            may_replace(asked.folder / name, asked.replace, None)
            made.append((asked.folder / name, packed(job, contents(store, job))))
        for path, content in made:
            write_whole(path, content)
    print(said(tr("{n} jobs written into {folder}", n=Count(len(made)), folder=Name(str(asked.folder)))))
    return 0


def _backup(asked: argparse.Namespace) -> int:
    import os
    import sqlite3
    import tempfile
    from contextlib import closing

    from omnipel.shop.whole import write_whole

    path = shop_of(asked)
    with _opened(asked):
        pass  # it is a shop, of a kind that this program knows
    may_replace(asked.file, asked.replace, b"SQLite format 3")
    if asked.file.exists() and os.path.samefile(asked.file, path):
        raise UsageError(tr("{path} is the shop itself", path=Name(str(asked.file))))
    with tempfile.TemporaryDirectory(prefix="omnipel-backup-") as folder:
        copy = Path(folder) / "shop.sqlite"
        with closing(sqlite3.connect(path)) as source, closing(sqlite3.connect(copy)) as target:
            source.backup(target)
            target.execute("PRAGMA journal_mode=DELETE")
        write_whole(asked.file, copy.read_bytes())
    print(said(tr("{file}: the whole shop as it is now", file=Name(str(asked.file)))))
    return 0
