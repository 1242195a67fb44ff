"""The registry of commands: feeds the menu, the keys, go-to and the end-to-end tests."""

from omnipel.bench.commands import dress, habits, helping, jobs, papers
from omnipel.bench.commands.desk import Command, Desk
from omnipel.bench.commands.goto import go_to_anything
from omnipel.core.covers.rounding import roundings
from omnipel.core.words.phrases import tr


def always(_desk: Desk) -> bool:
    """Can always be done."""
    return True


def with_job(desk: Desk) -> bool:
    """Can be done while a job is open."""
    return desk.session.job is not None


def with_panels(desk: Desk) -> bool:
    """Can be done once panels are drafted."""
    return bool(desk.session.draft and desk.session.draft.panels)


def with_rounding(desk: Desk) -> bool:
    """Can be done while something chosen is not round in the job's unit."""
    return desk.session.job is not None and bool(roundings(desk.session.job))


COMMANDS = (
    Command("shelf", tr("Shelf: all jobs"), "Ctrl+0", always, lambda desk: desk.show_station("shelf")),
    Command("object", tr("Station: Object"), "Ctrl+1", with_job, lambda desk: desk.show_station("object")),
    Command("tape", tr("Station: Tape"), "Ctrl+2", with_job, lambda desk: desk.show_station("tape")),
    Command("cover", tr("Station: Cover"), "Ctrl+3", with_job, lambda desk: desk.show_station("cover")),
    Command("panels", tr("Station: Panels"), "Ctrl+4", with_job, lambda desk: desk.show_station("panels")),
    Command("new", tr("New job"), "Ctrl+N", always, jobs.new_job),
    Command("rename", tr("Rename the job"), "F2", with_job, jobs.rename),
    Command("go-to", tr("Go to anything"), "Ctrl+K", always, go_to_anything),
    Command("unit", tr("Flip the unit"), "Ctrl+U", with_job, habits.flip_unit),
    Command("round", tr("Round everything chosen"), "Ctrl+R", with_rounding, habits.round_chosen),
    Command("habits", tr("Habits of this shop"), "", always, habits.edit_habits),
    Command("undo", tr("Undo"), "Ctrl+Z", with_job, lambda desk: desk.session.undo()),
    Command("redo", tr("Redo"), "Ctrl+Shift+Z", with_job, lambda desk: desk.session.redo()),
    Command("history", tr("History of changes"), "Ctrl+H", with_job, jobs.show_history),
    Command("papers", tr("Print the pattern"), "Ctrl+P", with_panels, papers.ask_pattern),
    Command("card-line", tr("Type readings in one go"), "Ctrl+L", with_job, jobs.type_card),
    Command("tape-card", tr("Blank tape card"), "Ctrl+T", with_job, papers.ask_tape_card),
    Command("import", tr("Bring in a job file"), "Ctrl+O", always, jobs.import_jobs),
    Command("export", tr("Write the job file"), "Ctrl+E", with_job, jobs.export_job),
    Command("larger", tr("Larger text"), "Ctrl++", always, lambda desk: dress.scale_text(desk, +0.1)),
    Command("smaller", tr("Smaller text"), "Ctrl+-", always, lambda desk: dress.scale_text(desk, -0.1)),
    Command("dark", tr("Light or dark"), "Ctrl+D", always, dress.flip_dark),
    Command("explain", tr("Explain this"), "F1", always, helping.explain),
)
