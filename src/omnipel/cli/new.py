"""`omnipel new`: a job with plausible sample readings."""

import argparse
import json
from pathlib import Path
from typing import Final

from omnipel.cli.usage import Commands, UsageError, may_replace, said
from omnipel.core.words.phrases import tr
from omnipel.core.words.units import Unit

INCHES: Final = "in"
"""What a person types who has not seen that inches come in three finenesses: the usual one."""


def add(commands: Commands) -> None:
    """Put the command into the parser."""
    parser = commands.add_parser("new", help=said(tr("a job with plausible sample readings, to start from")))
    parser.add_argument("form", nargs="?", metavar="FORM")
    parser.add_argument("scheme", nargs="?", metavar="SCHEME")
    parser.add_argument("--list", action="store_true", help=said(tr("the lawful pairs of form and scheme")))
    parser.add_argument("--json", action="store_true", help=said(tr("the list as JSON")))
    parser.add_argument(
        "--unit",
        default="mm",
        choices=(*(unit.value for unit in Unit), INCHES),
        help=said(tr("the unit it is worked in (in alone: in/16)")),
    )
    parser.add_argument("-o", "--output", type=Path, metavar="F", help=said(tr("write it there instead of to the terminal")))
    parser.add_argument("--replace", action="store_true", help=said(tr("write over a file that is there already")))
    parser.set_defaults(run=run)


def run(asked: argparse.Namespace) -> int:
    """Run it; the exit code."""
    from omnipel.core.covers import lawful_pairs
    from omnipel.shop.document import dumped, write
    from omnipel.shop.starter import UnknownPair, starter

    if asked.list:
        pairs = [{"form": form, "scheme": scheme} for form, scheme in lawful_pairs()]
        print(json.dumps({"pairs": pairs}, indent=1) if asked.json else "\n".join(f"{p['form']} {p['scheme']}" for p in pairs))
        return 0
    if not (asked.form and asked.scheme):
        raise UsageError(tr("new: say FORM and SCHEME; omnipel new --list shows the lawful pairs"))
    try:
        job = starter(asked.form, asked.scheme, Unit.INCH_16 if asked.unit == INCHES else Unit(asked.unit))
    except UnknownPair as error:
        raise UsageError(tr("new: {fault}", fault=error.phrase)) from None
    if asked.output:
        may_replace(asked.output, asked.replace)
        write(job, asked.output)
    else:
        print(dumped(job), end="")
    return 0
