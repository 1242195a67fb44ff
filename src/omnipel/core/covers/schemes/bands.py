"""Turned body in bands: a chain of frustums from station to station, a dome in a few more, closed by a disc."""

import math
from itertools import pairwise

from omnipel.core.covers.options import count, only_when
from omnipel.core.covers.places import cones, copies, lid
from omnipel.core.covers.scheme import ROUND, Brief, Cover, Passage, Scheme, inside
from omnipel.core.covers.schemes.meridian import clear_of, dome_of, ring_sector, rise_of, walls
from omnipel.core.drafting.panel import Panel
from omnipel.core.drafting.pieces import Piece, placed
from omnipel.core.drafting.seams import Run, Seam, SeamKind
from omnipel.core.drafting.shapes import disc, frustum
from omnipel.core.forms.abilities import Ability, Turned
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.tolerances import BAND_EXCESS
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, mm, tr, trn
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
    rings += _dome(body, brief, rings[-1])
    if body.rise is None and len(rings) < 2:
        rings.append((rings[0][0], rings[0][1]))
    n = brief.count("panels")

    panels: list[Panel] = []
    pieces: list[Piece] = []
    around: list[Worked] = []
    seams: list[Seam] = []
    clear = clear_of(body, brief, rings[len(body.stations) - 1])
    for k, ((low, below), (high, above)) in enumerate(zip(rings, rings[1:], strict=False), 1):
        # Sizes
        flat = frustum(low, high, above - below, n)
        lower = brief.size(f"band_{k}_lower_arc", flat.bottom_arc, refs.ANY_CLEARANCE)
        upper = brief.size(f"band_{k}_upper_arc", flat.top_arc, refs.ANY_CLEARANCE)
        slant = brief.size(f"band_{k}_slant", flat.slant, refs.ANY_CLEARANCE)
        around[-1:] = [min((*around[-1:], lower * n), key=lambda arc: arc.value), upper * n]
        # Panels
        name = f"band {k}"
        band = ring_sector(name, (lower, upper, slant), brief, hemmed=k == 1)
        panels.append(band)
        seams += _ring_seams(k, n)
    height = rings[-1][1].value
    for band in reversed(panels):  # each hangs from the one above
        radius, other = (band.edges[i].curve.length * n / (2.0 * math.pi) for i in (0, 2))
        along = brief.sizes[f"{band.name.replace(' ', '_')}_slant"].value
        height -= math.sqrt(max(0.0, along * along - (other - radius) ** 2))
        pieces += [
            placed(band, place, piece, clear=clear)
            for piece, place in zip(copies(band.name, n), cones(band, n, height, along), strict=True)
        ]
    top = brief.size("top_sew_radius", rings[-1][0], refs.ANY_CLEARANCE)
    panels.append(disc("top", top, brief.seam))
    pieces.append(placed(panels[-1], lid(rings[-1][1].value), clear=clear))
    last = panels[-2].name
    seams.append(
        Seam(
            f"{last} to top",
            tuple(Run(piece, "top", reversed=True) for piece in copies(last, n)),
            (Run("top", "rim"),),
            ring=True,
            kind=SeamKind.FELLED,
            easier=f"band_{len(rings) - 1}_upper_arc",
            easier_share=1.0 / n,
        )
    )
    around[-1] = min(around[-1], top * ROUND, key=lambda arc: arc.value)
    profile = tuple(
        Passage(max(0.0, body.top - h.value), inside(brief, arc, ROUND))
        for arc, (_, h) in reversed(list(zip(around, rings, strict=True)))
    )
    openings = {"lower edge": Run(copies("band 1", n)[0], "bottom")}
    findings = _coarse(body, brief, rings)
    return brief.cover(panels, pieces, seams, openings=openings, profile=profile, seams_across=n, findings=findings)


def _ring_seams(k: int, n: int) -> list[Seam]:
    """A band closed into a ring, and sewn onto the one below."""
    name = f"band {k}"
    names = copies(name, n)
    seams = [
        Seam(f"close {name}", (Run(after, "left"),), (Run(before, "right", reversed=True),), kind=SeamKind.FELLED)
        for before, after in pairwise((*names, names[0]))
    ]
    if k > 1:
        under = f"band {k - 1}"
        seams.append(
            Seam(
                f"{name} to {under}",
                tuple(Run(piece, "bottom") for piece in names),
                tuple(Run(piece, "top", reversed=True) for piece in copies(under, n)),
                ring=True,
                easier=f"band_{k}_lower_arc",
                easier_share=1.0 / n,
            )
        )
    return seams


def _dome(body: Turned, brief: Brief, rim: tuple[Worked, Worked]) -> list[tuple[Worked, Worked]]:
    """Radius and height of the rings that part the dome into bands; the last holds the disc."""
    radius, base = rim
    rise = rise_of(body, brief, base)
    if rise is None:
        return []
    how, made = tr("where the bands meet that touch the sphere of the dome"), []
    for k in range(count_ := brief.count("dome_bands")):
        across, up = (
            through(words, how, lambda r, h, k=k, i=i: up_the_dome(r, h, k, count_)[i], radius, rise)
            for i, words in enumerate((tr("radius up the dome"), tr("up the dome")))
        )
        made.append((across, base + up))
    return made


def up_the_dome(rim: float, rise: float, k: int, bands: int) -> tuple[float, float]:
    """Radius and height over the rim of the seam above band `k` (0 the lowest) of a dome.

    Bands and disc touch the sphere from outside, as a chord between rings on it would lie within: the lowest at the rim, each higher one an angle
    Δ = half/bands further, the disc at the crown. Two that touch Δ apart meet at R/cos(Δ/2), midway.
    """
    sphere, half = dome_of(rim, rise)
    step = half / bands
    far, angle = sphere / math.cos(step / 2.0), step * (bands - k - 0.5)
    return far * math.sin(angle), far * math.cos(angle) - (sphere - rise)


def _coarse(body: Turned, brief: Brief, rings: list[tuple[Worked, Worked]]) -> tuple[Finding, ...]:
    """So few bands that their seams stand far off the dome."""
    rise, bands = rise_of(body, brief, rings[len(body.stations) - 1][1]), brief.count("dome_bands")
    if rise is None:
        return ()
    sphere, half = dome_of(rings[len(body.stations) - 1][0].value, rise.value)
    off = 1.0 / math.cos(half / bands / 2.0) - 1.0
    if off <= BAND_EXCESS:
        return ()
    better = math.ceil(half / 2.0 / math.acos(1.0 / (1.0 + BAND_EXCESS)))
    text = trn(
        "With {n} band the seam of the dome stands off by {off}. {better} follow it.",
        "With {n} bands the seams of the dome stand off by {off}. {better} follow it.",
        bands,
        off=mm(off * sphere),
        better=Count(better),
    )
    more = Remedy(tr("Use {n} bands", n=Count(better)), (Change(refs.option("dome_bands"), float(better)),))
    return (Finding("dome-coarse", Severity.LOOK, text, refs.option("dome_bands"), (more,)),)


SCHEME = Scheme(
    "bands", tr("Bands"), tr("Rings of cone, one above the other, and a disc."), frozenset({Ability.TURNED}), OPTIONS, draft
)
