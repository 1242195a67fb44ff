"""An order of work checked by itself: the cover is put together step by step, each rule asked of what lies on the bench, in words of its own.

What crosses what is found in space, not from the topology; what is flat, from which pieces are joined when a step is done.
"""

from collections.abc import Iterator, Mapping, Sequence
from typing import Final

import numpy as np

from omnipel.core.covers.scheme import Cover
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Run, Seam
from omnipel.core.drafting.walking import walk
from omnipel.core.finishing.operation import Operation
from omnipel.core.job.document import LiningSchool, RingSchool
from omnipel.core.job.edges import HemOrder
from omnipel.core.job.finish import FinishKind
from omnipel.core.plane.curves import Arc

MEETING: Final = ("bagged", "bound", "caught in the hem")
NEAR: Final = 1.0
"""Places nearer than this are one, mm."""
FLAT: Final = frozenset(
    {
        "open",
        "bind opening",
        "face opening",
        "window",
        "baste part",
        "sew on",
        "touch",
        "lettering",
        "fuse letters",
        "stitch line",
        "set flat",
        "tack part",
    }
)
"""Done to a panel that lies flat."""


def broken(drafted: Drafted, operations: Sequence[Operation], keys: Sequence[str]) -> Iterator[str]:
    """Everything that is wrong with an order."""
    by_key = {operation.key: operation for operation in operations}
    order = [by_key[key] for key in keys]
    at = {operation.key: i for i, operation in enumerate(order)}
    if sorted(keys) != sorted(by_key):
        yield "the order leaves steps out, or has some twice"
        return
    cover, seams = drafted.cover, drafted.cover.seams
    sewn: dict[int, int] = {}
    for operation in order:
        for i in operation.seams:
            if i in sewn:
                yield f"{seams[i].name} is sewn twice"
            sewn[i] = at[operation.key]
    yield from (f"{seam.name} is never sewn" for i, seam in enumerate(seams) if i not in sewn)
    if len(sewn) < len(seams):
        return
    yield from _told(order, at)
    yield from _flat(cover, order, sewn)
    yield from _whole(cover, order, at, sewn)
    yield from _crossing(drafted, sewn, order, at)
    yield from _caught(cover, sewn)
    yield from _hems(drafted, order, at, sewn)
    yield from _layers(order, at)
    yield from _drawn(order, at)
    yield from _over_cords(drafted, order, at, sewn)
    yield from _tried(drafted, order, at, sewn)
    yield from _bagged(drafted, order, at, sewn)


def _own(cover: Cover, seam: Seam) -> bool:
    """Whether a seam joins cloth of one layer for good."""
    cloths = {cover.flat[run.piece].cloth for side in seam.sides for run in side}
    return not (seam.kind in MEETING and len(cloths) > 1) and not seam.onto


def _level(cover: Cover, seam: Seam) -> bool:
    """Whether it is a zip, or joins what was one panel, both sides straight edges of two pieces that lie flat."""
    edges = [cover.flat[run.piece].edge(run.edge).curve for side in seam.sides for run in side]
    straight = len(edges) == 2 and all(isinstance(curve, Arc) and not curve.curvature for curve in edges)
    return seam.parts or (straight and seam.kind in ("zip", "zipped") and seam.a[0].piece != seam.b[0].piece)


def _told(order: Sequence[Operation], at: Mapping[str, int]) -> Iterator[str]:
    """What operations say themselves."""
    for operation in order:
        for after in operation.after:
            if at[after.key] > at[operation.key]:
                yield f"{operation.key} before {after.key}"


def _flat(cover: Cover, order: Sequence[Operation], sewn: Mapping[int, int]) -> Iterator[str]:
    """Rules 1 and 2: nothing is put on a piece that has been joined to another; what was one panel may be whole again."""
    joined: set[str] = set()
    for operation in order:
        if operation.deed in FLAT and not operation.key.startswith(("seam:", "lining/")):
            late = [piece for piece in operation.on if piece in joined]
            if late:
                yield f"{operation.key} when {late} is joined already"
        for i in operation.seams:
            seam = cover.seams[i]
            if _own(cover, seam) and not _level(cover, seam):
                joined |= {run.piece for side in seam.sides for run in side}


def _whole(cover: Cover, order: Sequence[Operation], at: Mapping[str, int], sewn: Mapping[int, int]) -> Iterator[str]:
    """What lies on another piece is whole when it is sewn on."""
    lies = {piece.name for piece in cover.pieces if piece.on}
    for operation in order:
        for i, seam in enumerate(cover.seams):
            pieces = {run.piece for side in seam.sides for run in side}
            if operation.deed == "sew on" and seam.parts and pieces & lies & set(operation.on) and sewn[i] > at[operation.key]:
                yield f"{operation.key} before {seam.name} is sewn"


def _points(cover: Cover, side: Sequence[Run], n: int = 41) -> np.ndarray:
    return walk(side, {piece.name: piece for piece in cover.pieces}, cover.flat, np.linspace(0.0, 1.0, n))


