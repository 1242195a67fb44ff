"""Jobs in and out of the shop: new, copied, deleted, renamed, brought in, written out, stepped back."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtWidgets import QFileDialog

from omnipel.bench.commands.desk import Desk
from omnipel.bench.commands.habits import shop_habits
from omnipel.bench.commands.units import shop_unit
from omnipel.bench.parts.asking import Question, answered, typed
from omnipel.bench.parts.pick import picked_from
from omnipel.bench.speech import say
from omnipel.bench.stations.shelf.cards import touched
from omnipel.core.covers import schemes_for
from omnipel.core.forms import FORMS
from omnipel.core.words import refs
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Name, Phrase, listed, tr, trn
from omnipel.core.words.refs import Of, Ref
from omnipel.exchange.files.travel import SUFFIX as TRAVELS
from omnipel.exchange.files.travel import with_photos
from omnipel.shop.document import SUFFIX, DocumentError, file_name, write
from omnipel.shop.opening import StoreError
from omnipel.shop.photos import keep
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter
from omnipel.shop.whole import NotWritten, write_whole

LONGEST_NAME = 120


def new_job(desk: Desk) -> None:
    """A new job without readings; the Object station asks what it is."""
    if _begin(desk, next(iter(FORMS))):
        desk.show_station("object")


def _begin(desk: Desk, form: str) -> bool:
    """Put an empty job for a form into the shop, in the unit and with the habits of this shop, and open it."""
    store = desk.session.store
    unit = shop_unit(store)
    names = {card.name for card in store.cards(archived=True)}
    first = say(tr("New cover"))
    name = next(n for n in (first, *(f"{first} {i}" for i in range(2, len(names) + 3))) if n not in names)
    habits = shop_habits(store, System.of(unit))
    job = starter(form, schemes_for(FORMS[form])[0].key, unit, name=name, with_readings=False, habits=habits)
    return desk.session.add(job, tr("new job")) is not None


def new_from_card(desk: Desk) -> None:
    """A job to be filled from a tape card: which form, then all readings in one go."""
    entries: list[tuple[str, object]] = [(say(form.words), key) for key, form in FORMS.items()]
    picked = picked_from(desk.widget, tr("What was measured?"), entries)
    if isinstance(picked, str) and _begin(desk, picked):
        type_card(desk)


def type_card(desk: Desk) -> None:
    """To the line that takes readings by their letters."""
    desk.show_station("tape")
    desk.station("tape").focus_card()


def import_readings(desk: Desk) -> None:
    """Ask for a table of readings, and take them all as one change."""
    path, _ = QFileDialog.getOpenFileName(desk.widget, say(tr("Bring in readings")), "", f"{say(tr('Tables'))} (*.csv)")
    if path:
        take_table(desk, Path(path))


def take_table(desk: Desk, path: Path) -> None:
    """The readings of a table into the open job; what is wrong with one is said, and then none is taken."""
    from omnipel.core.job.document import with_reading
    from omnipel.exchange.reading.readings import read_readings

    session = desk.session
    job = session.open_job
    try:
        readings = read_readings(path, job)
    except DocumentError as error:
        session.say("stop", tr("Not brought in: {fault}", fault=error.phrase))
        return
    for reading in readings:
        job = with_reading(job, reading)
    if session.apply(job, tr("readings from {file}", file=Name(path.name))):
        session.say("fine", trn("{n} reading brought in.", "{n} readings brought in.", len(readings)))
    desk.show_station("tape")


def add_samples(desk: Desk) -> None:
    """Put the sample jobs into an empty shop, to look round."""
    try:
        for sample in SAMPLES:
            desk.session.store.add(sample(), say(tr("sample job")))
    except StoreError as error:
        desk.session.say("stop", tr("Not kept: {fault}", fault=error.phrase))
    desk.show_station("shelf")


def duplicate(desk: Desk, key: int) -> None:
    """A job like another one."""
    job = desk.session.read(key)
    if job is None:
        return
    name = say(tr("{job}, copy", job=Name(job.name)))[:LONGEST_NAME]
    if desk.session.add(replace(job, name=name), tr("duplicated")) is not None:
        desk.show_station("object")


def delete(desk: Desk, key: int) -> None:
    """Take a job off the shelf; a link in the working line brings it back, and so does the list of deleted jobs."""
    session = desk.session
    name = session.store.name(key)
    try:
        session.store.delete(key)
    except StoreError as error:
        session.say("stop", tr("Not deleted: {fault}", fault=error.phrase))
        return
    if session.key == key:
        session.close_job()
    desk.station("shelf").refresh()
    session.offer(tr("{job} is deleted.", job=Name(name)), tr("Bring it back"), Ref(Of.DELETED, str(key)))


def bring_back(desk: Desk, key: int) -> None:
    """Put a deleted job on the shelf again."""
    try:
        desk.session.store.delete(key, False)
    except StoreError as error:
        desk.session.say("stop", error.phrase)
        return
    desk.station("shelf").refresh()
    desk.session.say("fine", tr("{job} is back.", job=Name(desk.session.store.name(key))))


def show_deleted(desk: Desk) -> None:
    """What was deleted, all of it; the chosen one is brought back."""
    gone = desk.session.store.cards(deleted=True)
    if not gone:
        desk.session.say("note", tr("No job has been deleted."))
        return
    entries: list[tuple[str, object]] = [
        (say(tr("{job}   {when}", job=Name(card.name), when=touched(card.touched))), card.id) for card in gone
    ]
    picked = picked_from(desk.widget, tr("Bring back which job?"), entries)
    if isinstance(picked, int):
        desk.show_station("shelf")
        bring_back(desk, picked)


def go_back_to_readable(desk: Desk, key: int) -> None:
    """A job whose document is damaged: back to the last change that can be read."""
    number = desk.session.store.last_readable(key)
    if number is None:
        desk.session.say("stop", tr("None of its changes can be read."))
        return
    try:
        desk.session.store.go_to(key, number)
    except StoreError as error:
        desk.session.say("stop", error.phrase)
        return
    if desk.session.open(key):
        desk.show_station("object")


def rename(desk: Desk) -> None:
    """Ask for another name."""
    session = desk.session
    name = typed(desk.widget, tr("Rename"), tr("Name of the job"), session.open_job.name)
    if name is not None and name.strip():
        kept = name.strip()[:LONGEST_NAME]
        session.set(refs.of_job("name"), kept, tr("named {name}", name=Name(kept)))


def show_history(desk: Desk) -> None:
    """All changes of the job; the chosen one is gone back (or forward) to."""
    session = desk.session
    if session.key is None:
        return
    revisions, position = session.store.history(session.key)
    entries: list[tuple[str, object]] = [
        (
            say(
                tr(
                    "{mark}{reason}   {when}",
                    mark=Name("▸ " if r.number == position else ""),
                    reason=Name(r.reason),
                    when=touched(r.made),
                )
            ),
            r.number,
        )
        for r in reversed(revisions)
    ]
    picked = picked_from(desk.widget, tr("History of changes"), entries, current=len(revisions) - position)
    if isinstance(picked, int):
        session.go_to_revision(picked)


def import_jobs(desk: Desk) -> None:
    """Ask for job files and bring them in."""
    paths, _ = QFileDialog.getOpenFileNames(
        desk.widget, say(tr("Bring in job files")), "", f"{say(tr('Omnipel jobs'))} (*{SUFFIX} *{TRAVELS} *.json)"
    )
    bring_in(desk, [Path(p) for p in paths])


def bring_in(desk: Desk, paths: list[Path]) -> None:
    """Bring job files in; what is no job is said, and the rest comes in all the same."""
    faults: list[Phrase] = []
    came = 0
    key: int | None = None
    for path in paths:
        try:
            key = _brought(desk, path)
            came += 1
        except (DocumentError, StoreError) as error:
            faults.append(error.phrase)
    if came == 1 and len(paths) == 1 and key is not None and desk.session.open(key):
        desk.show_station("fit" if desk.session.open_job.tries else "object")
    elif came:
        desk.show_station("shelf")
    if faults:
        desk.session.say("stop", tr("Not brought in: {faults}", faults=listed(faults, "; ")))
    elif came:
        desk.session.say("fine", trn("{n} job brought in.", "{n} jobs brought in.", came))


def _brought(desk: Desk, path: Path) -> int:
    """Bring a job in, with the photos that came with it; the key of the one that is there already where it is the very same.

    Raises:
        DocumentError: it is no job.
        StoreError: it cannot be kept.
    """
    job, photos = with_photos(path)
    store = desk.session.store
    for digest, content in photos.items():
        keep(store, digest, content)
    for card in store.cards(archived=True):
        if card.name == job.name and desk.session.read(card.id, silent=True) == job:
            return card.id
    return store.add(job, say(tr("brought in from {file}", file=Name(path.name))))


def export_job(desk: Desk) -> None:
    """Ask where to, and write the job's file."""
    job = desk.session.open_job
    path, _ = QFileDialog.getSaveFileName(
        desk.widget,
        say(tr("Write the job file")),
        str(Path.home() / file_name(job.name, SUFFIX)),
        f"{say(tr('Omnipel jobs'))} (*{SUFFIX})",
    )
    if not path:
        return
    try:
        write(job, Path(path))
    except NotWritten as error:
        desk.session.not_written(error)
        return
    desk.session.say("fine", tr("Written: {path}", path=Name(path)))


