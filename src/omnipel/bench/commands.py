"""The registry of commands: feeds the menu, the keys, go-to and the end-to-end tests."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from omnipel.core.covers.rounding import roundings
from omnipel.core.words.phrases import Phrase, tr

if TYPE_CHECKING:
    from omnipel.bench.window import Window


@dataclass(frozen=True, slots=True)
class Command:
    """Something a person can do.

    Args:
        id: stable name.
        words: what it says in the menu and in go-to.
        keys: its key sequence, "" for none.
        when: whether it can be done now.
        run: do it.
    """

    id: str
    words: Phrase
    keys: str
    when: Callable[[Window], bool]
    run: Callable[[Window], object]


def always(_window: Window) -> bool:
    """Can always be done."""
    return True


def with_job(window: Window) -> bool:
    """Can be done while a job is open."""
    return window.session.job is not None


def with_panels(window: Window) -> bool:
    """Can be done once panels are drafted."""
    return bool(window.session.draft and window.session.draft.panels)


def with_rounding(window: Window) -> bool:
    """Can be done while something chosen is not round in the job's unit."""
    return window.session.job is not None and bool(roundings(window.session.job))


COMMANDS = (
    Command("shelf", tr("Shelf: all jobs"), "Ctrl+0", always, lambda w: w.show_station("shelf")),
    Command("object", tr("Station: Object"), "Ctrl+1", with_job, lambda w: w.show_station("object")),
    Command("tape", tr("Station: Tape"), "Ctrl+2", with_job, lambda w: w.show_station("tape")),
    Command("cover", tr("Station: Cover"), "Ctrl+3", with_job, lambda w: w.show_station("cover")),
    Command("panels", tr("Station: Panels"), "Ctrl+4", with_job, lambda w: w.show_station("panels")),
    Command("new", tr("New job"), "Ctrl+N", always, lambda w: w.new_job()),
    Command("rename", tr("Rename the job"), "F2", with_job, lambda w: w.rename()),
    Command("go-to", tr("Go to anything"), "Ctrl+K", always, lambda w: w.go_to_anything()),
    Command("unit", tr("Flip the unit"), "Ctrl+U", with_job, lambda w: w.flip_unit()),
    Command("round", tr("Round everything chosen"), "Ctrl+R", with_rounding, lambda w: w.round_chosen()),
    Command("habits", tr("Habits of this shop"), "", always, lambda w: w.edit_habits()),
    Command("undo", tr("Undo"), "Ctrl+Z", with_job, lambda w: w.session.undo()),
    Command("redo", tr("Redo"), "Ctrl+Shift+Z", with_job, lambda w: w.session.redo()),
    Command("history", tr("History of changes"), "Ctrl+H", with_job, lambda w: w.show_history()),
    Command("papers", tr("Print the pattern"), "Ctrl+P", with_panels, lambda w: w.papers()),
    Command("card-line", tr("Type readings in one go"), "Ctrl+L", with_job, lambda w: w.type_card()),
    Command("tape-card", tr("Blank tape card"), "Ctrl+T", with_job, lambda w: w.ask_tape_card()),
    Command("import", tr("Bring in a job file"), "Ctrl+O", always, lambda w: w.import_jobs()),
    Command("export", tr("Write the job file"), "Ctrl+E", with_job, lambda w: w.export_job()),
    Command("larger", tr("Larger text"), "Ctrl++", always, lambda w: w.scale_text(+0.1)),
    Command("smaller", tr("Smaller text"), "Ctrl+-", always, lambda w: w.scale_text(-0.1)),
    Command("dark", tr("Light or dark"), "Ctrl+D", always, lambda w: w.flip_dark()),
    Command("explain", tr("Explain this"), "F1", always, lambda w: w.explain()),
)
