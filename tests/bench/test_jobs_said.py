"""What people bring to the bench, each told in the window in inches from an empty shop: all of it is taken as it was typed, and can be cut."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

import pytest
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot
from tests.bench.conftest import settle
from tests.bench.hands import CTRL, Hands, Keys
from tests.wild import one_in

from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth, MarkKind
from omnipel.core.job.document import LiningSchool
from omnipel.core.job.edges import Hold
from omnipel.core.job.feature import Facing
from omnipel.core.job.findings import Severity
from omnipel.core.job.finish import FinishKind
from omnipel.core.job.layers import Material
from omnipel.core.words import refs
from omnipel.core.words.notation import parse_length
from omnipel.core.words.refs import Ref
from omnipel.core.words.units import Unit

T = 0.5 / 25.4
U = 1 / 2 + T / 2
"""From the object to the sew line of canvas, in."""
Put = tuple[str, str, dict[str, object]]


@dataclass(frozen=True)
class Told:
    """One job: the form's card, the line of the tape card, the scheme's card, and what is decided besides.

    `comes_to` are sizes in inches, reckoned by hand; `holds` what else has to be there.
    """

    form: str
    card: str
    scheme: str
    decided: tuple[tuple[Ref, object], ...] = ()
    sticks: tuple[tuple[str, str, str, dict[str, str]], ...] = ()
    features: tuple[Put, ...] = ()
    edges: Mapping[str, tuple[tuple[str, object], ...]] = field(default_factory=dict)
    seams: Mapping[str, tuple[tuple[str, object], ...]] = field(default_factory=dict)
    parted: tuple[str, str] | None = None
    beside: tuple[str, str] | None = None
    comes_to: Mapping[str, float] = field(default_factory=dict)
    holds: Callable[[Drafted], bool] = lambda drafted: True


def bought(drafted: Drafted) -> dict[str, float]:
    """Goods by name, lengths in inches or counts."""
    return {str(h.name): h.length.value / 25.4 if h.length else float(h.count) for h in drafted.cover.hardware}


def panels(drafted: Drafted) -> set[str]:
    return {panel.name for panel in drafted.panels}


def option(key: str) -> Ref:
    return refs.option(key)


JOBS = {
    "tabletop machine in a wrap with a pocket and a bound edge": Told(
        "box",
        "A 16 1/2, B 7, C 11 3/4",
        "saddle-and-ends",
        ((refs.HEM_KIND, FinishKind.BOUND), (refs.HEM_WIDTH, "3/8")),
        features=(("pocket", "front", {"width": "8", "height": "5", "from_top": "5", "mouth": "bound"}),),
        comes_to={"saddle_cut_length": 2 * (11.75 + U) + 7 + 2 * U, "end_cut_height": 11.75 + U + 1 / 2},
        holds=lambda d: "pocket" in panels(d) and "binding" in bought(d),
    ),
    "printed side with piping and letters": Told(
        "box",
        "A 15, B 10, C 12",
        "saddle-and-ends",
        ((refs.JOIN, "piped"),),
        features=(("letters", "front", {"text": "Press 3", "height": "2 1/4", "from_top": "6"}),),
        holds=lambda d: "piping cord" in bought(d) and "template of letters or a drawing" in panels(d),
    ),
    "barrel with a second skirt": Told(
        "drum",
        "A 69 7/16, B 25 3/4",
        "wall-and-lid",
        ((option("skirt"), True),),
        comes_to={"skirt_sew_length": 69 + 7 / 16 + 2 * math.pi * U},
        holds=lambda d: bought(d)["cord"] > 69.0,
    ),
    "load bed with snaps": Told(
        "flat",
        "A 83, B 49",
        "sheet",
        ((option("fastener"), "snaps"), (option("along"), "9"), (option("across"), "5")),
        comes_to={"fasteners": 24 / 25.4},
    ),
    "bowl cap, reversible": Told("cap-body", "A 31 1/2", "cap", ((option("layers"), "reversible"), (option("overhang"), "2"))),
    "bench cushion": Told("slab", "A 40, B 16, C 3", "envelope", ((option("lap"), "4"),)),
    "box in a wrap with a slot": Told(
        "box",
        "A 20, B 9, C 8",
        "wrap",
        ((option("slot"), "1"),),
        edges={"edges on top": (("finish", FinishKind.PIPED),)},
        holds=lambda d: bought(d)["tie tape"] > 0.0 and "piping cord" in bought(d),
    ),
    "bottle bag": Told("bottle", "A 12 1/2, B 13", "sleeve-tied", holds=lambda d: "ribbon" in bought(d)),
    "machine with a gusset, bound": Told(
        "box", "A 14, B 7 1/2, C 12", "saddle-and-ends", ((refs.JOIN, "bound"),), holds=lambda d: "binding" in bought(d)
    ),
    "plant pot": Told("tub", "A 22, B 30, C 10 1/2", "tapered-tub", ((refs.LINING_SCHOOL, LiningSchool.BAGGED),)),
    "quilted machine over a knob": Told(
        "box",
        "A 15, B 8, C 11",
        "five-panels",
        ((refs.PADDING, "1/4"), (refs.PADDING_MATERIAL, Material.FLEECE), (refs.GRID, "2 1/2")),
        sticks=(("knob", "top", "cover over it", {"stands_out": "1 1/8", "size": "2"}),),
        holds=lambda d: (
            any(p.cloth is Cloth.PADDING for p in d.panels) and any(f.name == "quilting" for p in d.panels for f in p.figures)
        ),
        comes_to={"wall_finished_height": 11 + 1.125 + 1 / 2 + (T + 1 / 4) / 2},
    ),
    "trailer wheel": Told("wheel", "A 84, B 8", "wheel-both-faces"),
    "drape with a stiffener and ties": Told(
        "box",
        "A 15, B 8, C 11",
        "drape",
        ((refs.STIFFENER, "1/16"), (option("tie"), "10")),
        holds=lambda d: any(p.cloth is Cloth.STIFFENER for p in d.panels),
    ),
    "spoked wheel with a cord": Told("wheel", "A 82, B 2", "wheel-cap", holds=lambda d: "cord" in " ".join(bought(d))),
    "stand machine with a port, a pouch and handles": Told(
        "box",
        "A 14, B 15, C 17",
        "five-panels",
        sticks=(("cable", "front", "port", {"from_the_top": "6", "stands_out": "2", "size": "1"}),),
        features=(
            ("pocket", "left", {"width": "7", "height": "6", "from_top": "6", "depth": "1 1/2", "corners": "left open"}),
            ("webbing handle", "right", {"caught": "stitched on", "from_top": "3", "pair": True}),
        ),
        holds=lambda d: any(f.kind is MarkKind.CUT_OUT for p in d.panels for f in p.figures) and "webbing" in " ".join(bought(d)),
    ),
    "rain barrel by a string over the top": Told(
        "drum",
        "B 30, E 60",
        "wall-and-lid",
        beside=("string", "12"),
        comes_to={"wall_sew_length": math.pi * (60 - 2 * 12 + 2 * U)},
    ),
    "toaster from two pieces": Told("box", "A 13, B 9, C 8", "five-panels", parted=("long wall", "3 1/2")),
    "hard case with a zip at a height": Told(
        "case",
        "A 16, B 6, C 14, D 1 1/2",
        "padded-case",
        ((option("zip_at"), "5 1/2"),),
        holds=lambda d: "zip" in " ".join(bought(d)),
    ),
    "boxed sheet": Told("box", "A 60, B 30, C 8", "one-piece", ((refs.CLOTH_WIDTH, "60"),)),
    "slip sleeve": Told("slab", "A 25, B 32, C 3 1/4", "slip-sleeve", edges={"mouth": (("held_by", Hold.HOOK_AND_LOOP),)}),
    "trolley": Told(
        "box",
        "A 30, B 18, C 34",
        "wall-and-top",
        features=(("slit", "front", {"height": "12", "from_top": "18", "flap": True}),),
        seams={"wall to top": (("kind", "flat-felled"), ("allowance", "5/8"))},
    ),
}


@pytest.mark.parametrize("name", list(JOBS)[:: one_in(8)])
def test_it_can_be_said(hands: Hands, qtbot: QtBot, name: str) -> None:
    told, window, session = JOBS[name], hands.window, hands.window.session
    hands.first_start()
    qtbot.mouseClick(window.stations["object"].cards[told.form], Qt.MouseButton.LeftButton)
    hands.write(name)
    for thing, face, does, lengths in told.sticks:
        hands.sticks_out(thing, face, does, **lengths)
    hands.press(Keys.Key_2, CTRL)
    readings = window.stations["tape"].readings
    readings.card.setFocus()
    hands.write(told.card)
    assert readings.card_note.text().startswith("Taken"), readings.card_note.text()
    if told.beside is not None:
        window.go_to(refs.reading(told.beside[0]))
        hands.give(window.stations["tape"].beside, told.beside[1])
    hands.press(Keys.Key_3, CTRL)
    cover = window.stations["cover"]
    qtbot.mouseClick(next(c for c in cover.strip.cards if c.scheme.key == told.scheme), Qt.MouseButton.LeftButton)
    settle(window)
    for ref, value in told.decided:
        hands.decide(ref, value)
    if told.parted is not None:
        panel, at = told.parted
        cover.choose(refs.panel(panel))
        settle(window)
        qtbot.mouseClick(cover.partings.part_it, Qt.MouseButton.LeftButton)
        settle(window)
        hands.give(cover.partings.fields[session.open_job.cover.parted[0].id], at)
    for opening, decisions in told.edges.items():
        for part_, value in decisions:
            hands.decide(refs.edge(opening, part_), value)
    for seam, decisions in told.seams.items():
        for part_, value in decisions:
            hands.decide(refs.seam(seam, part_), value)
    for kind, side, parts in told.features:
        hands.puts(kind, Facing(side), **parts)
        put = session.open_job.cover.features[-1]
        for part_, value in parts.items():
            kept = put.options[part_] if part_ in put.options else getattr(put, part_)
            length = isinstance(value, str) and value[0].isdigit()
            assert kept == (pytest.approx(parse_length(str(value), Unit.INCH_16)) if length else value), part_
    answer(hands, qtbot)
    drafted = hands.drafted
    assert not [f for f in drafted.findings if f.severity is not Severity.NOTE], [str(f.text) for f in drafted.findings]
    sizes = {key: size.value / 25.4 for key, size in drafted.cover.sizes.items()}
    assert {key: sizes[key] for key in told.comes_to} == pytest.approx(dict(told.comes_to), abs=1e-4)
    assert told.holds(drafted), (bought(drafted), panels(drafted))
    assert drafted.job.cover.scheme == told.scheme
    assert max(drafted.sewn.apart, default=0.0) < 0.05


def answer(hands: Hands, qtbot: QtBot) -> None:
    """What is asked at the end is answered by the first remedy that stands there."""
    window, session = hands.window, hands.window.session
    for _ in range(8):
        session.try_all()
        card = next((card for card in window.tally.cards if card.remedies), None)
        if card is None:
            return
        qtbot.mouseClick(card.remedies[0].button, Qt.MouseButton.LeftButton)
        settle(window)
