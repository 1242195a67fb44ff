"""The sewn cover and the object as a Wavefront OBJ or a PLY file, so that anyone can measure it with another program. Millimetres, z up.

Groups: `cover/<panel>/<piece>`, `cover/<feature>/<id and number>` for webbing and tape, and `object/<part>`; names
have their blanks as underscores. Faces are flat, counter-clockwise seen from outside.
"""

from collections.abc import Iterator

import numpy as np

from omnipel.core.draft import Drafted
from omnipel.core.drafting.pieces import facets
from omnipel.core.space.frames import Solid

FINE = 0.2
"""No facet leaves the cloth by more than this, mm."""
DIGITS = 4
"""Decimals of a coordinate."""


def obj(draft: Drafted) -> str:
    """The file's content."""
    lines = [f"# {draft.job.name}".encode("ascii", "replace").decode().replace("\n", " "), "# millimetres, z up"]
    count = 0
    for group, faces in _groups(draft):
        lines.append(f"g {group}")
        for points in faces:
            lines += [f"v {x:.{DIGITS}f} {y:.{DIGITS}f} {z:.{DIGITS}f}" for x, y, z in points + 0.0]
            lines.append("f " + " ".join(str(count + k) for k in range(1, len(points) + 1)))
            count += len(points)
    return "\n".join(lines) + "\n"


CLOTH, THING = (214, 200, 168), (150, 150, 150)
"""Colours of the cover and of what is beneath, red, green, blue."""


def ply(draft: Drafted) -> str:
    """The same as a PLY file: each face with the number of its group, which comments at the top name, and a colour."""
    groups = list(_groups(draft))
    named = [f"comment group {n} {name}".encode("ascii", "replace").decode() for n, (name, _) in enumerate(groups)]
    vertices: list[str] = []
    rows: list[str] = []
    for n, (name, faces) in enumerate(groups):
        colour = " ".join(str(part) for part in (CLOTH if name.startswith("cover/") else THING))
        for points in faces:
            first = len(vertices)
            vertices += [f"{x:.{DIGITS}f} {y:.{DIGITS}f} {z:.{DIGITS}f}" for x, y, z in points + 0.0]
            rows.append(" ".join(str(k) for k in (len(points), *range(first, len(vertices)))) + f" {n} {colour}")
    head = [
        "ply", "format ascii 1.0", "comment millimetres, z up", *named,
        f"element vertex {len(vertices)}", *(f"property double {axis}" for axis in "xyz"),
        f"element face {len(rows)}", "property list int int vertex_indices", "property int group",
        *(f"property uchar {part}" for part in ("red", "green", "blue")), "end_header",
    ]  # fmt: skip
    return "\n".join([*head, *vertices, *rows]) + "\n"


def _groups(draft: Drafted) -> Iterator[tuple[str, list[Solid]]]:
    """Groups of faces: every piece of the cover, then every part of the object."""
    cover = draft.cover
    for piece in cover.pieces:
        panel = cover.flat[piece.name]
        size = float(np.ptp(panel.sew_points, axis=0).max())
        yield _name("cover", panel.name, piece.name), facets(piece, panel, max(FINE, size * 1e-4))
    for id_, ribbons in cover.ribbons.items():
        for i, ribbon in enumerate(ribbons, 1):
            yield _name("cover", ribbon.name, f"{id_} {i}"), ribbon.faces
    parts: dict[str, list[Solid]] = {}
    for face in draft.body.mesh().faces:
        parts.setdefault(face.part, []).append(face.points)
    for part, faces in parts.items():
        yield _name("object", part), faces


def _name(*parts: str) -> str:
    """A group's name."""
    return "/".join("_".join(part.replace("/", " ").split()) for part in parts)
