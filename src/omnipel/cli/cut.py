"""`omnipel cut`: a job, or a part of it, to a cutter; goes on where it was when it is asked again."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

from omnipel.cli.export import machine_asked, machine_options
from omnipel.cli.usage import Commands, UsageError, said, voiced
from omnipel.core.words.phrases import Count, Name, tr


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("cut", help=said(tr("send what is cut to the cutter, or to a device or print queue")))
    parser.add_argument("job", type=Path, metavar="JOB")
    parser.add_argument(
        "--of", default="lay", metavar="PART", help=said(tr("one panel by its name, or all with “all”; otherwise the first lay"))
    )
    machine_options(parser)
    parser.add_argument("--to", metavar="WHERE", help=said(tr("a device, or queue:name; otherwise the cutter that listens")))
    parser.add_argument(
        "--socket", type=Path, metavar="PATH", help=said(tr("where the cutter listens, when not in the usual place"))
    )
    parser.add_argument("--again", action="store_true", help=said(tr("cut once more what was cut already")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.cli.stock import drafts
    from omnipel.exchange.devices.cutter.link import CutBefore, Progress, Sending
    from omnipel.exchange.devices.cutter.speaking import socket_path
    from omnipel.exchange.devices.queue import handed_over
    from omnipel.exchange.files.flat import flat
    from omnipel.exchange.files.hpgl import instructions, width_needed

    (drafted,) = drafts([asked.job])
    if drafted.stops:
        first = Name(voiced(drafted.job.unit).sentence(drafted.findings[0].text))
        raise UsageError(tr("{job}: do not cut. {finding}", job=Name(asked.job.name), finding=first))
    machine = machine_asked(asked)
    whole = flat(drafted, voiced(drafted.job.unit), "" if asked.of == "all" else asked.of)
    told = instructions(whole, machine)
    where = asked.to or machine.where
    if where and asked.socket is None:
        handed_over("".join(told).encode("ascii"), where)
        return 0

    heard = ""

    def shown(progress: Progress) -> None:
        nonlocal heard
        if (words := said(progress.words)) != heard:
            print(f"\n{words}" if heard else words, file=sys.stderr)
            heard = words
        print(f"\r{progress.done} / {progress.blocks}", end="", file=sys.stderr, flush=True)

    turn = 1
    while True:
        sending = Sending(told, asked.socket or socket_path(), shown, turn, wide=width_needed(whole))
        try:
            sending.send()
        except CutBefore:
            if not asked.again:
                raise UsageError(tr("{job}: this was cut already; --again cuts it once more", job=Name(asked.job.name))) from None
            turn += 1
            continue
        finally:
            if heard:
                print(file=sys.stderr)
        print(said(tr("cut: {n} steps", n=Count(sending.done))))
        return 0
