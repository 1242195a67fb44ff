"""The cover as a surface: what is sewn to what, which edges stay free and which openings these form.

Corners of pieces that are sewn together are one corner of the surface. Edges in no seam are free; one follows them from corner to
corner, and every closed round of them is an opening. Nothing here knows a length: it is found from the seams alone.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, by_piece
from omnipel.core.drafting.seams import Run, Seam

Corner = tuple[str, int]
"""A piece, and which of its edges begins there."""


@dataclass(frozen=True, slots=True)
class Opening:
    """A closed round of free edges: what stays open of the surface. Runs in the order in which one goes around."""

    runs: tuple[Run, ...]

    def has(self, piece: str, edge: str) -> bool:
        """Whether an edge of a piece is part of it."""
        return any(run.piece == piece and run.edge == edge for run in self.runs)


@dataclass(frozen=True, slots=True)
class Surface:
    """What the seams make of the pieces.

    Args:
        openings: rounds of free edges.
        faults: what is wrong, in words for who writes a scheme: an edge in two seams, a turned side, an open end.
        corners: for every corner of every piece the number of the corner of the surface that it is part of.
    """

    openings: tuple[Opening, ...]
    faults: tuple[str, ...]
    corners: Mapping[Corner, int]

    @property
    def sound(self) -> bool:
        """Whether nothing is wrong."""
        return not self.faults


def surface(panels: Iterable[Panel], pieces: Sequence[Piece], seams: Sequence[Seam]) -> Surface:
    """What the seams make of the pieces that are part of the surface; what only lies on a face is left out."""
    own = [piece for piece in pieces if not piece.on]
    flat = by_piece(panels, own)
    faults = [*_missing(seams, flat)]
    if faults:
        return Surface((), tuple(faults), {})
    faults = [*_twice(seams), *_turned(seams, {piece.name: piece.mirrored for piece in own})]
    corners = _joined(seams, flat)
    taken = {(run.piece, run.edge) for seam in seams for side in _owned(seam) for run in side}
    free = [
        Run(piece.name, edge.name) for piece in own for edge in flat[piece.name].edges if (piece.name, edge.name) not in taken
    ]
    openings, loose = _rounds(free, _laps(seams, corners, flat), corners, seams, flat)
    return Surface(openings, (*faults, *loose), corners)


def _missing(seams: Sequence[Seam], flat: Mapping[str, Panel]) -> Iterator[str]:
    """Pieces and edges that are not there."""
    for seam in seams:
        for run in (run for side in seam.sides for run in side):
            if run.piece not in flat:
                yield "a seam names a piece that is not there"
            elif run.edge not in {edge.name for edge in flat[run.piece].edges}:
                yield f"{seam.name}: {run.piece} has no edge {run.edge}"


def _twice(seams: Sequence[Seam]) -> Iterator[str]:
    """Edges that are in more than one seam."""
    seen: dict[tuple[str, str], str] = {}
    for seam in seams:
        for run in (run for side in _owned(seam) for run in side):
            if (run.piece, run.edge) in seen:
                yield f"{run.edge} of {run.piece} is in {seen[run.piece, run.edge]} and in {seam.name}"
            seen[run.piece, run.edge] = seam.name


def _owned(seam: Seam) -> tuple[tuple[Run, ...], ...]:
    """The sides whose edges are joined by this seam: what is only caught in another adds its own side."""
    return (seam.a,) if seam.onto else seam.sides


def _turned(seams: Sequence[Seam], mirrored: Mapping[str, bool]) -> list[str]:
    """Seams whose two main sides would show one right side and one wrong side: both have to be walked in opposite senses."""
    found = []
    for seam in seams:
        senses = [{run.reversed != mirrored.get(run.piece, False) for run in side} for side in (seam.a, seam.b)]
        if any(len(sense) != 1 for sense in senses) or senses[0] == senses[1]:
            found.append(f"{seam.name}: one side shows its wrong side")
    return found


def _joined(seams: Sequence[Seam], flat: Mapping[str, Panel]) -> dict[Corner, int]:
    """Which corners of pieces are one."""
    parent: dict[Corner, Corner] = {(name, i): (name, i) for name, panel in flat.items() for i in range(len(panel.edges))}

    def root(corner: Corner) -> Corner:
        while parent[corner] != corner:
            parent[corner] = parent[parent[corner]]
            corner = parent[corner]
        return corner

    for seam in seams:
        sides = [_stops(side, flat) for side in seam.sides]
        for stops in sides:
            for _, met in stops:
                for corner in met[1:]:
                    parent[root(corner)] = root(met[0])
            if seam.ring:
                parent[root(stops[-1][1][0])] = root(stops[0][1][0])
        first = sides[0]
        for stops in sides[1:]:
            for at, met in stops:
                for there, others in first:
                    if abs(at - there) < 1e-4:
                        parent[root(met[0])] = root(others[0])
    numbers: dict[Corner, int] = {}
    for corner in parent:
        numbers.setdefault(root(corner), len(numbers))
    return {corner: numbers[root(corner)] for corner in parent}


def _stops(side: Sequence[Run], flat: Mapping[str, Panel]) -> list[tuple[float, list[Corner]]]:
    """Where the edges of a side begin and end, as shares of its length, and the corners that meet there."""
    lengths = [flat[run.piece].edge(run.edge).curve.length for run in side]
    total, done = sum(lengths) or 1.0, 0.0
    begin, _ = ends_of(side[0], flat)
    stops = [(0.0, [begin])]
    for run, length in zip(side, lengths, strict=True):
        start, stop = ends_of(run, flat)
        stops[-1][1].append(start)
        done += length
        stops.append((done / total, [stop]))
    return stops


def ends_of(run: Run, flat: Mapping[str, Panel]) -> tuple[Corner, Corner]:
    """The corners at which an edge begins and ends when it is walked as a run says."""
    edges = flat[run.piece].edges
    i = next(i for i, edge in enumerate(edges) if edge.name == run.edge)
    start, stop = (run.piece, i), (run.piece, (i + 1) % len(edges))
    return (stop, start) if run.reversed else (start, stop)


@dataclass(frozen=True, slots=True)
class Step:
    """One step of the way around an opening, between two corners of the surface: a free edge, or along a lap inside of a seam (no edge)."""

    run: Run | None
    start: int
    stop: int
    piece: str


def _laps(seams: Sequence[Seam], corners: Mapping[Corner, int], flat: Mapping[str, Panel]) -> list[Step]:
    """Where one goes on around an opening inside of a seam: from one end to the other of what is only caught there."""
    made = []
    for seam in seams:
        start, stop = corners[ends_of(seam.a[0], flat)[0]], corners[ends_of(seam.a[-1], flat)[1]]
        if seam.onto and start != stop:
            made.append(Step(None, start, stop, seam.a[0].piece))
    return made


def _rounds(
    free: Sequence[Run], laps: Sequence[Step], corners: Mapping[Corner, int], seams: Sequence[Seam], flat: Mapping[str, Panel]
) -> tuple[tuple[Opening, ...], list[str]]:
    """Free edges followed from corner to corner; a corner where one does not know which edge comes next is a fault."""
    steps = [Step(run, corners[start], corners[stop], run.piece) for run in free for start, stop in [ends_of(run, flat)]]
    steps += laps
    at: dict[int, list[int]] = {}
    for i, step in enumerate(steps):
        at.setdefault(step.start, []).append(i)
        at.setdefault(step.stop, []).append(i)
    following, faults = {}, []
    for corner, met in at.items():
        pairs = _paired(met, steps) or _around(corner, met, steps, seams, flat)
        if pairs is None:
            faults.append(f"{len(met)} free edges meet: {', '.join(str(steps[i].run) for i in met)}")
        for i, k in pairs or ():
            following[corner, i], following[corner, k] = k, i
    if faults:
        return (), faults
    left, openings = set(range(len(steps))), []
    for first in range(len(steps)):
        runs: list[Run] = []
        i, here = first, steps[first].start
        while i in left:
            left.discard(i)
            step, forward = steps[i], steps[i].start == here
            if step.run is not None:
                runs.append(step.run if forward else Run(step.run.piece, step.run.edge, reversed=True))
            here = step.stop if forward else step.start
            i = following[here, i]
        if runs:
            openings.append(Opening(tuple(runs)))
    return tuple(openings), []


def _paired(met: Sequence[int], steps: Sequence[Step]) -> list[tuple[int, int]] | None:
    """Which of the steps that meet at a corner follow one another: two do; where a lap ends as well, it goes on along its own piece. None if unknown."""
    if len(met) == 2:
        return [(met[0], met[1])]
    laps = [i for i in met if steps[i].run is None]
    own = [(lap, next((i for i in met if i != lap and steps[i].piece == steps[lap].piece), -1)) for lap in laps]
    rest = [i for i in met if i not in {k for pair in own for k in pair}]
    if len(met) != 4 or len(laps) != 1 or own[0][1] < 0 or len(rest) != 2:
        return None
    return [*own, (rest[0], rest[1])]


End = tuple[str, str, bool]
"""An end of an edge: its piece, the edge, and whether it is where the edge ends."""


def _around(
    corner: int, met: Sequence[int], steps: Sequence[Step], seams: Sequence[Seam], flat: Mapping[str, Panel]
) -> list[tuple[int, int]] | None:
    """Where two openings touch in a corner: the free edges that follow one another are those between which cloth lies around it."""
    if any(steps[i].run is None for i in met) or len(set(met)) != len(met):
        return None
    ends = {_end(steps[i], corner): i for i in met}
    glued, pairs = _glued(seams, flat), []
    for start, i in ends.items():
        at = _across(start, flat)
        for _ in range(1000):
            if at in ends or at not in glued:
                break
            at = _across(glued[at], flat)
        if at not in ends:
            return None
        if i < ends[at]:
            pairs.append((i, ends[at]))
    return pairs if len(pairs) * 2 == len(met) else None


def _end(step: Step, corner: int) -> End:
    """The end of a free edge that lies at a corner."""
    run = step.run or Run("", "")
    return run.piece, run.edge, step.start != corner


def _across(end: End, flat: Mapping[str, Panel]) -> End:
    """The other edge at the same corner of the same piece."""
    piece, edge, at_stop = end
    names = [e.name for e in flat[piece].edges]
    i = names.index(edge)
    return (piece, names[(i + 1) % len(names)], False) if at_stop else (piece, names[i - 1], True)


def _glued(seams: Sequence[Seam], flat: Mapping[str, Panel]) -> dict[End, End]:
    """For every end of an edge in a seam the one that lies on it, or, where its partner runs through, the next of its own side."""
    made: dict[End, End] = {}
    for seam in seams:
        if seam.onto:
            continue
        sides = [_junctions(side, seam.ring, flat) for side in seam.sides]
        for mine, others in (sides, sides[::-1]):
            for at, (before, after) in mine.items():
                partner = next((pair for there, pair in others.items() if abs(there - at) < 1e-4), None)
                if partner is not None:
                    made |= {own: other for own, other in zip((before, after), partner, strict=True) if own and other}
                elif before and after:
                    made |= {before: after, after: before}
    return made


def _junctions(side: Sequence[Run], ring: bool, flat: Mapping[str, Panel]) -> dict[float, tuple[End | None, End | None]]:
    """By shares of a side's length: the end of the run before, and that of the run after."""
    stops = [at for at, _ in _stops(side, flat)]
    begins: list[End] = [(run.piece, run.edge, run.reversed) for run in side]
    finishes: list[End] = [(run.piece, run.edge, not run.reversed) for run in side]
    made: dict[float, tuple[End | None, End | None]] = {
        stops[k]: (finishes[k - 1] if k else None, begins[k] if k < len(side) else None) for k in range(len(side) + 1)
    }
    if ring:
        made[stops[0]] = (finishes[-1], begins[0])
        made.pop(stops[-1], None)
    return made
