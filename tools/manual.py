"""The manual page and the shells' completions, made from the command line's own help (`make docs`)."""

import argparse
import re
from pathlib import Path

import shtab

from omnipel import __version__
from omnipel.cli import whole_parser

FOLDER = Path(__file__).parent.parent / "src" / "omnipel" / "desktop"


def roff(text: str) -> str:
    """A text as a manual page has it."""
    kept = text.replace("\\", "\\e").replace("-", "\\-").replace("%%", "%")
    return re.sub(r"(?m)^([.'])", r"\\&\1", " ".join(kept.split()))


def commands_of(parser: argparse.ArgumentParser) -> list[tuple[str, str, argparse.ArgumentParser]]:
    """The commands of a parser: name, help, their own parser."""
    found = [action for action in parser._actions if isinstance(action, argparse._SubParsersAction)]
    return [
        (name, next((c.help or "" for c in action._choices_actions if c.dest == name), ""), inner)
        for action in found
        for name, inner in action.choices.items()
    ]


def options_of(parser: argparse.ArgumentParser) -> list[str]:
    """The arguments of a parser, each as a paragraph with a hanging tag."""
    lines = []
    for action in parser._actions:
        if isinstance(action, argparse._SubParsersAction | argparse._HelpAction):
            continue
        metavar = (
            action.metavar if isinstance(action.metavar, str) else "|".join(map(str, action.choices or ())) or action.dest.upper()
        )
        takes = "" if action.nargs == 0 or isinstance(action, argparse._VersionAction) else f" \\fI{roff(metavar)}\\fR"
        tag = (
            ", ".join(f"\\fB{roff(name)}\\fR" for name in action.option_strings) + takes
            if action.option_strings
            else takes.strip()
        )
        lines += [".TP", tag, roff(action.help) if action.help else "\\&"]
    return lines


def manual() -> str:
    """The manual page."""
    parser = whole_parser()
    lines = [
        f'.TH OMNIPEL 1 "" "Omnipel {__version__}" "User Commands"',
        ".SH NAME",
        "omnipel \\- drafts fitted fabric covers from tape readings",
        ".SH SYNOPSIS",
        ".B omnipel",
        "[\\fIoptions\\fR] [\\fIjob file\\fR ...]",
        ".br",
        ".B omnipel",
        "\\fIcommand\\fR [\\fIarguments\\fR]",
        ".SH DESCRIPTION",
        roff(parser.description or ""),
        "Without a command the bench is opened, with job files these are brought in; a bench that is open already takes them.",
        ".SH OPTIONS",
        *options_of(parser),
        ".SH COMMANDS",
    ]
    for name, about, inner in commands_of(parser):
        lines += [f".SS {roff(name)}", roff(about[:1].upper() + about[1:]) + ".", *options_of(inner)]
        for part, told, deeper in commands_of(inner):
            lines += [".TP", f"\\fB{roff(name)} {roff(part)}\\fR", roff(told), ".RS", *options_of(deeper), ".RE"]
    lines += [
        ".SH EXIT STATUS",
        "0: done. 1: what was checked says stop. 2: it could not be done; a line says why. 70: a fault of the program. 130: broken off.",
        ".SH FILES",
        ".TP",
        "\\fI$XDG_DATA_HOME/omnipel/shop.sqlite\\fR",
        "your shop, with every job and every change; \\fB\\-\\-shop\\fR takes another",
        ".SH SEE ALSO",
        "docs/ beside the source: file\\-format.md, tape\\-protocol.md, cutter\\-protocol.md, findings.md",
    ]
    return "\n".join(lines) + "\n"


def completions() -> dict[str, str]:
    """What bash and zsh complete, by file."""
    made = {"omnipel.bash": shtab.complete(whole_parser(), "bash"), "_omnipel": shtab.complete(whole_parser(), "zsh")}
    return {name: text.rstrip() + "\n" for name, text in made.items()}


def write() -> None:
    """Write them all."""
    (FOLDER / "omnipel.1").write_text(manual(), encoding="utf-8")
    for name, text in completions().items():
        (FOLDER / "completion" / name).write_text(text, encoding="utf-8")


if __name__ == "__main__":
    write()
