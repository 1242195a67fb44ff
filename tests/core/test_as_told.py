"""What the sample shop and a new job of every pair come to, line by line, as it was last looked at and found right.

Nothing here says what is right; it says that something has changed. `TOLD=1 make test PYTEST_ARGS=tests/core/test_as_told.py` writes the
pages anew, and the difference is then read by a person.
"""

import os
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import shapely

from omnipel.core.covers import SCHEMES, lawful_pairs
from omnipel.core.covers.options import OptionKind
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.finishing.kinds import KINDS
from omnipel.core.job.document import Choice, Clearance, ClearanceSchool, Closure, ClosureKind, Job, LiningSchool
from omnipel.core.job.edges import EdgeChoice, Hold
from omnipel.core.job.feature import Feature
from omnipel.core.job.finish import FinishKind, usual_finish
from omnipel.core.pictures.sheet import panel_drawing
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.exchange.files.report import text
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

PAGES = Path(__file__).parent / "told"
JOBS: dict[str, Job] = {
    f"{form} {scheme} {unit.short}": starter(form, scheme, unit)
    for form, scheme in lawful_pairs()
    for unit in (Unit.MM, Unit.INCH_16)
}
JOBS |= {(job := sample()).name: job for sample in SAMPLES}


_CASING = {Hold.CORD: FinishKind.CORD_CASING, Hold.ELASTIC: FinishKind.ELASTIC_CASING, Hold.HOOK_AND_LOOP: FinishKind.BOUND}


def otherwise() -> Iterator[tuple[str, Job]]:
    """Every pick and every yes-or-no of a scheme the other way; every lining, closure and feature on one job."""
    for form, scheme in lawful_pairs():
        job = starter(form, scheme)
        for option in SCHEMES[scheme].options:
            picks: tuple[Choice, ...] = (
                option.picks[1:] if option.picks else (not option.default,) if option.kind is OptionKind.YES else ()
            )
            for value in picks:
                options = {**job.cover.options, option.key: value}
                yield f"{form} {scheme} {option.key} {value}", replace(job, cover=replace(job.cover, options=options))
    drum, box = starter("drum", "wall-and-lid"), starter("box", "wall-and-top")
    for job in (drum, box):
        for school in LiningSchool:
            lining = replace(job.cover.lining, school=school)
            yield f"{job.thing.form} lined {school}", replace(job, cover=replace(job.cover, lining=lining, padding=6.0))
        for kind in ClosureKind:
            yield (
                f"{job.thing.form} closed {kind}",
                replace(job, cover=replace(job.cover, closure=Closure(kind=kind, length=150.0))),
            )
        for hold in Hold:
            edge = EdgeChoice(held_by=hold, finish=usual_finish(_CASING.get(hold, FinishKind.FACING), job.cover.habits, 12.0))
            yield f"{job.thing.form} held by {hold}", replace(job, cover=replace(job.cover, edges={"lower edge": edge}))
        for kind in KINDS.values():
            made = Feature(kind=kind.key, name="it", from_top=200.0, width=80.0, height=60.0)
            yield f"{job.thing.form} with {kind.key}", replace(job, cover=replace(job.cover, features=(made,)))
    for school in ClearanceSchool:
        clearance = Clearance(school=school, amount=0.03 if school is ClearanceSchool.GIRTH else 9.0)
        yield f"drum {school}", replace(drum, cover=replace(drum.cover, clearance=clearance))


JOBS |= dict(otherwise())


def page(job: Job) -> Iterator[str]:
    """Everything about a draft that a person sees or cuts."""
    drafted, voice = draft(job), Voice(job.unit)
    yield text(drafted)
    if not isinstance(drafted, Drafted):
        return
    for panel in drafted.panels:
        yield from _panel(panel, voice)
    for passage in drafted.cover.profile:
        yield f"passes at {passage.depth:.1f}: {passage.girth.value:.2f} {[round(span.value, 2) for span in passage.spans]}"
    for hardware in drafted.cover.hardware:
        yield f"buy {voice.say(hardware.name)} {hardware.count} {voice.say(hardware.note)}"
    for trued in drafted.seams:
        yield f"seam {trued.seam.name} {trued.seam.kind} ring={trued.seam.ring} " + " ".join(
            f"{m.label}@{m.fraction:.4f}" for m in trued.marks
        )


def _panel(panel: Panel, voice: Voice) -> Iterator[str]:
    outline = shapely.Polygon(cut_line(panel))
    yield f"{panel.name}: area {outline.area:.0f} centre {outline.centroid.x:.1f} {outline.centroid.y:.1f} grain {panel.grain:.2f} up {panel.take_up}"
    for edge in panel.edges:
        yield f"  {edge.name} {edge.finish.kind} {edge.finish.width:.2f} {edge.finish.turn_under:.2f} long {edge.curve.length:.2f}"
    for figure in panel.figures:
        low, high = figure.points.min(axis=0), figure.points.max(axis=0)
        yield f"  {figure.name} {figure.kind} {_at(low)} to {_at(high)}"
    yield "  marks " + " ".join(f"{n.edge}:{n.label}:{n.kind}@{n.fraction:.4f}" for n in panel.notches)
    yield "  notes " + "; ".join(voice.say(note) for note in panel.notes)
    for item in panel_drawing(panel, voice, 5.0).items:
        if hasattr(item, "words"):
            yield f"  “{item.words}” {_at(item.at)} {item.size:.1f} {item.angle:.2f}"


def _at(point: object) -> str:
    x, y = np.round(np.asarray(point, dtype=float), 1) + 0.0
    return f"{x:.1f},{y:.1f}"


@pytest.mark.parametrize("name", JOBS)
def test_it_comes_to_what_it_came_to(name: str) -> None:
    found = "\n".join(page(JOBS[name])) + "\n"
    path = PAGES / f"{name.replace('/', '-')}.txt"
    if os.environ.get("TOLD"):
        PAGES.mkdir(exist_ok=True)
        path.write_text(found, encoding="utf-8")
    assert found == path.read_text(encoding="utf-8")


def test_no_page_is_left_over() -> None:
    assert {path.stem for path in PAGES.glob("*.txt")} == {name.replace("/", "-") for name in JOBS}
