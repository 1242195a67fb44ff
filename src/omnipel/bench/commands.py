"""The registry of commands: feeds the menu, the keys, go-to and the end-to-end tests."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

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
    words: str
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


COMMANDS = (
    Command("shelf", "Shelf: all jobs", "Ctrl+0", always, lambda w: w.show_station("shelf")),
    Command("object", "Station: Object", "Ctrl+1", with_job, lambda w: w.show_station("object")),
    Command("tape", "Station: Tape", "Ctrl+2", with_job, lambda w: w.show_station("tape")),
    Command("cover", "Station: Cover", "Ctrl+3", with_job, lambda w: w.show_station("cover")),
    Command("panels", "Station: Panels", "Ctrl+4", with_job, lambda w: w.show_station("panels")),
    Command("new", "New job", "Ctrl+N", always, lambda w: w.new_job()),
    Command("rename", "Rename the job", "F2", with_job, lambda w: w.rename()),
    Command("go-to", "Go to anything", "Ctrl+K", always, lambda w: w.go_to_anything()),
    Command("unit", "Flip the unit", "Ctrl+U", with_job, lambda w: w.flip_unit()),
    Command("undo", "Undo", "Ctrl+Z", with_job, lambda w: w.session.undo()),
    Command("redo", "Redo", "Ctrl+Shift+Z", with_job, lambda w: w.session.redo()),
    Command("history", "History of changes", "Ctrl+H", with_job, lambda w: w.show_history()),
    Command("papers", "Print the pattern", "Ctrl+P", with_panels, lambda w: w.papers()),
    Command("tape-card", "Blank tape card", "Ctrl+T", with_job, lambda w: w.ask_tape_card()),
    Command("import", "Bring in a job file", "Ctrl+O", always, lambda w: w.import_jobs()),
    Command("export", "Write the job file", "Ctrl+E", with_job, lambda w: w.export_job()),
    Command("larger", "Larger text", "Ctrl++", always, lambda w: w.scale_text(+0.1)),
    Command("smaller", "Smaller text", "Ctrl+-", always, lambda w: w.scale_text(-0.1)),
    Command("dark", "Light or dark", "Ctrl+D", always, lambda w: w.flip_dark()),
    Command("explain", "Explain this", "F1", always, lambda w: w.explain()),
)
