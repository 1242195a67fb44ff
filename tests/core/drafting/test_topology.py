"""The surface that seams make of pieces: openings found, mistakes of a scheme told."""

from dataclasses import replace

import pytest

from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run, Seam, alike, true
from omnipel.core.drafting.shapes import rectangle
from omnipel.core.drafting.topology import surface
from omnipel.core.job.finish import RAW
from omnipel.core.job.joining import SeamChoice
from omnipel.core.space.frames import Side, looking_at
from omnipel.core.space.placements import Flat
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import worked
from omnipel.shop.starter import starter

FLAT = Flat(looking_at(Side.TOP, (0.0, 0.0, 0.0)))


def patch(name: str) -> Panel:
    size = worked(tr("side"), 100.0)
    return rectangle(name, size, size, bottom=RAW, right=RAW, top=RAW, left=RAW)


def seam(name: str, a: str, b: str, *, turned: bool = True, onto: bool = False) -> Seam:
    (one, edge), (other, against) = (side.split(".") for side in (a, b))
    return Seam(name, (Run(one, edge),), (Run(other, against, reversed=turned),), onto=onto)


def pieces(*names: str) -> tuple[Panel, list[Piece]]:
    panel = patch("patch")
    return panel, [placed(panel, FLAT, name) for name in names]


def test_a_strip_closed_into_a_ring_has_two_openings_and_a_moebius_strip_is_told() -> None:
    panel, strip = pieces("strip")
    ring = surface([panel], strip, [seam("close", "strip.left", "strip.right")])
    assert ring.sound
    assert sorted(len(opening.runs) for opening in ring.openings) == [1, 1]
    moebius = surface([panel], strip, [seam("close", "strip.left", "strip.right", turned=False)])
    assert moebius.faults == ("close: one side shows its wrong side",)


def test_two_patches_sewn_all_round_have_no_opening_and_one_side_left_open_is_one() -> None:
    panel, both = pieces("front", "back")
    mirror = {"left": "right", "right": "left", "top": "top", "bottom": "bottom"}
    seams = [seam(side, f"front.{side}", f"back.{other}") for side, other in mirror.items()]
    assert surface([panel], both, seams).openings == ()
    mouth = surface([panel], both, seams[:-1])
    assert mouth.sound
    (opening,) = mouth.openings
    assert {(run.piece, run.edge) for run in opening.runs} == {("front", "bottom"), ("back", "bottom")}


def test_what_is_caught_in_a_seam_takes_its_own_edge_only() -> None:
    panel, three = pieces("front", "back", "skirt")
    seams = [seam("top", "front.top", "back.bottom"), seam("skirt", "skirt.top", "back.bottom", onto=True)]
    found = surface([panel], three, seams)
    assert found.sound
    assert sum(len(opening.runs) for opening in found.openings) == 9


@pytest.mark.parametrize(
    ("seams", "told"),
    [
        ([seam("one", "a.left", "b.right"), seam("two", "a.left", "b.left")], "left of a is in one and in two"),
        ([seam("one", "a.left", "b.nowhere")], "one: b has no edge nowhere"),
        ([seam("one", "a.left", "c.left")], "a seam names a piece that is not there"),
    ],
)
def test_mistakes_are_told(seams: list[Seam], told: str) -> None:
    panel, two = pieces("a", "b")
    assert told in surface([panel], two, seams).faults


def test_seams_that_join_the_same_edges_of_the_same_panels_are_walked_once_and_counted() -> None:
    panel, ring = pieces("1", "2", "3")
    seams = [seam("side to side", f"{k}.right", f"{k % 3 + 1}.left") for k in (1, 2, 3)]
    (group,) = alike(seams, {piece.name: piece.panel for piece in ring})
    assert group == tuple(seams)
    assert true(group[0], {"1": panel, "2": panel}, "A", group).times == 3


def test_two_openings_that_touch_in_a_corner_are_told_apart_by_the_cloth_between_them() -> None:
    """A box left open along two of the three seams of one corner: what is open is one slit around it; the third seam is sewn."""
    job = starter("box", "five-panels")
    high = draft(job).cover.sizes["wall_finished_height"].value  # type: ignore[union-attr]
    seams = {
        "corner front right": SeamChoice(open_from=0.0, open_to=high / 3.0),
        "front wall to top": SeamChoice(open_from=400.0, open_to=9000.0),
        "right wall to top": SeamChoice(open_from=0.0, open_to=50.0),
    }
    for left_out in ("", "right wall to top", "front wall to top", "corner front right"):
        chosen = {name: choice for name, choice in seams.items() if name != left_out}
        drafted = draft(replace(job, cover=replace(job.cover, seams=chosen)))
        assert isinstance(drafted, Drafted)
        found = surface(drafted.panels, drafted.cover.pieces, drafted.cover.seams)
        assert found.sound
        rounds = [{run.piece for run in o.runs} for o in found.openings]
        assert len(rounds) == 2  # the lower edge, and what is open around the corner
        assert sum(len(o.runs) for o in found.openings) == 4 + 2 * len(chosen)
