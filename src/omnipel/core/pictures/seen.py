"""A picture in space as it is seen from one side: in order from far to near, in three tones, with its contours; and what lies where."""

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np
from numpy.typing import NDArray

from omnipel.core.pictures.drawing import Drawing, Item, Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.pictures.scene import ORDER, STUFFS, Scene, Strokes
from omnipel.core.pictures.sheets import Patch, Sheet
from omnipel.core.pictures.view import View
from omnipel.core.plane.curves import Points
from omnipel.core.space.faces import runs
from omnipel.core.space.frames import Solid
from omnipel.core.space.order import EDGE_ON
from omnipel.core.space.overlaps import Overlaps
from omnipel.core.words.refs import Ref

Counts = NDArray[np.intp]
Floats = NDArray[np.float64]

LIGHT: Final = np.array((-0.45, 0.62, 0.65)) / np.linalg.norm((-0.45, 0.62, 0.65))
"""Light comes from above and from the left of who looks."""
BRIGHT: Final = 0.62
DIM: Final = 0.12
"""What faces the light at least so nearly lies in full light, and in half light; else in shade."""
TONES: Final = (1.0, 0.9, 0.78)
"""How light each of these is."""
WITHIN: Final = 0.84
"""How light the inside of cloth is beside its outside."""


@dataclass(frozen=True, slots=True)
class Met:
    """What is seen at a place of a picture: a sheet, which of its facets, and where, in space and on the flat sheet (None for what has none)."""

    sheet: Sheet
    facet: int
    at: NDArray[np.float64]
    flat: NDArray[np.float64] | None
    outside: bool


Lines = tuple[NDArray[np.float64], Counts, Counts, Counts, Counts, Counts]
"""Strokes as they are drawn: ends on screen `(n, 2, 2)`, the run they follow, their pen, what they are, the stuff and the sheet they lie on."""


