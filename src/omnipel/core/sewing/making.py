"""A cover that is to be sewn: what the planner asks about it, each answered from its pieces, seams and openings."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Final

import numpy as np

from omnipel.core.cloth.sheets import cloth_of, layer_of
from omnipel.core.covers.dressed import Dressed
from omnipel.core.covers.scheme import Hardware
from omnipel.core.draft import Drafted
from omnipel.core.drafting.lengths import tightest
from omnipel.core.drafting.panel import Cloth, Edge, Figure, MarkKind, Panel
from omnipel.core.drafting.pieces import Piece, named
from omnipel.core.drafting.seams import Run, Seam, SeamKind, Trued
from omnipel.core.drafting.topology import ends_of, surface
from omnipel.core.finishing.stitching import Stitching
from omnipel.core.job.document import ClothChoice, CoverChoices, LiningSchool, RingSchool
from omnipel.core.job.edges import HemOrder, Hold
from omnipel.core.job.finish import FinishKind
from omnipel.core.plane.curves import turn_between
from omnipel.core.space.placements import normals
from omnipel.core.tolerances import CORNER_ANGLE
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, Name, Phrase, term, tr

MEETING: Final = frozenset((SeamKind.BAGGED, SeamKind.BOUND, SeamKind.CAUGHT))
"""How outer and lining meet at a free edge."""
IN_A_FACE: Final = math.cos(math.radians(20.0))
"""Cloth whose two sides of a seam face ways that differ by no more runs on in one face."""


@dataclass(frozen=True, eq=False)
class Making:
    """A drafted cover, to be sewn."""

    drafted: Drafted

    @property
    def choices(self) -> CoverChoices:
        """What was decided about it."""
        return self.drafted.job.cover

    @cached_property
    def flat(self) -> Mapping[str, Panel]:
        """The panel of each piece."""
        return self.drafted.cover.flat

    @cached_property
    def pieces(self) -> Mapping[str, Piece]:
        """All pieces, by name."""
        return named(self.drafted.cover.pieces)

    @property
    def seams(self) -> Sequence[Seam]:
        """All seams."""
        return self.drafted.cover.seams

    def of(self, cloth: Cloth) -> tuple[str, ...]:
        """The pieces of a cloth; what is cut to alter it is cut for itself."""
        own = {name for one in self.drafted.cover.altered for name in one.cut}
        return tuple(name for name, panel in self.flat.items() if panel.cloth is cloth and name not in own)

    @cached_property
    def goods(self) -> tuple[Hardware, ...]:
        """What is bought and fitted, but for what it is altered with."""
        altered = {one.words for one in self.drafted.cover.altered}
        return tuple(item for item in self.drafted.cover.hardware if item.note not in altered)

    @cached_property
    def surface(self) -> tuple[str, ...]:
        """The pieces that are part of the surface: they lie on no other."""
        return tuple(name for name, piece in self.pieces.items() if not piece.on)

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """How the keys of each seam's operations begin: its name, numbered where several have one."""
        met: dict[str, int] = {}
        made = []
        for seam in self.seams:
            met[seam.name] = met.get(seam.name, 0) + 1
            made.append(f"seam:{seam.name}" + (f"#{met[seam.name]}" if met[seam.name] > 1 else ""))
        return tuple(made)

    @cached_property
    def walked(self) -> Mapping[int, Trued]:
        """Each seam as it was walked, by its number."""
        by_seam = {id(seam): trued for trued in self.drafted.seams for seam in (*trued.alike, trued.seam)}
        return {i: by_seam[id(seam)] for i, seam in enumerate(self.seams) if id(seam) in by_seam}

    @cached_property
    def corners(self) -> Mapping[tuple[str, int], int]:
        """For every corner of every piece the corner of the sewn surface that it is part of."""
        return surface(self.drafted.panels, self.drafted.cover.pieces, self.seams).corners

    def layer(self, i: int) -> Cloth:
        """The cloth of a seam: the outer where it joins that to the lining."""
        return layer_of(self.drafted.cover, self.seams[i])

    def cloth_of(self, layer: Cloth) -> ClothChoice:
        """The cloth that a layer is cut from."""
        return cloth_of(self.drafted.job, layer)

    def edge(self, run: Run) -> Edge:
        """The edge of a run."""
        return self.flat[run.piece].edge(run.edge)

    def long(self, runs: Sequence[Run]) -> float:
        """How long some edges are, mm."""
        return math.fsum(self.edge(run).curve.length for run in runs)

    @cached_property
    def meeting(self) -> frozenset[int]:
        """The seams in which outer and lining meet at a free edge. One that is bound may also join cloth of one layer."""
        met = (i for i, seam in enumerate(self.seams) if seam.kind in MEETING)
        return frozenset(i for i in met if len({self.flat[run.piece].cloth for side in self.seams[i].sides for run in side}) > 1)

    def host(self, piece: Piece) -> str:
        """What a piece lies on; a part of it where it was parted."""
        return next((name for name in self.pieces if name == piece.on or name.startswith(f"{piece.on}, ")), piece.name)

    @cached_property
    def crossing(self) -> Mapping[int, frozenset[int]]:
        """By the number of a seam those that cross one of its ends: they run on through the corner where it ends, on either of their sides."""
        ends, through = {}, {}
        for i, seam in enumerate(self.seams):
            ends[i], through[i] = self._ends(seam), self._through(seam)
        return {i: frozenset(k for k in through if k != i and ends[i] & through[k]) for i in ends}

    def _ends(self, seam: Seam) -> set[int]:
        """Corners at which it ends; a ring ends nowhere."""
        if seam.ring:
            return set()
        sides = [(ends_of(side[0], self.flat)[0], ends_of(side[-1], self.flat)[1]) for side in seam.sides]
        return {self.corners[corner] for side in sides for corner in side if corner in self.corners}

    def in_panel(self, i: int) -> bool:
        """Whether a seam joins what was parted within one panel, or is a zip between two that lie flat."""
        seam = self.seams[i]
        return seam.parts or (seam.kind in ("zipped", SeamKind.ZIP) and i in self.lies_flat)

    def ends(self, i: int) -> frozenset[int]:
        """The corners of the surface at which a seam ends."""
        return frozenset(self._ends(self.seams[i]))

    def corners_of(self, runs: Sequence[Run]) -> frozenset[int]:
        """The corners of the surface at which edges begin and end."""
        return frozenset(self.corners[corner] for run in runs for corner in ends_of(run, self.flat) if corner in self.corners)

    def _through(self, seam: Seam) -> set[int]:
        """Corners that a seam goes through: of a ring all, else all but its ends."""
        met = {self.corners.get(corner, -1) for side in seam.sides for run in side for corner in ends_of(run, self.flat)}
        return met - self._ends(seam) - {-1}

    @cached_property
    def in_seam(self) -> Mapping[tuple[str, str], tuple[int, ...]]:
        """By piece and edge the seams that it is in, by number."""
        made: dict[tuple[str, str], list[int]] = {}
        for i, seam in enumerate(self.seams):
            for side in seam.sides:
                for run in side:
                    made.setdefault((run.piece, run.edge), []).append(i)
        return {key: tuple(found) for key, found in made.items()}

    @cached_property
    def joined_at(self) -> Mapping[str, tuple[int, ...]]:
        """By piece the seams of it."""
        made: dict[str, list[int]] = {}
        for (piece, _), found in self.in_seam.items():
            made.setdefault(piece, []).extend(found)
        return {piece: tuple(sorted(set(found))) for piece, found in made.items()}

    def straight(self, side: Sequence[Run]) -> bool:
        """Whether a side of a seam is straight from end to end: one line, over however many pieces in a row."""
        return math.isinf(tightest(self.edge(run).curve for run in side)) and not self.turns(side)

    def turns(self, side: Sequence[Run]) -> int:
        """How many corners a side of a seam goes around on its flat panels."""
        found = 0
        for before, after in zip(side, side[1:], strict=False):
            if before.piece == after.piece and self._turn(before, after) > CORNER_ANGLE:
                found += 1
        return found

    def _turn(self, before: Run, after: Run) -> float:
        a, b = (self.edge(run).curve.points() for run in (before, after))
        a, b = (points[::-1] if run.reversed else points for points, run in ((a, before), (b, after)))
        into, out = a[-1] - a[-2], b[1] - b[0]
        return abs(turn_between(float(np.arctan2(into[1], into[0])), float(np.arctan2(out[1], out[0]))))

    @cached_property
    def lies_flat(self) -> frozenset[int]:
        """Seams after which what they join still lies flat: straight ones within a face, between pieces that no other of them joins already."""
        root = {name: name for name in self.pieces}

        def found(name: str) -> str:
            while root[name] != name:
                name = root[name]
            return name

        flat = set()
        for i, seam in enumerate(self.seams):
            if i in self.meeting or seam.kind == SeamKind.BOXED or seam.ratio != 1.0 or seam.onto:
                continue
            names = [{run.piece for run in side} for side in seam.sides]
            if any(len(side) != 1 for side in names) or not all(self.straight(side) for side in seam.sides):
                continue
            one, other = (found(next(iter(side))) for side in names)
            if one != other and self._level(seam):
                root[one] = other
                flat.add(i)
        return frozenset(flat)

    def _level(self, seam: Seam) -> bool:
        """Whether the cloth runs on across a seam in one face."""
        facing = []
        for side in seam.sides:
            run = side[len(side) // 2]
            piece = self.pieces[run.piece]
            out = normals(piece.place, self.edge(run).curve.points()[[0, -1]].mean(axis=0, keepdims=True))[0]
            facing.append(-out if piece.mirrored else out)
        return bool(facing[0] @ facing[1] > IN_A_FACE)

    def called(self, i: int) -> Phrase:
        """What a seam joins, in words; with the letter of its match marks, or its number, where others join the same."""
        plain, alike = self._plainly(i), self._alike[self._plainly(i)]
        if len(alike) == 1:
            return plain
        walked = self.walked.get(i)
        letters = {mark.label.rstrip("0123456789") for mark in walked.marks} if walked is not None else set()
        if len(letters) == 1 and (letter := letters.pop()):
            return tr("{seam} (marks {letter})", seam=plain, letter=Name(letter))
        return tr("{seam} ({n} of {all})", seam=plain, n=Count(alike.index(i) + 1), all=Count(len(alike)))

    @cached_property
    def _alike(self) -> Mapping[Phrase, list[int]]:
        """The seams that join what a phrase says."""
        found: dict[Phrase, list[int]] = {}
        for i in range(len(self.seams)):
            found.setdefault(self._plainly(i), []).append(i)
        return found

    def _plainly(self, i: int) -> Phrase:
        seam = self.seams[i]
        a, b = (tuple(dict.fromkeys(run.piece for run in side)) for side in seam.sides)
        if len(a) == 1 and len(b) == 1 and a != b:
            return tr("{one} to {other}", one=term(a[0]), other=term(b[0]))
        if a == b and len(a) == 1 and seam.name.startswith("close "):
            return tr("closing seam of {piece}", piece=term(a[0]))
        return term(seam.name)

    def stitching(self, i: int) -> Stitching:
        """A seam with what there is to know to sew it."""
        seam = self.seams[i]
        walked = self.walked.get(i)
        marks = walked.marks if walked is not None else ()
        layer = self.layer(i)
        clips = sum(
            1
            for side in seam.sides
            for run in side
            for notch in self.flat[run.piece].notches
            if notch.edge == run.edge and notch.kind is MarkKind.CLIP
        )
        return Stitching(
            number=i,
            key=self.keys[i],
            seam=seam,
            called=self.called(i),
            ref=refs.seam(seam.whole or seam.name),
            long=self.long(seam.a) / seam.ratio,
            bend=tightest(self.edge(run).curve for side in seam.sides for run in side),
            corners=max(self.turns(side) for side in seam.sides),
            clips=clips,
            labels=(marks[0].label, marks[-1].label) if marks else ("", ""),
            layer=layer,
            choices=self.choices,
            hidden=layer is Cloth.LINING or self.choices.lining.school is not LiningSchool.NONE,
        )

    @property
    def edges(self) -> Sequence[Dressed]:
        """The edges of the openings."""
        return self.drafted.cover.edges

    @cached_property
    def hung(self) -> frozenset[str]:
        """Pieces that are only caught in a seam: second skirts."""
        caught = {run.piece for seam in self.seams if seam.onto for run in seam.a}
        joined = set()
        for seam in (seam for seam in self.seams if not seam.onto):
            names = {run.piece for side in seam.sides for run in side}
            joined |= names if len(names) > 1 else set()
        return frozenset(caught - joined)

    def first(self, edge: Dressed) -> bool:
        """Whether an edge is finished while its panels are flat: as was chosen; always where nothing is joined, and on what is caught in a seam; never where
        it holds a lining that hangs by itself.
        """
        if any(i in self.meeting for run in edge.runs for i in self.in_seam.get((run.piece, run.edge), ())):
            return False
        if not any(self.joined_at.get(run.piece) for run in edge.runs) or any(run.piece in self.hung for run in edge.runs):
            return True
        return edge.order is HemOrder.HEM_FIRST

    def laid_in(self, edge: Dressed) -> bool:
        """Whether a cord lies in the casing of an edge before its panels are joined: it was laid in while they were flat."""
        held = edge.held_by is Hold.CORD or not edge.asked
        return edge.finish.kind is FinishKind.CORD_CASING and held and self.first(edge)

    @cached_property
    def corded(self) -> Mapping[int, tuple[Dressed, ...]]:
        """By the number of a seam the edges at whose casing it ends, with the cord in it already."""
        found: dict[int, tuple[Dressed, ...]] = {}
        for edge in self.edges:
            casing = [run for run in edge.runs if self.edge(run).finish.kind is FinishKind.CORD_CASING]  # its ends may be hemmed
            for i in self.over_cord(edge, casing):
                found[i] = (*found.get(i, ()), edge)
        return found

    def over_cord(self, edge: Dressed, runs: Sequence[Run]) -> list[int]:
        """Numbers of the seams that end at a casing, some runs of an edge, with its cord in it already."""
        if not self.laid_in(edge):
            return []
        corners = {self.corners[end] for run in runs for end in ends_of(run, self.flat) if end in self.corners}
        return [
            i
            for i, seam in enumerate(self.seams)
            if i not in self.meeting and self.layer(i) is not Cloth.LINING and self._ends(seam) & corners
        ]

    @property
    def ring_first(self) -> bool:
        """Whether strips are closed before they are joined to a ring."""
        return self.choices.ring is RingSchool.RING_FIRST

    def figures(self, piece: str) -> tuple[Figure, ...]:
        """What is drawn on a piece by the scheme, not by what is put on it."""
        return tuple(figure for figure in self.flat[piece].figures if not figure.feature)
