"""The picture in space: what is nearer hides what is farther from every side, what is pointed at is what is there."""

import os

import numpy as np
import pytest
from tests.core.pictures.depth import DepthBuffer, differing
from tests.wild import one_in

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.job.document import Job
from omnipel.core.job.feature import Facing, Feature
from omnipel.core.pictures.dressing import Dressing, pleats
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.seen import Seen
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import cover_sheets, shown, size_of, worn
from omnipel.core.space.faces import Faces
from omnipel.core.space.order import Order
from omnipel.core.words import refs
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter

VIEWS = int(os.environ.get("OMNIPEL_VIEWS", "60"))
PLACES = 150
DRAFTED = [job for job in (sample() for sample in SAMPLES) if isinstance(draft(job), Drafted)]


def drafted(job: Job) -> Drafted:
    """A job that can be drafted."""
    made = draft(job)
    assert isinstance(made, Drafted)
    return made


def worst_of(made: Drafted, views: int, seed: int) -> tuple[float, float]:
    """The greatest and the mean share of places where another face is painted than is seen, over random views."""
    scene, rng = worn(made.cover, made.body), np.random.default_rng(seed)
    buffer, shares = DepthBuffer(scene.faces), []
    for _ in range(views):
        seen = Seen(scene, View(rng.uniform(-3.1, 3.1), rng.uniform(-0.9, 1.5)))
        flat = scene.faces.points @ seen.matrix[:2].T
        shares.append(differing(seen, buffer, rng.uniform(flat.min(axis=0), flat.max(axis=0), (PLACES, 2))))
    return max(shares), float(np.mean(shares))


@pytest.mark.parametrize("job", DRAFTED[:: one_in(3)], ids=lambda job: job.name)
def test_what_is_painted_is_what_a_depth_buffer_sees(job: Job) -> None:
    worst, mean = worst_of(drafted(job), VIEWS, 7)
    assert worst <= 0.02
    assert mean <= 0.002


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_cover_is_seen_right_on_its_object(form: str, scheme: str) -> None:
    made = drafted(starter(form, scheme))
    assert {sheet.name for sheet in cover_sheets(made.cover)} >= {piece.name for piece in shown(made.cover)}
    worst, mean = worst_of(made, 6, 3)
    assert worst <= 0.02
    assert mean <= 0.004


def test_faces_that_hide_one_another_in_turn_and_run_through_one_another_are_parted() -> None:
    bar = np.array([(-10.0, -1.0, 0.0), (10.0, -1.0, 0.0), (10.0, 1.0, 0.0), (-10.0, 1.0, 0.0)])
    rings = []
    for k in range(3):  # each lies over the next, the last over the first
        angle = 2.0 * np.pi * k / 3.0
        turn = np.array([(np.cos(angle), -np.sin(angle), 0.0), (np.sin(angle), np.cos(angle), 0.0), (0.0, 0.0, 1.0)])
        slanted = bar + np.column_stack((np.zeros(4), np.full(4, -4.0), bar[:, 0] * 0.2))
        rings.append(slanted @ turn.T)
    order = Order(Faces.made_of(rings))
    batches = order.batches(np.eye(3), np.arange(3))
    assert len(order.faces) > 3
    assert sorted(set(order.faces.of[np.concatenate(batches)])) == [0, 1, 2]
    upright = np.array([(0.0, -5.0, -5.0), (0.0, 5.0, -5.0), (0.0, 5.0, 5.0), (0.0, -5.0, 5.0)])
    crossed = Order(Faces.made_of([bar, upright]))
    assert len(crossed.faces) == 3  # one of the two was parted where it runs through the other
    assert not len(crossed.faces.through())


@pytest.mark.parametrize(("form", "scheme", "side"), [("drum", "wall-and-lid", "front"), ("box", "saddle-and-ends", "right")])
def test_at_a_ports_place_the_picture_shows_the_port(form: str, scheme: str, side: str) -> None:
    port = Feature(kind="port", id="1", name="cable", face=Facing(side), width=60.0, height=60.0, from_top=120.0)
    job = starter(form, scheme)
    made = drafted(changed_features(job, port))
    scene, view = worn(made.cover, made.body), View(0.0 if side == "front" else np.pi / 2.0, 0.0)
    seen, lying = Seen(scene, view), made.cover.lying["1"]
    x, y = seen.matrix[:2] @ np.array(lying.place)
    met = seen.met(x, y)
    assert met is not None
    assert met.sheet.name == "object"  # through the opening
    assert seen.ref_at(x + 30.0, y, 4.0) == refs.feature("1")
    beside = seen.met(x + 60.0, y)
    assert beside is not None
    assert beside.sheet.name == lying.piece
    assert beside.outside
    assert beside.flat is not None
    piece = next(p for p in made.cover.pieces if p.name == lying.piece)
    assert np.abs(piece.place.at(beside.flat[None])[0] - beside.at).max() < 0.01 * scene.faces.size


def changed_features(job: Job, *features: Feature) -> Job:
    """A job with these on its cover."""
    from dataclasses import replace

    return replace(job, cover=replace(job.cover, features=features))


def test_an_edge_is_pointed_at_where_it_is_seen_and_lit_as_a_line() -> None:
    made = drafted(starter("drum", "wall-and-lid"))
    scene = worn(made.cover, made.body)
    seen = Seen(scene, View())
    ring = next(sheet for sheet in scene.sheets if sheet.name == "lid")
    front = min((ring.rings[0] @ seen.matrix.T).tolist(), key=lambda p: -p[2])
    assert seen.ref_at(front[0], front[1], 6.0) == refs.seam("wall to lid")
    lit = [item for item in seen.drawing(frozenset({refs.seam("wall to lid")})).items if item.layer is Layer.LIT]
    assert lit
    assert not [item for item in seen.drawing().items if item.layer is Layer.LIT]
    assert seen.ref_at(1e6, 0.0, 6.0) is None


def test_pleats_take_up_what_is_gathered() -> None:
    for flat, drawn in ((2000.0, 800.0), (763.0, 318.0), (500.0, 480.0)):
        made = pleats(flat, drawn, 20.0)
        assert made.count * 2.0 * made.depth + drawn == pytest.approx(flat)
    made = drafted(starter("drum", "gathered-halves"))
    pieces = shown(made.cover)
    dressing = Dressing(made.cover, size_of(made.cover, pieces), 0.5)
    half = next(p for p in pieces if "half" in p.name)
    below = next(edge for edge in made.cover.flat[half.name].edges if edge.name == "base edge")
    seam, _ = dressing.sewn[half.name, below.name]
    assert dressing.drawn_to(half, below.curve) == pytest.approx(below.curve.length / seam.ratio, rel=2e-3)
    sheet = next(s for s in cover_sheets(made.cover) if s.name == half.name)
    assert any(one.layer is Layer.PLEAT for one in sheet.drawn)