class Seen:
    """A picture from one side: its facets in order, and what lies where."""

    def __init__(self, scene: Scene, view: View) -> None:
        self.scene, self.matrix = scene, view.matrix()
        self.towards = scene.faces.normals @ self.matrix[2] if len(scene.sheets) and len(scene.faces) else np.empty(0)
        self.batches = scene.order.batches(self.matrix, self.styles) if len(self.towards) else []
        self.faces = scene.order.faces if len(self.towards) else None

    @cached_property
    def light(self) -> Floats:
        """How nearly the sheet faces the light at each corner of each facet, on the side that is seen."""
        base = self.scene.faces
        return np.asarray(self.scene.normals @ (self.matrix.T @ LIGHT) * np.where(self.towards < 0.0, -1.0, 1.0)[base.owner])

    @cached_property
    def styles(self) -> Counts:
        """What is painted alike: facets of one sheet and one side; −1 for what is not seen."""
        made = self.scene.sheet_of * 2 + (self.towards < 0.0)
        return np.where(self.scene.twofaced | (self.towards > EDGE_ON), made, -1)

    def drawing(self, lit: frozenset[Ref] = frozenset(), *, quick: bool = False) -> Drawing:
        """As a display list, from far to near; `quick`, while it is turned, without threads, stitches and hatch."""
        if self.faces is None or not self.batches:
            return Drawing(())
        flat = self.faces.points @ self.matrix[:2].T
        items: list[Item] = []
        lines, fills = self._strokes(lit, quick=quick), self._filled(flat, hatched=not quick)
        for k, batch in enumerate(self.batches):
            strokes = lines.get(k, ())
            items += fills.get(k, ())
            items += [item for item in strokes if item.layer is Layer.WEAVE]  # letters are painted on the threads
            items += self._painted(batch)
            items += [item for item in strokes if item.layer is not Layer.WEAVE]
        return Drawing(tuple(items))

    @cached_property
    def bands(self) -> Counts:
        """Of each facet, or part of one, whether it lies whole in full light, half light or shade: 0, 1, 2; −1 where a border of them runs over it."""
        faces, base = self.faces, self.scene.faces
        assert faces is not None
        least, most = np.minimum.reduceat(self.light, base.begins), np.maximum.reduceat(self.light, base.begins)
        mean = np.add.reduceat(self.light, base.begins) / base.counts
        whole = np.where(least >= BRIGHT, 0, np.where(most < DIM, 2, np.where((most < BRIGHT) & (least >= DIM), 1, -1)))
        of = faces.of
        part = (whole[of] < 0) & (np.bincount(of, minlength=len(base))[of] > 1)
        return np.where(part, np.where(mean >= BRIGHT, 0, np.where(mean >= DIM, 1, 2))[of], whole[of])

    def _filled(self, flat: Points, *, hatched: bool) -> dict[int, list[Item]]:
        """By the run, what of its facets lies in full light, in half light and in shade, each as one path of several rings."""
        faces = self.faces
        assert faces is not None
        which, run = np.concatenate(self.batches), np.repeat(np.arange(len(self.batches)), [len(one) for one in self.batches])
        bands = self.bands[which]
        whole, parts = bands >= 0, list(self._crossed(which[bands < 0], run[bands < 0], flat))
        keys = np.concatenate((run[whole] * len(TONES) + bands[whole], *(part[0] for part in parts)))
        counts = np.concatenate((faces.counts[which[whole]], *(part[1] for part in parts)))
        points = np.concatenate((flat[faces.corners(which[whole])], *(part[2] for part in parts)))
        order = np.argsort(keys, kind="stable")
        points = points[runs((np.cumsum(counts) - counts)[order], counts[order])]
        keys, ends = keys[order], np.cumsum(counts[order])
        firsts = np.flatnonzero(np.diff(keys, prepend=-1))
        made: dict[int, list[Item]] = {}
        for first, last in zip(firsts.tolist(), (*firsts[1:].tolist(), len(keys)), strict=True):
            k, tone = divmod(int(keys[first]), len(TONES))
            facet = int(faces.of[self.batches[k][0]])
            sheet, inside = self.scene.sheets[self.scene.sheet_of[facet]], bool(self.towards[facet] < 0.0)
            start = int(ends[first - 1]) if first else 0
            rings = (0, *(ends[first : last - 1] - start).tolist())
            how = TONES[tone] * sheet.shade * (WITHIN if inside else 1.0)
            shade = hatched and (inside or tone == len(TONES) - 1)
            here = points[start : int(ends[last - 1])]
            path = Path(here, Layer.FACE, True, sheet.stuff.value, how, sheet.ref, rings=rings, hatched=shade)
            made.setdefault(k, []).append(path)
        return made

    def _crossed(self, which: Counts, run: Counts, flat: Points) -> Iterator[tuple[Counts, Counts, Points]]:
        """Facets that a border of light runs over, in parts: run and tone as one number, how many corners each part has, and these."""
        faces, base = self.faces, self.scene.faces
        assert faces is not None
        for count in np.unique(faces.counts[which]).tolist():
            alike = faces.counts[which] == count
            begins, of = faces.begins[which[alike]], faces.of[which[alike]]
            rings = flat[begins[:, None] + np.arange(count)]
            light = self.light[base.begins[of][:, None] + np.arange(count)]
            key, lit = run[alike] * len(TONES), light.max(axis=1) >= BRIGHT
            # The darker is painted over the lighter, without a gap between them.
            yield key + np.where(lit, 0, 1), np.full(len(rings), count), rings.reshape(-1, 2)
            for tone, limit, some in ((1, BRIGHT, lit), (2, DIM, np.ones_like(lit))):
                counts, points = _below(rings[some], light[some] - limit)
                yield (key[some] + tone)[counts > 0], counts[counts > 0], points

    def _painted(self, batch: Counts) -> list[Item]:
        """What is painted on the facets of a run, seen from outside."""
        scene, faces = self.scene, self.faces
        if not scene.patches or faces is None:
            return []
        groups: dict[tuple[int, int], list[tuple[Points, Patch]]] = {}
        for facet in dict.fromkeys(faces.of[batch].tolist()):
            for patch, sheet in scene.patches.get(facet, ()) if self.towards[facet] > 0.0 else ():
                groups.setdefault((sheet, patch.group), []).append((patch.ring @ self.matrix[:2].T, patch))
        made: list[Item] = []
        for rings in groups.values():
            begins = np.concatenate(([0], np.cumsum([len(ring) for ring, _ in rings])[:-1]))
            points = np.concatenate([ring for ring, _ in rings])
            made.append(Path(points, Layer.PRINT, True, "print", 1.0, rings[0][1].ref, rings=tuple(begins.tolist())))
        return made

    @cached_property
    def places(self) -> Counts:
        """The run in which each facet is painted, the last of its parts; −1 for what is not."""
        made = np.full(len(self.scene.faces), -1, dtype=np.intp)
        if self.faces is not None:
            for k, batch in enumerate(self.batches):
                made[self.faces.of[batch]] = k  # runs come in order, so the last stands
        return made

    @cached_property
    def lines(self) -> Lines:
        """All strokes that are drawn."""
        return self._lines(self.scene.strokes)

    def _lines(self, s: Strokes) -> Lines:
        """Of strokes those that are seen, and contours and creases between facets."""
        place = np.append(self.places, -1)
        facing = np.append(self.towards > 0.0, False)
        here, there = place[s.facet], place[s.mate]
        turned = s.border & (s.mate >= 0) & (facing[s.facet] != facing[s.mate])
        layer = np.where(turned | s.border & (s.mate < 0), _CONTOUR, s.layer)
        kept = (here >= 0) & (~s.outside | facing[s.facet])
        ends, sides = self.scene.inner
        shown = (place >= 0) & (facing | np.append(self.scene.twofaced, False))
        one, other = facing[sides].T  # the last facet, −1, is none
        shown_one, shown_other = shown[sides].T
        contour = (one != other) & (shown_one | shown_other) | (sides[:, 1] < 0) & shown_one
        crease = (one == other) & self.scene.creased & shown_one & shown_other
        inner = np.flatnonzero(contour | crease)
        on = np.concatenate((s.facet[kept], sides[inner, 0]))
        return (
            np.concatenate((s.ends[kept], ends[inner])) @ self.matrix[:2].T,
            np.concatenate((np.maximum(here, there)[kept], place[sides[inner]].max(axis=1))),
            np.concatenate((layer[kept], np.where(contour[inner], _CONTOUR, _CREASE))),
            np.concatenate((s.ref[kept], np.zeros(len(inner), dtype=np.intp))),
            self.scene.stuffs[on],
            self.scene.sheet_of[on],
        )

    def _strokes(self, lit: frozenset[Ref], *, quick: bool) -> dict[int, list[Item]]:
        """Strokes as paths, by the run that they follow."""
        ends, run, layer, ref, stuff, sheet = self._lines(self.scene.bold) if quick else self.lines
        if lit:
            shining = np.array([any(r.within(one) for one in lit) if r is not None else False for r in self.scene.refs])
            of_lit = np.array(
                [sheet.ref is not None and any(sheet.ref.within(one) for one in lit) for sheet in self.scene.sheets], dtype=bool
            )
            bright = (shining[ref] | (of_lit[sheet] & (ref > 0))) & np.isin(layer, _BORDERS)
            layer = np.where(bright, ORDER.index(Layer.LIT), layer)
        keys = (run * len(ORDER) + layer) * len(STUFFS) + stuff
        order = np.argsort(keys, kind="stable")
        ends, run, layer, stuff, keys = ends[order], run[order], layer[order], stuff[order], keys[order]
        starts = np.flatnonzero(np.diff(keys, prepend=-1))
        made: dict[int, list[Item]] = {}
        for a, b in zip(starts.tolist(), (*starts[1:].tolist(), len(keys)), strict=True):
            pen = ORDER[layer[a]]
            made.setdefault(int(run[a]), []).append(Path(ends[a:b].reshape(-1, 2), pen, fill=STUFFS[stuff[a]], pairs=True))
        return made

    # Pointing

    def met(self, x: float, y: float, among: Collection[str] | None = None) -> Met | None:
        """What is seen at a place of the picture; None beside all. `among`: through all but the sheets of these names."""
        faces = self.faces
        if faces is None:
            return None
        flat, here = faces.points @ self.matrix[:2].T, np.array((x, y))
        low, high = np.minimum.reduceat(flat, faces.begins), np.maximum.reduceat(flat, faces.begins)
        near = np.asarray((low <= here).all(axis=1) & (here <= high).all(axis=1))
        for batch in reversed(self.batches):
            for i in batch[near[batch]][::-1]:
                ring = flat[faces.begins[i] : faces.begins[i] + faces.counts[i]]
                of = int(faces.of[i])
                if among is not None and self.scene.sheets[int(self.scene.sheet_of[of])].name not in among:
                    continue
                if Overlaps.holds(ring[None], here[None, None])[0, 0]:
                    return self._at(of, here)
        return None

    def _at(self, facet: int, here: Floats) -> Met:
        scene = self.scene
        index = int(scene.sheet_of[facet])
        sheet, own = scene.sheets[index], facet - int(scene.firsts[index])
        normal, offset = scene.faces.normals[facet], float(scene.faces.offsets[facet])
        base = here @ self.matrix[:2]
        at = base + self.matrix[2] * ((offset - normal @ base) / (normal @ self.matrix[2]))
        flat = _flat_place(sheet.flat[own], sheet.rings[own], at) if sheet.flat else None
        return Met(sheet, own, at, flat, bool(self.towards[facet] > 0.0))

    def ref_at(self, x: float, y: float, reach: float) -> Ref | None:
        """What a person means who points there: the nearest seam, edge or feature within reach on the sheet that is seen, or that sheet."""
        met = self.met(x, y)
        here = np.array((x, y))
        ends, run, layer, ref, _, _ = self.lines
        named = (ref > 0) & np.isin(layer, _LIGHTS)
        if met is not None:
            facet = self.scene.firsts[self.scene.sheets.index(met.sheet)] + met.facet
            named &= run >= self.places[facet]
        found = np.flatnonzero(named)
        if len(found):
            away = _away(here, ends[found])
            k = int(away.argmin())
            if away[k] <= reach:
                return self.scene.refs[int(ref[found[k]])]
        return met.sheet.ref if met is not None else None


