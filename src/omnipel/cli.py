"""The command line. Errors go to stderr in one line, exit code 2; `check` exits 1 when a finding says stop."""

import argparse
import json
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import NoReturn

from omnipel import __version__
from omnipel.core.pictures.pens import PAPERS, SMALL
from omnipel.core.words.phrases import Name, Phrase, Voice, tr
from omnipel.core.words.units import Unit


class UsageError(Exception):
    """What was asked cannot be done; the message is one line."""

    def __init__(self, phrase: Phrase) -> None:
        self.phrase = phrase
        super().__init__(str(phrase))


class _Parser(argparse.ArgumentParser):
    """Says what is wrong in one line."""

    def error(self, message: str) -> NoReturn:
        raise UsageError(tr("{message}; see {program} --help", message=Name(message), program=Name(self.prog)))


def said(phrase: Phrase) -> str:
    """A phrase without lengths, in the language of the command line."""
    return Voice().say(phrase)


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one command; its exit code."""
    try:
        asked = _parser().parse_args(arguments)
        return int(asked.run(asked))
    except UsageError as error:
        print(f"omnipel: {said(error.phrase)}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        sys.stderr.close()
        return 2
    except Exception as error:  # only what the user can mend is said in a line; our own bugs keep their traceback
        from omnipel.shop.document import DocumentError
        from omnipel.shop.store import StoreError

        if not isinstance(error, DocumentError | StoreError | OSError):
            raise
        print(f"omnipel: {' '.join(str(error).split())}", file=sys.stderr)
        return 2


def _parser() -> argparse.ArgumentParser:
    parser = _Parser(prog="omnipel", description=said(tr("Drafts the panels of a fitted cover, and says whether it will go on.")))
    parser.add_argument("--version", action="version", version=f"omnipel {__version__}")
    parser.add_argument("--demo", action="store_true", help=said(tr("open the bench on a fresh copy of the sample shop")))
    parser.add_argument(
        "--shop", type=Path, metavar="PATH", help=said(tr("the shop's database, instead of the one in your data folder"))
    )
    parser.set_defaults(run=_bench)
    commands = parser.add_subparsers(metavar="COMMAND", parser_class=_Parser)

    draft = commands.add_parser("draft", help=said(tr("panels with their sums, seams, fit and findings")))
    draft.add_argument("job", type=Path, metavar="JOB")
    draft.add_argument("--json", action="store_true", help=said(tr("as documented in docs/file-format.md")))
    draft.set_defaults(run=_draft)

    check = commands.add_parser("check", help=said(tr("findings; exit 1 when one says stop")))
    check.add_argument("job", type=Path, metavar="JOB")
    check.add_argument("--json", action="store_true")
    check.add_argument("--fix", metavar="CODE", help=said(tr("apply the first remedy of this finding and write the job back")))
    check.set_defaults(run=_check)

    export = commands.add_parser("export", help=said(tr("pattern as PDF or SVG")))
    export.add_argument("job", type=Path, metavar="JOB")
    export.add_argument("--pdf", type=Path, metavar="F")
    export.add_argument("--svg", type=Path, metavar="F")
    export.add_argument("--paper", default="A4", choices=tuple(PAPERS))
    export.add_argument("--despite-stop", action="store_true", help=said(tr("export although a finding says: do not cut")))
    export.set_defaults(run=_export)

    trace = commands.add_parser("outline", help=said(tr("put a traced outline from an SVG file into a job")))
    trace.add_argument("job", type=Path, metavar="JOB")
    trace.add_argument("svg", type=Path, metavar="SVG")
    trace.add_argument(
        "--smooth", type=float, default=0.0, metavar="MM", help=said(tr("smooth it, leaving its points by no more than this"))
    )
    trace.set_defaults(run=_outline)

    tape = commands.add_parser("tape", help=said(tr("a simulated wireless tape: sends each line it is given to the open bench")))
    tape.add_argument(
        "lengths",
        nargs="*",
        metavar="LENGTH",
        help=said(tr("as written on paper; without any, lines are read from the terminal")),
    )
    tape.add_argument(
        "--socket", type=Path, metavar="PATH", help=said(tr("where the bench listens, when not in the usual place"))
    )
    tape.set_defaults(run=_tape)

    card = commands.add_parser("card", help=said(tr("the blank tape card of a job, as PDF")))
    card.add_argument("job", type=Path, metavar="JOB")
    card.add_argument("pdf", type=Path, metavar="F")
    card.add_argument("--paper", default="A4", choices=SMALL)
    card.set_defaults(run=_card)

    schema = commands.add_parser("schema", help=said(tr("the JSON Schema of a job")))
    schema.set_defaults(run=_schema)

    new = commands.add_parser("new", help=said(tr("a job with plausible sample readings, to start from")))
    new.add_argument("form", nargs="?", metavar="FORM")
    new.add_argument("scheme", nargs="?", metavar="SCHEME")
    new.add_argument("--list", action="store_true", help=said(tr("the lawful pairs of form and scheme")))
    new.add_argument("--json", action="store_true", help=said(tr("the list as JSON")))
    new.add_argument("--unit", default="mm", choices=tuple(unit.value for unit in Unit))
    new.add_argument("-o", "--output", type=Path, metavar="F", help=said(tr("write it there instead of to the terminal")))
    new.set_defaults(run=_new)
    return parser


def _bench(asked: argparse.Namespace) -> int:
    from omnipel.bench.app import run

    return run(demo=asked.demo, shop=asked.shop)


def _draft(asked: argparse.Namespace) -> int:
    from omnipel.core.draft import draft
    from omnipel.exchange.report import report, text
    from omnipel.shop.document import read

    drafted = draft(read(asked.job))
    print(json.dumps(report(drafted), indent=1, ensure_ascii=False) if asked.json else text(drafted))
    return 0


def _check(asked: argparse.Namespace) -> int:
    from omnipel.core.draft import draft
    from omnipel.core.job.changes import changed
    from omnipel.exchange.report import finding_lines, report
    from omnipel.shop.document import read, write

    job = read(asked.job)
    drafted = draft(job)
    if asked.fix:
        found = [f for f in drafted.findings if f.code == asked.fix and f.remedies]
        if not found:
            raise UsageError(tr("{job} has no finding “{code}” with a remedy", job=Name(asked.job.name), code=Name(asked.fix)))
        remedy = found[0].remedies[0]
        job = changed(job, *remedy.changes)
        write(job, asked.job)
        print(Voice(job.unit).say(tr("done: {remedy}", remedy=remedy.words)), file=sys.stderr)
        drafted = draft(job)
    if asked.json:
        print(json.dumps(report(drafted)["findings"], indent=1, ensure_ascii=False))
    else:
        print("\n".join(finding_lines(drafted)) or tr("nothing to say: every seam is true and the cover goes on"))
    return int(drafted.stops)


def _export(asked: argparse.Namespace) -> int:
    from omnipel.core.draft import NotYet, draft
    from omnipel.shop.document import read

    if not (asked.pdf or asked.svg):
        raise UsageError(tr("export: say what to write, --pdf F or --svg F"))
    drafted = draft(read(asked.job))
    name, voice = Name(asked.job.name), Voice(drafted.job.unit)
    first = Name(voice.sentence(drafted.findings[0].text)) if drafted.findings else Name("")
    if isinstance(drafted, NotYet):
        raise UsageError(tr("{job}: there are no panels yet. {finding}", job=name, finding=first))
    if drafted.stops and not asked.despite_stop:
        raise UsageError(tr("{job}: do not cut. {finding} (--despite-stop exports all the same)", job=name, finding=first))
    if asked.svg:
        from omnipel.exchange.svg import svg

        asked.svg.write_text(svg(drafted), encoding="utf-8")
    if asked.pdf:
        from omnipel.exchange.pattern import pattern_pdf

        asked.pdf.write_bytes(pattern_pdf(drafted, asked.paper))
    return 0


def _outline(asked: argparse.Namespace) -> int:
    from omnipel.core.job.changes import changed
    from omnipel.core.job.findings import Change
    from omnipel.exchange.outlines import read_svg_outline
    from omnipel.shop.document import read, write

    if not 0.0 <= asked.smooth <= 100.0:
        raise UsageError(tr("outline: --smooth takes 0 to 100, in millimetres"))
    job = read(asked.job)
    write(changed(job, Change("thing.outline", read_svg_outline(asked.svg, smoothing=asked.smooth))), asked.job)
    return 0


def _tape(asked: argparse.Namespace) -> int:
    from omnipel.exchange.tape_device import TapeDevice, send_all, socket_path

    refused = 0
    for answer in send_all(asked.lengths or sys.stdin, TapeDevice(asked.socket or socket_path())):
        print(answer, flush=True)
        refused += answer.startswith("NO")
    return int(refused > 0)


def _card(asked: argparse.Namespace) -> int:
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


def _schema(asked: argparse.Namespace) -> int:
    from omnipel.shop.document import schema

    print(json.dumps(schema(), indent=1))
    return 0


def _new(asked: argparse.Namespace) -> int:
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
        job = starter(asked.form, asked.scheme, Unit(asked.unit))
    except UnknownPair as error:
        raise UsageError(tr("new: {fault}", fault=error.phrase)) from None
    if asked.output:
        write(job, asked.output)
    else:
        print(dumped(job), end="")
    return 0


if __name__ == "__main__":
    sys.exit(main())
