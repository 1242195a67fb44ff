"""A picture from one side: what it fills, and what it leaves out while it is turned."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.draft import Drafted, draft
from omnipel.core.pictures.drawing import Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.scene import Scene
from omnipel.core.pictures.seen import BRIGHT, DIM, Seen
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import worn
from omnipel.core.words import refs
from omnipel.shop.sample import SAMPLES

MADE = {made.job.name: made for made in (draft(sample()) for sample in SAMPLES) if isinstance(made, Drafted)}
SCENES: dict[str, Scene] = {}
GRID = 1e-6
"""Without a grid a union of facets that share edges loses slivers now and then, mm."""


def scene(name: str) -> Scene:
    """The cover of a sample on its object, made once."""
    if name not in SCENES:
        made = MADE[name]
        SCENES[name] = worn(made.cover, made.body, made.job.thing.sticks_out)
    return SCENES[name]


def rings(item: Path) -> list[np.ndarray]:
    """The rings of a path."""
    return np.split(item.points, item.rings[1:]) if item.rings else [item.points]


def filled(items: list[Path]) -> shapely.Geometry:
    """What paths fill."""
    shapes = [shapely.Polygon(ring) for item in items for ring in rings(item) if len(ring) > 2]
    return shapely.union_all(
        shapely.make_valid(shapes), grid_size=GRID
    )  # a slightly bent facet seen edge-on may cross itself: all of it is painted


@tried(40)
@given(st.sampled_from(sorted(MADE)), st.floats(-3.1, 3.1), st.floats(-0.9, 1.5))
def test_what_is_filled_is_every_facet_that_is_seen_in_its_own_light(name: str, yaw: float, pitch: float) -> None:
    seen = Seen(scene(name), View(yaw, pitch))
    faces, flat = seen.faces, seen.faces.points @ seen.matrix[:2].T
    drawing = seen.drawing()
    fills = [i for i in drawing.items if isinstance(i, Path) and i.layer is Layer.FACE]
    painted = np.concatenate(seen.batches)
    assert len(set(painted.tolist())) == len(painted)  # each once
    facets = [shapely.Polygon(flat[faces.begins[i] : faces.begins[i] + faces.counts[i]]) for i in painted.tolist()]
    whole = shapely.union_all(shapely.make_valid(facets), grid_size=GRID)
    size = whole.area
    assert filled(fills).symmetric_difference(whole).area < 1e-4 * size
    # A facet that lies whole in one light is in the paths of that light of its own sheet, and in no other of that sheet.
    least, most = (pick.reduceat(seen.light, seen.scene.faces.begins) for pick in (np.minimum, np.maximum))
    for i in np.random.default_rng(3).choice(painted, 6).tolist():
        of = int(faces.of[i])
        if least[of] >= BRIGHT or most[of] < DIM:
            ring = flat[faces.begins[i] : faces.begins[i] + faces.counts[i]]
            tones = {item.hatched for item in fills if any(len(r) == len(ring) and np.allclose(r, ring) for r in rings(item))}
            assert tones
            assert (True in tones) >= bool(most[of] < DIM)


@pytest.mark.parametrize("name", sorted(MADE))
def test_while_it_is_turned_only_threads_stitches_and_hatch_are_left_out(name: str) -> None:
    lit = frozenset({refs.panel(MADE[name].panels[0].name)})
    seen = Seen(scene(name), View(0.7, 0.4))
    full, quick = ([i for i in seen.drawing(lit, quick=q).items if isinstance(i, Path)] for q in (False, True))
    left = [item for item in full if item.layer not in (Layer.WEAVE, Layer.STITCH)]
    assert len(left) == len(quick)
    for one, other in zip(left, quick, strict=True):
        assert (one.layer, one.fill, one.ref, one.rings, one.tone) == (
            other.layer,
            other.fill,
            other.ref,
            other.rings,
            other.tone,
        )
        assert not other.hatched
        assert (one.points == other.points).all()
    assert not any(item.hatched for item in quick)