def _crossing(drafted: Drafted, sewn: Mapping[int, int], order: Sequence[Operation], at: Mapping[str, int]) -> Iterator[str]:
    """Rules 3, 5, 11: where a seam runs over the end of another, that one is sewn, trimmed and neatened."""
    cover, seams = drafted.cover, drafted.cover.seams
    ways = [[_points(cover, side) for side in seam.sides] for seam in seams]
    neat = {o.key.rpartition("/")[0]: at[o.key] for o in order if o.deed in ("neaten", "trim seam")}
    names = _names(seams)
    late = {
        i
        for i, seam in enumerate(seams)
        if drafted.job.cover.ring is RingSchool.MEET_AND_TRIM
        and any(cover.flat[r.piece].edge(r.edge).finish.kind is FinishKind.TRIMMED for side in seam.sides for r in side)
    }
    for i, seam in enumerate(seams):
        if seam.ring or not _own(cover, seam):
            continue
        for k, other in enumerate(seams):
            if k == i or not _own(cover, other) or not _over(ways[i], ways[k], ring=other.ring) or not _touch(seam, other):
                continue
            if i in late or (_level(cover, other) and not _level(cover, seam)):
                if sewn[k] > sewn[i] and k not in late:
                    yield f"{seam.name} before {other.name}, which is sewn flat or closed late"
            elif not _over(ways[k], ways[i], ring=seam.ring) and sewn[i] > sewn[k]:
                yield f"{other.name} over the open end of {seam.name}"
            elif neat.get(names[i], -1) > sewn[k] and not _over(ways[k], ways[i], ring=seam.ring):
                yield f"{seam.name} is neatened after {other.name} has crossed it"


def _touch(one: Seam, other: Seam) -> bool:
    """Whether two seams have a piece in common."""
    return bool({r.piece for s in one.sides for r in s} & {r.piece for s in other.sides for r in s})


def _over(ends_of: Sequence[np.ndarray], way: Sequence[np.ndarray], *, ring: bool) -> bool:
    """Whether a way runs on through an end of another, on both sides of both."""
    for end in (0, -1):
        places = [side[end] for side in ends_of]
        if float(np.linalg.norm(places[0] - places[1])) > 8.0:
            continue
        for side in way:
            inner = side if ring else side[2:-2]
            if min(float(np.linalg.norm(side[i] - places[0])) for i in (0, -1)) < NEAR and not ring:
                continue
            if _nearest(inner, places[0]) < NEAR and _nearest(inner, places[1]) < 8.0:
                return True
    return False


def _nearest(way: np.ndarray, place: np.ndarray) -> float:
    a, b = way[:-1], way[1:]
    along = b - a
    share = np.clip(((place - a) * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), 1e-12), 0.0, 1.0)
    return float(np.linalg.norm(a + along * share[:, None] - place, axis=1).min())


def _names(seams: Sequence[Seam]) -> list[str]:
    met: dict[str, int] = {}
    names = []
    for seam in seams:
        met[seam.name] = met.get(seam.name, 0) + 1
        names.append(f"seam:{seam.name}" + (f"#{met[seam.name]}" if met[seam.name] > 1 else ""))
    return names


def _caught(cover: Cover, sewn: Mapping[int, int]) -> Iterator[str]:
    """Rule 2: what hangs in a seam is in it before that is sewn."""
    for i, seam in enumerate(cover.seams):
        if not seam.onto:
            continue
        edges = {(run.piece, run.edge) for run in seam.b}
        for k, main in enumerate(cover.seams):
            if not main.onto and edges & {(run.piece, run.edge) for side in main.sides for run in side} and sewn[k] < sewn[i]:
                yield f"{seam.name} after {main.name}, in which it is caught"


def _hems(drafted: Drafted, order: Sequence[Operation], at: Mapping[str, int], sewn: Mapping[int, int]) -> Iterator[str]:
    """Rule 6: hems first before the seams beside them, hems last after."""
    cover = drafted.cover
    for edge in cover.edges:
        mine = [
            at[o.key]
            for o in order
            if o.opening == edge.name and o.deed in ("hem", "casing", "bind edge", "face edge", "pipe edge")
        ]
        pieces = {run.piece for run in edge.runs}
        beside = [
            sewn[i]
            for i, seam in enumerate(cover.seams)
            if _own(cover, seam) and pieces & {r.piece for s in seam.sides for r in s}
        ]
        met = {
            (r.piece, r.edge) for seam in cover.seams if not _own(cover, seam) and not seam.onto for s in seam.sides for r in s
        }
        if not mine or not beside or any((run.piece, run.edge) in met for run in edge.runs):
            continue
        if edge.order is HemOrder.HEM_FIRST and max(mine) > min(beside):
            yield f"{edge.name} is to be hemmed first"
        hung = {run.piece for seam in cover.seams if seam.onto for run in seam.a}
        if edge.order is HemOrder.HEM_LAST and not pieces & hung and min(mine) < max(beside):
            yield f"{edge.name} is to be hemmed last"