_BORDERS: Final = tuple(ORDER.index(one) for one in (Layer.SEAM, Layer.RIM, Layer.CONTOUR, Layer.PIPING, Layer.ZIP))
_LIGHTS: Final = tuple(ORDER.index(one) for one in (Layer.SEAM, Layer.RIM, Layer.CONTOUR, Layer.PIPING, Layer.ZIP, Layer.STITCH))
_CONTOUR: Final = ORDER.index(Layer.CONTOUR)
_CREASE: Final = ORDER.index(Layer.CREASE)


def _below(rings: Floats, off: Floats) -> tuple[Counts, Points]:
    """The parts of rings `(n, k, 2)` where what is given at their corners is below 0: how many corners each has, and these, one part after the other."""
    after, following = np.roll(off, -1, axis=1), np.roll(rings, -1, axis=1)
    crossed = off * after < 0.0
    share = np.where(crossed, off / np.where(crossed, off - after, 1.0), 0.0)
    points = np.stack((rings, rings + (following - rings) * share[:, :, None]), axis=2).reshape(len(rings), 2 * off.shape[1], 2)
    there = np.stack((off < 0.0, crossed), axis=2).reshape(len(rings), 2 * off.shape[1])
    return there.sum(axis=1), points[there]


def _flat_place(flat: Points, ring: Solid, at: Floats) -> NDArray[np.float64]:
    """Where a place of a flat facet lies on the flat sheet."""
    away, shift = ring - ring[0], flat - flat[0]
    solved, *_ = np.linalg.lstsq(away, shift, rcond=None)
    return np.asarray(flat[0] + (at - ring[0]) @ solved)


def _away(here: Floats, ends: NDArray[np.float64]) -> Floats:
    """From a point to straight lines `(n, 2, 2)`."""
    along = ends[:, 1] - ends[:, 0]
    size = (along**2).sum(axis=1)
    part = np.clip(((here - ends[:, 0]) * along).sum(axis=1) / np.where(size > 0.0, size, 1.0), 0.0, 1.0)
    return np.asarray(np.hypot(*(ends[:, 0] + along * part[:, None] - here).T))


def drawn(scene: Scene, view: View, lit: frozenset[Ref] = frozenset()) -> Drawing:
    """A picture from a side, with what is `lit` standing out."""
    return Seen(scene, view).drawing(lit)
