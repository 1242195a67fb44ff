"""Turned body in bands: a chain of frustums from station to station, a dome in a few more, closed by a disc."""

import math

from omnipel.core.covers.meridian import sphere_of, walls
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Scheme, count, inside
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum, sector
from omnipel.core.forms.turned import Turned
from omnipel.core.working import Worked, formula

OPTIONS = (
    count("dome_bands", "bands in the dome", 3, "Three follow a dome well; each is one more ring to sew.", 1, 12),
    count("panels", "panels around each band", 2, "Two nest better than one long ring.", 1, 12),
)


def draft(body: Turned, brief: Brief) -> Cover:
    """Bands from the lower edge up, and the disc on top."""
    rings = walls(body, brief)
    rings += _dome(body, rings[-1], brief.count("dome_bands"))
    if body.rise is None and len(rings) < 2:
        rings.append((rings[0][0], rings[0][1]))
    n = brief.count("panels")

    panels: list[Panel] = []
    seams: list[Seam] = []
    for k, ((low, below), (high, above)) in enumerate(zip(rings, rings[1:], strict=False), 1):
        # Sizes
        flat = frustum(low, high, above - below, n)
        lower = brief.size(f"band_{k}_lower_arc", flat.bottom_arc)
        upper = brief.size(f"band_{k}_upper_arc", flat.top_arc)
        slant = brief.size(f"band_{k}_slant", flat.slant)
        # Panels
        name = f"band {k}"
        finish = brief.choices.hem if k == 1 else brief.seam
        panels.append(sector(name, lower, upper, slant, inside=finish, outside=brief.seam, sides=brief.closing, count=n))
        # Seams
        seams.append(Seam(f"close {name}", (Run(name, "left"),), (Run(name, "right", reversed=True),), kind=SeamKind.FELLED))
        if k > 1:
            under = f"band {k - 1}"
            ring = tuple(Run(under, "top", reversed=True) for _ in range(n))
            seams.append(
                Seam(
                    f"{name} to {under}",
                    tuple(Run(name, "bottom") for _ in range(n)),
                    ring,
                    ring=True,
                    easier=f"band_{k}_lower_arc",
                    easier_share=1.0 / n,
                )
            )
    top = brief.size("top_sew_radius", rings[-1][0])
    panels.append(disc("top", top, brief.seam))
    last = panels[-2].name
    seams.append(
        Seam(
            f"{last} to top",
            tuple(Run(last, "top", reversed=True) for _ in range(n)),
            (Run("top", "rim"),),
            ring=True,
            kind=SeamKind.FELLED,
            easier=f"band_{len(rings) - 1}_upper_arc",
            easier_share=1.0 / n,
        )
    )
    crown = rings[-1][1].value
    profile = tuple((max(0.0, crown - h.value), inside(brief, r * ROUND, ROUND)) for r, h in reversed(rings))
    return Cover(tuple(panels), tuple(seams), brief.sizes, profile, roles={"side": "band 1", "top": "top"}, seams_across=n)


def _dome(body: Turned, rim: tuple[Worked, Worked], count_: int) -> list[tuple[Worked, Worked]]:
    """Radius and height of the rings that part the dome into bands; the last leaves a small disc."""
    if body.rise is None:
        return []
    radius, base = rim
    rise = body.rise.value * radius.value / body.stations[-1].radius
    sphere = sphere_of(radius.value, rise)
    half = math.atan2(radius.value, sphere - rise)
    made = []
    for k in range(1, count_ + 1):
        angle = half * (1.0 - k / (count_ + 0.5))
        share = sphere * math.sin(angle) / radius.value
        height = sphere * math.cos(angle) - (sphere - rise)
        made.append(
            (radius * share, base + formula("up the dome", height, "R cos φ − (R − h)", (body.rise, height / body.rise.value)))
        )
    return made


SCHEME = Scheme("bands", "Bands", "Rings of cone, one above the other, and a disc.", ("turned",), OPTIONS, draft)