def _layers(order: Sequence[Operation], at: Mapping[str, int]) -> Iterator[str]:
    """Rules 7 and 8: fused, quilted, trimmed, then all else of a panel."""
    steps = [at[key] for key in ("padding/fuse", "padding/baste", "padding/quilt", "padding/trim") if key in at]
    if steps != sorted(steps):
        yield "layers out of turn"
    padded = {piece for o in order if o.key.startswith("padding/") for piece in o.on}
    for operation in order:
        early = steps and at[operation.key] < max(steps) and set(operation.on) & padded
        if early and operation.deed in (*FLAT, "hem", "casing", "sew", "sew ring", "pin"):
            yield f"{operation.key} before its panel is trimmed"


def _drawn(order: Sequence[Operation], at: Mapping[str, int]) -> Iterator[str]:
    """Rules 9 and 4: cords and elastics."""
    for operation in order:
        head = operation.key.rpartition("/")[0]
        if operation.deed == "lay cord" and at[f"{head}/stitch"] < at[operation.key]:
            yield f"{head}: stitched before its cord lies in it"
        if operation.deed == "join elastic" and not at[f"{head}/thread"] < at[operation.key] < at[f"{head}/close"]:
            yield f"{head}: closed before the elastic is joined"
        if operation.deed == "thread":
            ironed = [
                o.key
                for o in order
                if o.did.station == "iron" and set(o.on) & set(operation.on) and at[o.key] > at[operation.key]
            ]
            if ironed:
                yield f"{ironed} when {operation.key} is done"


def _over_cords(drafted: Drafted, order: Sequence[Operation], at: Mapping[str, int], sewn: Mapping[int, int]) -> Iterator[str]:
    """Where a machine seam comes to a casing with its cord in it, a hand closes that casing: after the seam, before the cord is drawn."""
    cover = drafted.cover
    lain: dict[str, list[Operation]] = {}
    for laid in (o for o in order if o.deed == "lay cord"):
        lain.setdefault(laid.key.rpartition("/")[0].split("/")[0], []).append(laid)
    for head, parts in lain.items():  # opposite sides of a casing are sewn one after the other
        beside = set()
        for run in (run for laid in parts for run in laid.edges):
            names = [edge.name for edge in cover.flat[run.piece].edges]
            k = names.index(run.edge)
            beside |= {(run.piece, names[k - 1]), (run.piece, names[(k + 1) % len(names)])}
        ends = {
            i
            for i, seam in enumerate(cover.seams)
            if i in sewn and not seam.ring and any((run.piece, run.edge) in beside for side in seam.sides for run in side)
        }
        hand = next((o for o in order if o.key == f"{head}/by hand"), None)
        if bool(ends) is not (hand is not None):
            yield f"{head}: {len(ends)} seams come to its casing, and a hand {'closes it' if hand else 'does not'}"
        elif hand is not None:
            if any(sewn[i] > at[hand.key] for i in ends):
                yield f"{head}: closed by hand before the seam beside it"
            if any(at[f"{laid.key.rpartition('/')[0]}/stitch"] > at[hand.key] for laid in parts):
                yield f"{head}: closed by hand before all of its casing is stitched"
            if f"{head}/draw" in at and at[f"{head}/draw"] < at[hand.key]:
                yield f"{head}: drawn before it is closed"


def _tried(drafted: Drafted, order: Sequence[Operation], at: Mapping[str, int], sewn: Mapping[int, int]) -> Iterator[str]:
    """Rule 10: it is tried on when it is sewn and before it is final."""
    cover = drafted.cover
    if "try/first" not in at:
        return
    for i, seam in enumerate(cover.seams):
        outer = all(cover.flat[r.piece].cloth is Cloth.OUTER for s in seam.sides for r in s)
        if _own(cover, seam) and outer and sewn[i] > at["try/first"]:
            yield f"tried on before {seam.name} is sewn"
    for operation in order:
        final = operation.deed in ("cut boxed", "drill", "set on object", "close gap", "put in")
        if final and at[operation.key] < at["try/first"]:
            yield f"{operation.key} before it is tried on"


def _bagged(drafted: Drafted, order: Sequence[Operation], at: Mapping[str, int], sewn: Mapping[int, int]) -> Iterator[str]:
    """Rule 4: nothing is sewn in a closed bag; the gap is the last."""
    if "lining/close" not in at:
        return
    cover, turned = drafted.cover, at.get("lining/turn", -1)
    for i, seam in enumerate(cover.seams):
        if _own(cover, seam) and sewn[i] > turned:
            yield f"{seam.name} is sewn inside of what is turned"
    machine = [
        o.key
        for o in order
        if o.did.station == "machine" and at[o.key] > at["lining/close"] and o.deed not in ("join elastic", "close casing")
    ]
    if machine:
        yield f"{machine} after the gap is closed"
    if drafted.job.cover.lining.school is LiningSchool.BAGGED and "lining/mark gap" in at:
        lined = [
            sewn[i]
            for i, s in enumerate(drafted.cover.seams)
            if _own(cover, s) and all(drafted.cover.flat[r.piece].cloth is Cloth.LINING for d in s.sides for r in d)
        ]
        if lined and at["lining/mark gap"] > max(lined):
            yield "the gap is marked when the lining is sewn"
