"""Jobs in and out of the shop: new, copied, deleted, renamed, brought in, written out, stepped back."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtWidgets import QDialog, QFileDialog, QInputDialog, QLineEdit

from omnipel.bench.commands.desk import Desk
from omnipel.bench.commands.habits import shop_habits, shop_unit
from omnipel.bench.parts.pick import PickDialog
from omnipel.bench.speech import say
from omnipel.core.covers import schemes_for
from omnipel.core.forms import FORMS
from omnipel.core.words import refs
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Name, Phrase, listed, tr, trn
from omnipel.core.words.refs import Of, Ref
from omnipel.shop.document import SUFFIX, DocumentError, file_name, read, write
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter
from omnipel.shop.store import StoreError


def new_job(desk: Desk) -> None:
    """A new job without readings; the Object station asks what it is."""
    if _begin(desk, next(iter(FORMS))):
        desk.show_station("object")


def _begin(desk: Desk, form: str) -> bool:
    """Put an empty job for a form into the shop, in the unit and with the habits of this shop, and open it."""
    store = desk.session.store
    unit = shop_unit(store)
    names = {card.job.name for card in store.cards(archived=True)}
    first = say(tr("New cover"))
    name = next(n for n in (first, *(f"{first} {i}" for i in range(2, 9999))) if n not in names)
    habits = shop_habits(store, System.of(unit))
    job = starter(form, schemes_for(FORMS[form])[0].key, unit, name=name, with_readings=False, habits=habits)
    return desk.session.add(job, tr("new job")) is not None


def new_from_card(desk: Desk) -> None:
    """A job to be filled from a tape card: which form, then all readings in one go."""
    entries: list[tuple[str, object]] = [(say(form.words), key) for key, form in FORMS.items()]
    dialog = PickDialog(desk.widget, tr("What was measured?"), entries)
    if dialog.exec() == QDialog.DialogCode.Accepted and isinstance(dialog.picked, str) and _begin(desk, dialog.picked):
        type_card(desk)


def type_card(desk: Desk) -> None:
    """To the line that takes readings by their letters."""
    desk.show_station("tape")
    desk.station("tape").focus_card()


def add_samples(desk: Desk) -> None:
    """Put the sample jobs into an empty shop, to look round."""
    for sample in SAMPLES:
        desk.session.store.add(sample(), say(tr("sample job")))
    desk.show_station("shelf")


def duplicate(desk: Desk, key: int) -> None:
    """A job like another one."""
    job = desk.session.store.job(key)
    desk.session.add(replace(job, name=say(tr("{job}, copy", job=Name(job.name)))[:120]), tr("duplicated"))
    desk.show_station("object")


def delete(desk: Desk, key: int) -> None:
    """Take a job off the shelf; a link in the working line brings it back."""
    name = desk.session.store.job(key).name
    desk.session.store.delete(key)
    if desk.session.key == key:
        desk.session.close_job()
    desk.station("shelf").refresh()
    desk.session.offer(tr("{job} is deleted.", job=Name(name)), tr("Bring it back"), Ref(Of.DELETED, str(key)))


"""Paths that begin so bring a deleted job back."""


def bring_back(desk: Desk, key: int) -> None:
    """Put a deleted job on the shelf again."""
    desk.session.store.delete(key, False)
    desk.station("shelf").refresh()
    desk.session.say("fine", tr("It is back."))


def rename(desk: Desk) -> None:
    """Ask for another name."""
    session = desk.session
    name, done = QInputDialog.getText(
        desk.widget, say(tr("Rename")), say(tr("Name of the job")), QLineEdit.EchoMode.Normal, session.open_job.name
    )
    if done and name.strip():
        session.set(refs.of_job("name"), name.strip()[:120], tr("named {name}", name=Name(name.strip())))


def show_history(desk: Desk) -> None:
    """All changes of the job; the chosen one is gone back (or forward) to."""
    session = desk.session
    if session.key is None:
        return
    revisions, position = session.store.history(session.key)
    entries: list[tuple[str, object]] = [
        (f"{'▸ ' if r.number == position else ''}{r.reason}   {r.made[11:16]}", r.number) for r in reversed(revisions)
    ]
    dialog = PickDialog(desk.widget, tr("History of changes"), entries, current=len(revisions) - position)
    if dialog.exec() == QDialog.DialogCode.Accepted and isinstance(dialog.picked, int):
        session.go_to_revision(dialog.picked)


def import_jobs(desk: Desk) -> None:
    """Ask for job files and bring them in."""
    paths, _ = QFileDialog.getOpenFileNames(
        desk.widget, say(tr("Bring in job files")), "", f"{say(tr('Omnipel jobs'))} (*{SUFFIX} *.json)"
    )
    bring_in(desk, [Path(p) for p in paths])


def bring_in(desk: Desk, paths: list[Path]) -> None:
    """Bring job files in; what is no job is said, and the rest comes in all the same."""
    faults: list[Phrase] = []
    came = 0
    for path in paths:
        try:
            desk.session.store.add(read(path), say(tr("brought in from {file}", file=Name(path.name))))
            came += 1
        except (DocumentError, StoreError) as error:
            faults.append(error.phrase)
    if came:
        desk.show_station("shelf")
    if faults:
        desk.session.say("stop", tr("Not brought in: {faults}", faults=listed(faults, "; ")))
    elif came:
        desk.session.say("fine", trn("{n} job brought in.", "{n} jobs brought in.", came))


def export_job(desk: Desk) -> None:
    """Ask where to, and write the job's file."""
    job = desk.session.open_job
    path, _ = QFileDialog.getSaveFileName(
        desk.widget, say(tr("Write the job file")), file_name(job.name, SUFFIX), f"{say(tr('Omnipel jobs'))} (*{SUFFIX})"
    )
    if not path:
        return
    try:
        write(job, Path(path))
    except OSError as error:
        desk.session.not_written(Path(path), error)
        return
    desk.session.say("fine", tr("Written: {path}", path=Name(path)))
