"""Faces from far to near: planes between faces, what waits for what, and the painted picture against depths taken at places of it."""

import numpy as np
import shapely
from hypothesis import given
from hypothesis import strategies as st
from tests.wild import tried

from omnipel.core.space.between import Between
from omnipel.core.space.cells import grid, thinned
from omnipel.core.space.faces import FLUSH, Faces
from omnipel.core.space.order import Order, _Emitting
from omnipel.core.space.overlaps import Overlaps

from .test_faces import some


def looking(seed: int) -> np.ndarray:
    """A view from somewhere: rows right, up and towards the viewer."""
    axes, _ = np.linalg.qr(np.random.default_rng(seed).normal(size=(3, 3)))
    return axes if np.linalg.det(axes) > 0.0 else -axes


def overlaps(faces: Faces, view: np.ndarray) -> Overlaps:
    """The faces on screen."""
    near = FLUSH * faces.size
    return Overlaps(faces.begins, faces.counts, faces.points @ view.T, faces.normals @ view.T, faces.offsets, near)


@tried(40)
@given(st.integers(0, 10**6))
def test_a_plane_between_two_faces_keeps_all_their_corners_apart_and_is_missed_only_where_they_meet(seed: int) -> None:
    faces = some(seed)
    between = Between(faces, FLUSH * faces.size)
    pairs = np.array([(i, j) for i in range(len(faces)) for j in range(len(faces)) if i != j])
    normals = between.of(*pairs.T)
    assert (between.of(*pairs.T) == normals).all()  # as it was remembered
    through = {frozenset(pair) for pair in faces.through().tolist()}
    for (i, j), normal in zip(pairs.tolist(), normals, strict=True):
        one, other = faces.ring(i) @ normal, faces.ring(j) @ normal
        if normal.any():
            assert abs(np.linalg.norm(normal) - 1.0) < 1e-9
            assert one.max() <= other.min() + FLUSH * faces.size + 1e-9
            assert frozenset((i, j)) not in through or one.max() > other.min()  # by less than is flush
        else:  # neither an edge of each nor one of their own planes keeps them apart: they do run through one another
            behind, before = (side[[i, j], [j, i]] for side in faces.sides)
            assert frozenset((i, j)) in through or behind.any() or before.any() or _nearly_through(faces, i, j)


def _nearly_through(faces: Faces, i: int, j: int) -> bool:
    """Whether two faces come within a hair's breadth of one another."""
    shares = np.random.default_rng(0).dirichlet(np.full(8, 0.3), 4000)
    one, other = (shares[:, : faces.counts[k]] for k in (i, j))
    spots = [w / w.sum(axis=1, keepdims=True) @ faces.ring(k) for w, k in ((one, i), (other, j))]
    away = np.linalg.norm(spots[0][:, None, ::1] - spots[1][None, ::8], axis=2)
    return bool(away.min() < 0.06 * faces.size)


@tried(40)
@given(st.integers(0, 10**6))
def test_what_is_painted_last_at_a_place_is_what_lies_nearest_there(seed: int) -> None:
    faces = some(seed)
    order, view = Order(faces), looking(seed)
    styles = np.random.default_rng(seed).integers(0, 4, len(faces))
    batches = order.batches(view, styles)
    parts = order.faces
    painted = np.concatenate(batches)
    assert len(set(painted.tolist())) == len(painted)
    assert all(len(set(styles[parts.of[batch]].tolist())) == 1 for batch in batches)
    rank = np.full(len(parts), -1)
    rank[painted] = np.arange(len(painted))
    flat, normals = parts.points @ view.T, parts.normals @ view.T
    low, high = flat[:, :2].min(axis=0), flat[:, :2].max(axis=0)
    for place in np.random.default_rng(seed + 1).uniform(low, high, (60, 2)):
        here = [i for i in painted.tolist() if Overlaps.holds(flat[None, _corners(parts, i), :2], place[None, None])[0, 0]]
        depths = [float(parts.offsets[i] - normals[i, :2] @ place) / float(normals[i, 2]) for i in here]
        if len(here) > 1 and np.diff(np.sort(depths))[-1] > 8.0 * FLUSH * faces.size:
            assert here[int(np.argmax(depths))] == max(here, key=lambda i: rank[i])


def _corners(faces: Faces, i: int) -> slice:
    return slice(int(faces.begins[i]), int(faces.begins[i] + faces.counts[i]))


@given(st.integers(0, 10**6), st.integers(1, 30), st.integers(0, 60))
def test_each_comes_after_all_it_waits_for_and_those_in_turn_are_told(seed: int, count: int, pairs: int) -> None:
    rng = np.random.default_rng(seed)
    ends = np.unique(np.sort(rng.integers(0, count, (pairs, 2)), axis=1), axis=0)
    ends = ends[ends[:, 0] != ends[:, 1]]
    styles, far = rng.integers(0, 3, count), rng.uniform(size=count)
    faces = some(seed, count)
    screen = overlaps(faces, looking(seed))
    runs_, turns = _Emitting(ends[:, 0], ends[:, 1], styles, far).emitted(screen, np.arange(count))
    place = np.empty(count, dtype=int)
    place[np.concatenate(runs_)] = np.arange(count)  # every one, once
    assert not turns
    assert (place[ends[:, 0]] < place[ends[:, 1]]).all()
    styled = [int(styles[run[0]]) for run in runs_]
    assert all(one != other for one, other in zip(styled, styled[1:], strict=False))
    # Three that overlap and hide one another in turn are painted all the same, and one of them is named with the one before it.
    ring = np.array([(0.0, 0.0, 0.0), (9.0, 0.0, 0.0), (0.0, 9.0, 0.0)])
    three = Faces.made_of([ring, ring, ring])
    round_ = _Emitting(np.array([0, 1, 2]), np.array([1, 2, 0]), np.zeros(3, dtype=int), np.arange(3.0))
    made, told = round_.emitted(overlaps(three, np.eye(3)), np.arange(3))
    assert sorted(np.concatenate(made).tolist()) == [0, 1, 2]
    assert len(told) == 1
    assert (told[0][1] + 1) % 3 == told[0][0]


@given(st.integers(0, 10**6), st.floats(0.01, 5.0))
def test_a_thinned_line_stays_as_near_as_asked_and_a_grid_covers_its_box(seed: int, error: float) -> None:
    rng = np.random.default_rng(seed)
    line = np.cumsum(rng.uniform(-1.0, 3.0, (40, 2)), axis=0)
    kept = thinned(line, error)
    assert kept[0] == 0
    assert kept[-1] == len(line) - 1
    assert (np.diff(kept) > 0).all()
    for a, b in zip(kept, kept[1:], strict=False):
        along = line[b] - line[a]
        share = np.clip((line[a:b] - line[a]) @ along / max(float(along @ along), 1e-12), 0.0, 1.0)
        assert np.hypot(*(line[a] + share[:, None] * along - line[a:b]).T).max() <= error + 1e-9
    low, high = line.min(axis=0), line.max(axis=0)
    cells = grid((low[0], low[1], high[0], high[1]), rng.uniform(low[0], high[0], 5), rng.uniform(low[1], high[1], 3))
    sizes = [np.ptp(cell, axis=0).prod() for cell in cells]
    assert abs(sum(sizes) - (high - low).prod()) < 1e-6 * (high - low).prod()
    assert all(shapely.LinearRing(cell).is_ccw for cell in cells)
