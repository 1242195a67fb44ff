"""Turned body in bands: a chain of frustums from station to station, a dome in a few more, closed by a disc."""

import math

from omnipel.core.covers.options import count, only_when
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Passage, Scheme, inside
from omnipel.core.covers.schemes.meridian import sphere_of, walls
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum, sector
from omnipel.core.forms.abilities import Ability, Turned
from omnipel.core.words.phrases import tr
from omnipel.core.words.working import Worked, through

OPTIONS = (
    only_when(
        count("dome_bands", tr("bands in the dome"), 3, tr("Three follow a dome well; each is one more ring to sew."), 1, 12),
        needs=lambda body: body.rise is not None,
    ),
    count("panels", tr("panels around each band"), 2, tr("Two nest better than one long ring."), 1, 12),
)


def draft(body: Turned, brief: Brief) -> Cover:
    """Bands from the lower edge up, and the disc on top."""
    rings = walls(body, brief)
    rings += _dome(body, rings[-1], brief.count("dome_bands"))
    if body.rise is None and len(rings) < 2:
        rings.append((rings[0][0], rings[0][1]))
    n = brief.count("panels")

    panels: list[Panel] = []
    around: list[Worked] = []
    seams: list[Seam] = []
    for k, ((low, below), (high, above)) in enumerate(zip(rings, rings[1:], strict=False), 1):
        # Sizes
        flat = frustum(low, high, above - below, n)
        lower = brief.size(f"band_{k}_lower_arc", flat.bottom_arc)
        upper = brief.size(f"band_{k}_upper_arc", flat.top_arc)
        slant = brief.size(f"band_{k}_slant", flat.slant)
        around[-1:] = [min((*around[-1:], lower * n), key=lambda arc: arc.value), upper * n]
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
    around[-1] = min(around[-1], top * ROUND, key=lambda arc: arc.value)
    profile = tuple(
        Passage(max(0.0, crown - h.value), inside(brief, arc, ROUND))
        for arc, (_, h) in reversed(list(zip(around, rings, strict=True)))
    )
    return brief.cover(panels, seams, profile=profile, roles={"side": "band 1", "top": "top"}, seams_across=n)


def _dome(body: Turned, rim: tuple[Worked, Worked], count_: int) -> list[tuple[Worked, Worked]]:
    """Radius and height of the rings that part the dome into bands; the last leaves a small disc."""
    if body.rise is None:
        return []
    radius, base = rim
    rim_body = body.stations[-1].girth / (2.0 * math.pi)
    made = []
    for k in range(1, count_ + 1):
        part = k / (count_ + 0.5)
        across = through(
            tr("radius up the dome"),
            tr("on the sphere of the dome"),
            lambda r, rise, bare, p=part: up_the_dome(r, rise * r / bare, p)[0],
            radius,
            body.rise,
            rim_body,
        )
        height = through(
            tr("up the dome"),
            tr("on the sphere of the dome"),
            lambda r, rise, bare, p=part: up_the_dome(r, rise * r / bare, p)[1],
            radius,
            body.rise,
            rim_body,
        )
        made.append((across, base + height))
    return made


def up_the_dome(rim: float, rise: float, part: float) -> tuple[float, float]:
    """Radius and height over the rim of the ring that lies `part` of the way from rim to crown along a sphere."""
    sphere = sphere_of(rim, rise)
    angle = math.atan2(rim, sphere - rise) * (1.0 - part)
    return sphere * math.sin(angle), sphere * math.cos(angle) - (sphere - rise)


SCHEME = Scheme(
    "bands", tr("Bands"), tr("Rings of cone, one above the other, and a disc."), frozenset({Ability.TURNED}), OPTIONS, draft
)