def write_document(desk: Desk, key: int) -> None:
    """Write what the shop holds of a job as a job file, as it is: also what this program cannot read."""
    job = desk.session.store.text(key)[0]
    name = desk.session.store.name(key)
    path, _ = QFileDialog.getSaveFileName(
        desk.widget,
        say(tr("Write the job file")),
        str(Path.home() / file_name(name, SUFFIX)),
        f"{say(tr('Omnipel jobs'))} (*{SUFFIX})",
    )
    if not path:
        return
    read_ = desk.session.read(key, silent=True)
    try:
        if read_ is not None:
            write(read_, Path(path))
        else:
            write_whole(Path(path), job)
    except NotWritten as error:
        desk.session.not_written(error)
        return
    desk.session.say("fine", tr("Written: {path}", path=Name(path)))


def may_lose(desk: Desk) -> bool:
    """Changes that are on no disk: what is to become of them. False to stay."""
    count = len(desk.session.unsaved)
    words = trn("{n} change is not on disk.", "{n} changes are not on disk.", count)
    answer = answered(desk.widget, Question(words, tr("Stay here"), tr("Write them to a folder…"), tr("Close without them")))
    if answer == 1:
        folder = QFileDialog.getExistingDirectory(desk.widget, say(tr("Where to")), str(Path.home()))
        return bool(folder) and write_unsaved(desk, Path(folder))
    return answer == 2


def write_unsaved(desk: Desk, folder: Path) -> bool:
    """Write the jobs whose changes are not on disk yet as job files; whether all of them were."""
    last = {key: job for key, job, _ in desk.session.unsaved}
    for job in last.values():
        name, path = job.name, folder / file_name(job.name, SUFFIX)
        for i in range(2, 1000):
            if not path.exists():
                break
            path = folder / file_name(f"{name} {i}", SUFFIX)
        try:
            write(job, path)
        except NotWritten as error:
            desk.session.not_written(error)
            return False
    return True
