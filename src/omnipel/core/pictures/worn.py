"""The cover on its object, as a surface for the sketch: faces by panel, u outside the body, taken apart if asked.

Made from the body's own shape and the cover's inside girths by depth; folds and fullness are not modelled.
"""

import math
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from omnipel.core.covers.scheme import Cover
from omnipel.core.forms.abilities import Ability
from omnipel.core.forms.body import Body, rectangle_section
from omnipel.core.forms.mesh import Face, Mesh, Solid, level, ring

COVER = "cover:"
"""Parts of the sketch that belong to the cover begin with this; the panel's name follows, and for sides the depth's number."""
APART = 0.35
"""Taken apart, each part moves out by this share of the cover's size."""
AROUND = 28


def worn(body: Body, cover: Cover, *, apart: bool = False) -> Mesh:
    """The cover over its object; an empty mesh when it has no panels."""
    if not cover.panels or not cover.roles:
        return Mesh()
    shape: Any = body
    match body.ability:
        case Ability.ROUND | Ability.TAPERED | Ability.TURNED | Ability.NECKED:
            parts = _round(shape, cover)
        case Ability.BOXY:
            sloped = shape.front_height.value < shape.height.value
            front = shape.front_height.value if sloped else None
            parts = _boxed(cover, shape.length.value, shape.width.value, shape.height.value, front)
        case Ability.CASED:
            parts = _boxed(cover, shape.length.value, shape.width.value, shape.height.value, None)
        case Ability.SLAB:
            parts = _boxed(cover, shape.length.value, shape.width.value, shape.thickness.value, None)
        case Ability.OUTLINED:
            parts = _traced(shape, cover)
        case Ability.WHEELED:
            parts = _wheel(shape, cover)
        case Ability.RIMMED:
            parts = _cap(shape, cover)
        case Ability.SPREAD:
            ring_ = shape.ring
            outline = (
                rectangle_section(shape.length.value, shape.width.value) if ring_ is None else ring_ - ring_.max(axis=0) / 2.0
            )
            parts = [("top", 0, level(outline, max(shape.length.value, shape.width.value) * 0.03))]
    faces = [Face(points, f"{COVER}{panel}:{depth}") for role, depth, points in parts if (panel := _panel(cover, role))]
    return _taken_apart(Mesh(tuple(faces)), parts, cover) if apart else Mesh(tuple(faces))


Part = tuple[str, int, Solid]
"""Role, number of the depth from the top, points of the face."""


def _panel(cover: Cover, role: str) -> str:
    """The panel of a role; a side without its own role is the common side."""
    return cover.roles.get(role) or (cover.roles.get("side", "") if role in ("front", "right", "back", "left", "side") else "")


def _girths(cover: Cover) -> list[tuple[float, float]]:
    return [(p.depth, p.girth.value) for p in cover.profile]


def _round(body: Any, cover: Cover) -> list[Part]:
    """Rings by depth; closed at the top, or at the bottom for a bag."""
    top = float(max(face.points[:, 2].max() for face in body.mesh().faces))
    girths = _girths(cover)
    if body.ability is Ability.TURNED and body.rise is not None:
        girths = _domed(body, girths)
    rings = [ring(max(girth / (2.0 * math.pi), 0.1), top - depth, AROUND) for depth, girth in girths]
    return _lofted(rings, "top", "base" if cover.from_below else "")


