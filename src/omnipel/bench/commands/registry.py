"""The registry of commands: feeds the menu, the keys, go-to and the end-to-end tests. Stations and exports bring their own."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from importlib import import_module
from typing import Any, Final

from omnipel.bench.commands import dress
from omnipel.bench.commands.desk import Command, Desk
from omnipel.bench.stations import STATIONS
from omnipel.core.words.phrases import tr
from omnipel.exchange.export import Export
from omnipel.exchange.exports import EXPORTS

STATIONS_OF: Final = tr("Stations")
JOB: Final = tr("This job")
PAPERS: Final = tr("Papers")
FILES: Final = tr("Files for other programs")
SHOP: Final = tr("This shop")
WINDOW: Final = tr("Window")
"""Groups of the menu; what belongs to none stands in the menu itself."""


def later(where: str) -> Callable[..., Any]:
    """A function of one of these modules, `module:name`; the module is loaded when it is called, and with it what works on jobs."""

    def called(*arguments: Any) -> Any:
        module, _, name = where.partition(":")
        return getattr(import_module(f"omnipel.bench.commands.{module}"), name)(*arguments)

    return called


def always(_desk: Desk) -> bool:
    """Can always be done."""
    return True


def with_job(desk: Desk) -> bool:
    """Can be done while a job is open."""
    return desk.session.job is not None


def with_rounding(desk: Desk) -> bool:
    """Can be done while something chosen is not round in the job's unit."""
    if desk.session.job is None:
        return False
    from omnipel.core.finishing.rounding import roundings  # loaded with the job

    return bool(roundings(desk.session.job))


def all_commands() -> tuple[Command, ...]:
    """Everything a person can do, in the order of the menu."""
    return (
        *_FIRST,
        Command(
            "shelf", tr("Shelf: all jobs"), "Ctrl+0", always, lambda desk: desk.show_station("shelf"), STATIONS_OF, apart=True
        ),
        *(
            Command(
                key,
                tr("Station: {station}", station=station.words),
                f"Ctrl+{i}",
                with_job,
                partial(_walk, key),
                STATIONS_OF,
                station.words,
            )
            for i, (key, station) in enumerate(STATIONS.items(), 1)
        ),
        *_JOB,
        *(_written(export) for export in EXPORTS.values() if export.papers),
        *(_written(export) for export in EXPORTS.values() if not export.papers),
        *_MACHINE,
        *_SHOP,
        *_WINDOW,
        *_LAST,
    )


def _walk(key: str, desk: Desk) -> None:
    desk.show_station(key)


def _written(export: Export) -> Command:
    """The command that writes a file or prints a paper."""
    return Command(
        f"export-{export.id}",
        export.menu or tr("Write: {export}", export=export.words),
        export.keys,
        lambda desk: export.possible(desk.session.draft),
        partial(_export, export.id),
        PAPERS if export.papers else FILES,
        export.words,
    )


def _export(key: str, desk: Desk) -> None:
    later("papers:ask_export")(desk, key)


_FIRST = (
    Command("new", tr("New job"), "Ctrl+N", always, later("jobs:new_job")),
    Command("go-to", tr("Go to anything"), "Ctrl+K", always, later("goto:go_to_anything")),
    Command("undo", tr("Undo"), "Ctrl+Z", with_job, lambda desk: desk.session.undo(), apart=True),
    Command("redo", tr("Redo"), "Ctrl+Shift+Z", with_job, lambda desk: desk.session.redo()),
    Command("history", tr("History of changes"), "Ctrl+H", with_job, later("jobs:show_history")),
)
_JOB = (
    Command("rename", tr("Rename the job"), "F2", with_job, later("jobs:rename"), JOB),
    Command("unit", tr("Flip the unit"), "Ctrl+U", with_job, later("habits:flip_unit"), JOB),
    Command("round", tr("Round everything chosen"), "Ctrl+R", with_rounding, later("habits:round_chosen"), JOB),
    Command("readings-table", tr("Bring in readings from a table…"), "", with_job, later("jobs:import_readings"), JOB),
    Command("card-line", tr("Type readings in one go"), "Ctrl+L", with_job, later("jobs:type_card"), JOB),
    Command("again", tr("Make it again…"), "Ctrl+Shift+N", with_job, later("making:make_again"), JOB),
    Command("family", tr("In several sizes…"), "", with_job, later("making:in_sizes"), JOB),
    Command("export", tr("Write the job file"), "Ctrl+E", with_job, later("jobs:export_job"), JOB),
)
_MACHINE = (Command("cut", tr("Cut with a machine…"), "Ctrl+Shift+K", with_job, later("cutting:cut_with_machine")),)
_SHOP = (
    Command("import", tr("Bring in a job file"), "Ctrl+O", always, later("jobs:import_jobs"), SHOP, apart=True),
    Command("deleted", tr("Deleted jobs"), "", always, later("jobs:show_deleted"), SHOP),
    Command("habits", tr("Habits of this shop"), "", always, later("habits:edit_habits"), SHOP),
)
_WINDOW = (
    Command("larger", tr("Larger text"), "Ctrl++", always, lambda desk: dress.scale_text(desk, +0.1), WINDOW),
    Command("smaller", tr("Smaller text"), "Ctrl+-", always, lambda desk: dress.scale_text(desk, -0.1), WINDOW),
    Command("dark", tr("Light or dark"), "Ctrl+D", always, dress.flip_dark, WINDOW),
    Command("language", tr("Language…"), "", always, later("tongue:ask_tongue"), WINDOW),
)
_LAST = (
    Command("explain", tr("Explain this"), "F1", always, later("explaining:explain")),
    Command("about", tr("About Omnipel"), "", always, later("helping:show_about")),
    Command("quit", tr("Quit"), "Ctrl+Q", always, lambda desk: desk.widget.close(), apart=True),
)
