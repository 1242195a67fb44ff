"""Further tables of a job: its panels, its steps, its readings, its logbook. The readings' table can be read back (`reading/readings.py`)."""

from __future__ import annotations

from collections.abc import Sequence

from omnipel.core.draft import Draft, Drafted, letters
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job
from omnipel.core.job.reading import MOST_REPEATS
from omnipel.core.learning.logbook import timeline
from omnipel.core.sewing.paces import Person
from omnipel.core.sewing.plan import planned
from omnipel.core.words.phrases import Voice, term, tr
from omnipel.exchange.files.tables import Cell, Row, Table

LETTER, PLACE, INSTRUMENT, BESIDE, NOTE, COUNTS = "letter", "place", "instrument", "beside", "note", "counts"
"""How the columns of the readings' table begin, in every language: they are read back."""


def panels_table(draft: Drafted, voice: Voice) -> Table:
    """Every panel: how often it is cut, of what, how large finished and cut."""
    unit = voice.unit
    measured = (tr("finished length"), tr("finished width"), tr("cut length"), tr("cut width"))
    heads = tuple(voice.say(words) for words in (tr("panel"), tr("cloth"), tr("cut"), tr("mirrored"), tr("on the fold")))
    rows: list[Row] = []
    for panel in draft.panels:
        sizes = (panel.length, panel.width, panel.cut_length, panel.cut_width)
        numbers = tuple(round(size.value / unit.mm, 4) for size in sizes)
        said = (panel.mirrored, panel.fold is not None)
        marks = tuple(voice.say(tr("yes") if on else tr("no")) for on in said)
        rows.append((voice.say(term(panel.name)), voice.say(term(panel.cloth)), float(panel.count), *marks, *numbers))
    return Table(voice.say(tr("panels")), (*heads, *(f"{voice.say(words)} ({unit.short})" for words in measured)), tuple(rows))


def steps_table(draft: Drafted, voice: Voice, person: Person | None = None) -> Table:
    """The order of work: each step, where it is done, with what, how long it takes."""
    plan = planned(draft, person, draft.job.copies, draft.job.sewing.order)
    heads = (
        tr("step"),
        tr("what"),
        tr("where"),
        tr("foot"),
        tr("minutes"),
        tr("at least"),
        tr("at most"),
        tr("done"),
        tr("minded"),
    )
    done = draft.job.sewing.done
    rows: list[Row] = []
    for step in plan.steps:
        spans = (step.likely.likely, step.likely.low, step.likely.high)
        minded = " / ".join(voice.sentence(caution.words) for caution in step.cautions)
        told = (
            voice.say(step.operation.words),
            voice.say(term(step.rig.station)),
            voice.say(term(step.rig.foot)) if step.rig.foot else "",
        )
        is_done = voice.say(tr("yes") if step.key in done else tr("no"))
        rows.append((float(step.number), *told, *(round(span, 2) for span in spans), is_done, minded))
    return Table(voice.say(tr("order of work")), tuple(voice.say(head) for head in heads), tuple(rows))


def readings_table(draft: Draft, voice: Voice) -> Table:
    """Every place a tape can be laid with what was read there; places that were not taken have empty cells, to be filled in."""
    job, unit = draft.job, voice.unit
    form = FORMS.get(job.thing.form)
    places = form.places(job.readings, job.thing) if form is not None else ()
    taken = {reading.place: reading for reading in job.readings}
    heads = (LETTER, PLACE, voice.say(tr("where")), INSTRUMENT, *(f"{n} ({unit.short})" for n in range(1, MOST_REPEATS + 1)))
    rows: list[Row] = []
    for number, place in enumerate(places):
        reading = taken.get(place.key)
        numbers = [round(one / unit.mm, 4) for one in reading.repeats] if reading is not None else []
        cells: tuple[Cell, ...] = (*numbers, *[""] * (MOST_REPEATS - len(numbers)))
        beside: Cell = round(reading.beside / unit.mm, 4) if reading is not None and reading.beside is not None else ""
        counts = "" if reading is None else "no" if reading.set_aside else "yes"
        instrument, note = (reading.instrument.value, reading.note) if reading is not None else ("", "")
        rows.append((letters(number), place.key, voice.say(place.words), instrument, *cells, beside, counts, note))
    return Table(voice.say(tr("readings")), (*heads, f"{BESIDE} ({unit.short})", COUNTS, NOTE), tuple(rows))


def log_table(draft: Draft, voice: Voice, others: Sequence[Job] = ()) -> Table:
    """What happened to the covers of a thing, the latest first."""
    heads = (tr("day"), tr("cover"), tr("what happened"), tr("said"))
    rows = [(line.day, line.job, voice.say(line.words), line.said) for line in timeline((draft.job, *others))]
    return Table(voice.say(tr("logbook")), tuple(voice.say(head) for head in heads), tuple(rows))
