"""A form, a scheme, an export and a station that stand outside the program: what docs/developing.md says of adding one is tried with these."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np
from PySide6.QtWidgets import QLabel

from omnipel.bench.session import Session
from omnipel.bench.stations import Station
from omnipel.bench.stations.atbench import AtBench
from omnipel.core.covers.options import count, length, pick
from omnipel.core.covers.places import UPRIGHT
from omnipel.core.covers.scheme import Brief, Cover, Hardware, Scheme
from omnipel.core.drafting.pieces import placed
from omnipel.core.drafting.seams import Run
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.finishing.constructions.construction import Construction, Joining
from omnipel.core.finishing.kind import Kind, Lies, Put
from omnipel.core.forms.abilities import Ability, Outlined
from omnipel.core.forms.form import Form, Measured, Part, Place, Proportion, always
from omnipel.core.forms.sections import Section
from omnipel.core.job.finish import Finish, seam
from omnipel.core.plane.curves import Points, arc_about
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Face, Mesh
from omnipel.core.space.occupied import Occupied, drawn_across
from omnipel.core.space.paths import Path
from omnipel.core.space.placements import Swept
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, Rule, tr
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked, through
from omnipel.exchange.asked import Order
from omnipel.exchange.export import Export


def arch(diameter: float) -> Points:
    """A half disc standing on its straight side, `(n, 2)`, counter-clockwise."""
    angles = np.linspace(0.0, math.pi, 91)
    return np.column_stack((diameter / 2 * (1 + np.cos(angles)), diameter / 2 * np.sin(angles)))


@dataclass(frozen=True, slots=True)
class Stove:
    """Half a cylinder, lying."""

    ability: ClassVar[Ability] = Ability.OUTLINED

    diameter: Worked
    length: Worked
    sections: tuple[Section, ...]

    @property
    def sides(self) -> tuple[Worked, ...]:
        return (self.diameter,)

    def outline(self, *sides: float) -> Points:
        return arch(*sides)

    @property
    def ring(self) -> Points:
        return arch(self.diameter.value)

    @property
    def across(self) -> Worked:
        return self.length

    @property
    def occupied(self) -> Occupied:
        return drawn_across(self.ring, self.length.value)

    def mesh(self) -> Mesh:
        ring, half = self.ring[::6], self.length.value / 2
        right = np.column_stack((np.full(len(ring), half), ring[:, 0] - self.diameter.value / 2, ring[:, 1]))
        left = right * (-1.0, 1.0, 1.0)
        hood = [Face(np.array([right[i], left[i], left[i + 1], right[i + 1]])) for i in range(len(ring) - 1)]
        return Mesh((Face(right), Face(left[::-1]), *hood))

    def tape(self, place: str) -> Solid:
        half, r = self.length.value / 2, self.diameter.value / 2
        over = np.column_stack((np.zeros(91), self.ring[:, 0] - r, self.ring[:, 1])) * 1.01
        return {"over": over, "length": np.array([(-half, 0, r), (half, 0, r)])}.get(place, np.array([(0, -r, 0), (0, r, 0)]))


def build(measured: Measured) -> Stove:
    across, along = measured["diameter"], measured["length"]
    sections = []
    for share in (0.25, 0.5, 1.0):
        chord = through(tr("chord"), tr("across the arch there"), lambda d, s=share: d * math.sqrt(1 - (1 - s) ** 2), across)
        sections.append(Section(share * across.value / 2, (along + chord) * 2.0, (along, chord)))
    return Stove(across, along, tuple(sections))


FORM = Form(
    "half-log",
    tr("Half log"),
    tr("Half a cylinder, lying: hotbed, feed cover, arched stove."),
    frozenset({Ability.OUTLINED}),
    always(Part("diameter", tr("diameter"), 600.0), Part("length", tr("length"), 900.0)),
    always(
        Place(
            "over",
            tr("over the arch"),
            tr("From the ground over the arch to the ground."),
            942.0,
            ("diameter",),
            lambda d: math.pi * d / 2,
        ),
        Place("length", tr("length"), tr("Along the ridge."), 900.0, ("length",)),
        Place("across", tr("across the foot"), tr("From foot to foot."), 600.0, ("diameter",), asked=False),
        Place(
            "edges",
            tr("over and along"),
            tr("Over the arch and on along one foot."),
            1842.0,
            ("diameter", "length"),
            lambda d, x: math.pi * d / 2 + x,
            asked=False,
        ),
    ),
    build,
    dropped_over=True,
    proportions=(Proportion("length", "diameter", 0.1, 20.0),),
)

OPTIONS = (length("strap", tr("each strap"), Rule(400.0, 16.0), low=50.0, high=2000.0),)


def draft(body: Outlined, brief: Brief) -> Cover:
    u = brief.u(body.across * 2.0)
    way = through(tr("over the arch"), tr("half around"), lambda d, out: math.pi * (d / 2 + out), *body.sides, u)
    long, wide = brief.size("blanket_length", way), brief.size("blanket_width", body.across + u * 2.0)
    hem = brief.choices.hem
    sheet = rectangle(
        "blanket",
        long,
        wide,
        bottom=hem,
        right=hem,
        top=hem,
        left=hem,
        sources=dict.fromkeys(("bottom", "right", "top", "left"), refs.HEM),
    )
    out = u.value
    arc = arc_about((0.0, 0.0), long.value / math.pi, math.pi, -math.pi)
    over = Swept(Path((arc,)), replace(UPRIGHT, origin=(wide.value / 2.0, 0.0, 0.0)), (-1.0, 0.0, 0.0))
    return brief.cover(
        (sheet,),
        (placed(sheet, over, clear=out),),
        openings={"edge": Run("blanket", "bottom")},
        seams_across=0,
        hardware=(Hardware(tr("strap"), brief.length("strap") * 4.0, note=tr("one at each corner")),),
    )


SCHEME = Scheme("blanket", tr("Strapped blanket"), tr("One sheet over the arch."), frozenset({Ability.OUTLINED}), OPTIONS, draft)


def count_of_panels(order: Order) -> bytes:
    return f"TOY {len(order.draft.panels)} panels\n".encode()


EXPORT = Export(
    "toy",
    tr("Count of the panels"),
    tr("How many there are."),
    tr("Text"),
    ".txt",
    b"TOY",
    count_of_panels,
    tr("Read it."),
    keys="Ctrl+Y",
)


def glued_sides(joining: Joining) -> tuple[Finish, Finish]:
    """One side laps by what is glued."""
    return seam(joining.wide), seam(0.0)


def glue(joining: Joining) -> Iterator[Hardware]:
    yield Hardware(tr("glue"), joining.length * float(joining.times), note=tr("in {seam}", seam=joining.called))


CONSTRUCTION = Construction(
    "glued", tr("glued"), tr("For those who cannot sew."), glued_sides, glue, wide=tr("glued by"), habit="hood"
)


def badge(put: Put) -> None:
    """A round badge sewn on, so many times over."""
    put.draw(put.feature.name, put.local, closed=True)
    put.buy(tr("badge"), count=int(put.number("layers")))


KIND = Kind(
    key="badge",
    words=tr("badge"),
    about=tr("Shows whose it is."),
    lies=Lies.UNDER,
    put=badge,
    options=(count("layers", tr("layers"), 2), pick("rim", tr("rim"), ("plain", "corded"))),
)


class Whiteboard(AtBench):
    """A station that says how the job is called."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.entered = session, 0
        self.says = QLabel(self)

    def enter(self) -> None:
        self.entered += 1
        self.refresh()

    def refresh(self) -> None:
        self.says.setText(self.session.open_job.name)

    def text(self) -> str:
        return self.says.text()

    def go_to(self, ref: Ref) -> None:
        self.setFocus()

    def field_words(self) -> dict[Ref, Phrase]:
        return {refs.of_job("name"): tr("on the whiteboard")}


STATION = Station(tr("Whiteboard"), tr("Says how the job is called."), Whiteboard)
