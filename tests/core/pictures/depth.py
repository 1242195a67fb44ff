"""A depth buffer made by a ray-tracing library: what is really seen at places of a picture, to hold the order of faces against."""

import numpy as np
import shapely
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene
from numpy.typing import NDArray

from omnipel.core.pictures.seen import Seen
from omnipel.core.space.faces import Faces
from omnipel.core.space.frames import Solid
from omnipel.core.space.overlaps import Overlaps

MOST = 60
"""No ray passes through more faces that are not painted than this."""


def triangles(rings: list[Solid]) -> tuple[NDArray[np.float32], NDArray[np.intp]]:
    """Flat faces as triangles, and which face each is of."""
    made: list[Solid] = []
    owner: list[int] = []
    for i, ring in enumerate(rings):
        middle = ring.mean(axis=0)
        around = ring - middle
        normal = np.cross(around, np.roll(around, -1, axis=0)).sum(axis=0)
        normal /= np.linalg.norm(normal)
        right = np.cross(normal, (1.0, 0.0, 0.0) if abs(normal[0]) < 0.9 else (0.0, 1.0, 0.0))
        axes = np.array((right / np.linalg.norm(right), np.cross(normal, right / np.linalg.norm(right))))
        shape = shapely.make_valid(shapely.Polygon(around @ axes.T))
        for part in shapely.get_parts(shapely.constrained_delaunay_triangles(shape)):
            made.append(middle + np.asarray(part.exterior.coords)[:3] @ axes + (around @ normal).mean() * normal)
            owner.append(i)
    return np.array(made, dtype=np.float32), np.array(owner, dtype=np.intp)


class DepthBuffer:
    """Faces that rays are sent at."""

    def __init__(self, faces: Faces) -> None:
        self.corners, self.owner = triangles([faces.ring(i) for i in range(len(faces))])
        self.scene = EmbreeScene()
        TriangleMesh(self.scene, self.corners)

    def seen(self, matrix: NDArray[np.float64], places: NDArray[np.float64], skipped: NDArray[np.bool_]) -> NDArray[np.intp]:
        """The face seen at each place of the screen, −1 for none; rays pass through faces that are skipped."""
        far = float(np.abs(self.corners).max()) * 4.0
        ways = np.tile(-matrix[2], (len(places), 1)).astype(np.float32)
        starts = (places @ matrix[:2] + matrix[2] * far).astype(np.float32)
        found, left = np.full(len(places), -1, dtype=np.intp), np.arange(len(places))
        for _ in range(MOST):
            met = self.scene.run(starts[left], ways[left], output=1)
            hit = met["primID"] >= 0
            face = self.owner[np.maximum(met["primID"], 0)]
            found[left[hit & ~skipped[face]]] = face[hit & ~skipped[face]]
            on = hit & skipped[face]
            starts[left[on]] += ways[left[on]] * (met["tfar"][on] + far * 1e-6)[:, None]
            left = left[on]
            if not len(left):
                break
        return found


def painted(seen: Seen, places: NDArray[np.float64]) -> NDArray[np.intp]:
    """The face that is painted last at each place of the screen, −1 for none."""
    faces = seen.faces
    assert faces is not None
    flat, found = faces.points @ seen.matrix[:2].T, np.full(len(places), -1, dtype=np.intp)
    for i in np.concatenate(seen.batches).tolist():
        ring = flat[faces.begins[i] : faces.begins[i] + faces.counts[i]]
        near = np.flatnonzero(((places >= ring.min(axis=0)) & (places <= ring.max(axis=0))).all(axis=1))
        if len(near):
            found[near[Overlaps.holds(ring[None], places[near][None])[0]]] = faces.of[i]
    return found


def differing(seen: Seen, buffer: DepthBuffer, places: NDArray[np.float64]) -> float:
    """The share of places at which another face is painted than is seen, and not one that lies in about the same depth there."""
    got, want = painted(seen, places), buffer.seen(seen.matrix, places, seen.styles < 0)
    other = np.flatnonzero((got != want) & (got >= 0) & (want >= 0))
    base = seen.scene.faces
    normals = base.normals @ seen.matrix.T

    def depth(which: NDArray[np.intp]) -> NDArray[np.float64]:
        n = normals[which]
        return np.asarray((base.offsets[which] - (n[:, :2] * places[other]).sum(axis=1)) / n[:, 2])

    off = np.abs(depth(got[other]) - depth(want[other]))
    return float((off > 0.004 * base.size).sum()) / len(places)