def _domed(body: Any, girths: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """The dome's own rings above the highest station."""
    rise, rim = body.rise.value if body.rise else 0.0, girths[0][1] / (2.0 * math.pi)
    sphere = (rim * rim + rise * rise) / (2.0 * rise)
    half = math.atan2(rim, sphere - rise)
    dome = []
    for k in range(1, 6):
        angle = half * k / 6.0
        dome.append((sphere * (1.0 - math.cos(angle)), 2.0 * math.pi * sphere * math.sin(angle)))
    return [*dome, *girths]


def _lofted(rings: Sequence[Solid], top: str, base: str) -> list[Part]:
    """Sides between rings from the top down, and the closed end."""
    parts: list[Part] = []
    for k, (high, low) in enumerate(zip(rings, rings[1:], strict=False)):
        quads = np.stack((low, np.roll(low, -1, axis=0), np.roll(high, -1, axis=0), high), axis=1)
        parts += [("side", k, quad) for quad in quads]
    if not base:
        parts.append((top, 0, rings[0]))
    else:
        parts.append((base, len(rings) - 1, rings[-1][::-1]))
    return parts


def _boxed(cover: Cover, length: float, width: float, height: float, front: float | None) -> list[Part]:
    """Five faces, each side and the top moved out by the gap."""
    gap = (cover.profile[0].girth.value - 2.0 * (length + width)) / 8.0 if cover.profile else 10.0
    drop = max((p.depth for p in cover.profile), default=height)
    gap = max(gap, 1.0)
    section = rectangle_section(length + 2.0 * gap, width + 2.0 * gap)
    high, low = level(section, height + gap), level(section, max(0.0, height - drop))
    if front is not None and cover.roles.get("left") == "end" and cover.roles.get("side") == "gusset":
        high[:2, 2] = front + gap
    names = ("front", "right", "back", "left")
    parts: list[Part] = [(names[k], 0, np.array([low[k], low[(k + 1) % 4], high[(k + 1) % 4], high[k]])) for k in range(4)]
    if (
        "front" in cover.roles and "left" not in cover.roles and "side" not in cover.roles
    ):  # a drape hangs over front and back only
        parts = [part for part in parts if part[0] in ("front", "back")]
    return [*parts, ("top" if "top" in cover.roles else "side", 0, high)]


def _traced(body: Any, cover: Cover) -> list[Part]:
    """The grown outline on both ends, and the gusset over it."""
    end = next((p for p in cover.panels if p.name == cover.roles.get("right")), None)
    ring_ = np.array(end.sew_points) if end is not None else body.ring * 1.02
    if len(ring_) > 80:
        ring_ = ring_[:: len(ring_) // 50]
    middle = (body.ring[:, 0].min() + body.ring[:, 0].max()) / 2.0
    half = (cover.profile[0].girth.value - 2.0 * float(np.ptp(ring_[:, 0]))) / 4.0 if cover.profile and end else 0.0
    half = max(half, body.across.value / 2.0 + 1.0)
    own = (ring_[:, 0].min() + ring_[:, 0].max()) / 2.0
    right = np.column_stack((np.full(len(ring_), half), ring_[:, 0] - own + middle - body.ring[:, 0].max() / 2.0, ring_[:, 1]))
    left = right * (-1.0, 1.0, 1.0)
    count = len(right)
    quads: list[Part] = []
    for i in range(count):
        j = (i + 1) % count
        if right[i, 2] > 1.0 or right[j, 2] > 1.0:  # open at the bottom
            quads.append(("side", 0, np.array([right[i], left[i], left[j], right[j]])))
    if end is None:  # one cloth over it all
        return [("top", 0, points) for _, _, points in quads]
    return [("right", 0, right), ("left", 0, left[::-1]), *quads]


def _wheel(body: Any, cover: Cover) -> list[Part]:
    """Upright: a face to the left and, where there is one, to the right, and the boxing around."""
    radius = cover.profile[0].girth.value / (2.0 * math.pi) if cover.profile else body.radius * 1.03
    half, middle = body.width.value / 2.0 + (radius - body.radius), body.radius
    flat = ring(radius, 0.0, AROUND)

    def upright(x: float) -> Solid:
        points = np.column_stack((np.full(len(flat), x), flat[:, 0], flat[:, 1] + middle))
        points[:, 2] = np.maximum(points[:, 2], 0.0)
        return points

    left, right = upright(-half), upright(half)
    quads: list[Part] = [
        ("side", 0, np.array([left[i], right[i], right[(i + 1) % AROUND], left[(i + 1) % AROUND]]))
        for i in range(AROUND)
        if left[i, 2] > 0.0 or left[(i + 1) % AROUND, 2] > 0.0
    ]
    faces: list[Part] = [("left", 0, left[::-1])]
    if "right" in cover.roles:
        faces.append(("right", 0, right))
    return [*faces, *quads]


def _cap(body: Any, cover: Cover) -> list[Part]:
    """A disc over the rim and what hangs below it."""
    rim, high = body.diameter.value / 2.0, body.height.value
    cap = next(p for p in cover.panels if p.name == cover.roles["top"])
    reach = float(np.ptp(cap.sew_points, axis=0).max()) / 2.0 - rim
    rings = [
        ring(rim * 1.01, high + 2.0, AROUND),
        ring(rim * 1.05, high - reach * 0.5, AROUND),
        ring(rim * 0.99, high - reach, AROUND),
    ]
    return [("top", depth, points) for _, depth, points in _lofted(rings, "top", "")]


def _taken_apart(mesh: Mesh, parts: Sequence[Part], cover: Cover) -> Mesh:
    """Every role moved out of the others' way: the top up, the base down, upright parts outward."""
    everything = np.concatenate([face.points for face in mesh.faces])
    size = float(np.ptp(everything, axis=0).max()) * APART
    ways: dict[str, NDArray[np.float64]] = {
        "top": np.array([0.0, 0.0, size]),
        "base": np.array([0.0, 0.0, -size]),
        "front": np.array([0.0, -size, 0.0]),
        "back": np.array([0.0, size, 0.0]),
        "left": np.array([-size, 0.0, 0.0]),
        "right": np.array([size, 0.0, 0.0]),
        "side": np.zeros(3),
    }
    roles = [role for role, _, _ in parts if _panel(cover, role)]
    moved = [Face(face.points + ways[role], face.part) for face, role in zip(mesh.faces, roles, strict=True)]
    # Taken apart, a panel is also seen from its inside.
    return Mesh((*moved, *(Face(face.points[::-1], face.part) for face in moved)))
