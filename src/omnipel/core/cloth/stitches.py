"""How much is sewn, and the thread that takes: by trade practice 2(1 + t/λ) of lockstitch for stitches λ long through cloth t thick."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final

from omnipel.core.cloth.sheets import layer_of
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import SeamKind
from omnipel.core.job.document import ClothChoice, ClothKind, LiningSchool
from omnipel.core.job.finish import FinishKind
from omnipel.core.words.phrases import Count, Share, mm, term, tr
from omnipel.core.words.working import Worked, worked

USUAL: Final = {ClothKind.CANVAS: ("110", 90, 6.0), ClothKind.GENERAL: ("100", 70, 4.0), ClothKind.COTTON: ("80", 40, 2.5)}
"""Needle, thread (Tex) and stitch, mm, where the cloth does not say."""
SPARE: Final = 0.15
"""Share of thread that is lost in beginnings, ends and what is sewn again."""
OVERLOCK: Final = 9.0
"""A metre of overlocked edge takes so many metres of thread."""
LAYERS: Final = {"seams": 2.0, "topstitching": 3.0, "hems": 3.0, "quilting": 2.0}
"""How many layers of cloth lie under the foot."""
NOTHING_SEWN: Final = worked(tr("nothing"), 0.0)


def sewn_with(cloth: ClothChoice) -> tuple[str, int, float]:
    """Needle, thread and stitch length, mm, of a cloth; as is usual for its kind where it does not say."""
    needle, thread, stitch = USUAL[cloth.kind]
    return cloth.needle or needle, cloth.thread or thread, cloth.stitch or stitch


def seam_lengths(drafted: Drafted, layer: Cloth | None = None) -> Mapping[str, Worked]:
    """How much is sewn of one cover: seams, their rows of topstitching (the second pass of a felled seam is one), hems and casings, lines of quilting; mm.

    Args:
        drafted: the cover.
        layer: count only what is sewn in this cloth; what joins two cloths is sewn as the outer one.
    """
    seams, rows = [], []
    for trued in drafted.seams:
        if layer not in (None, layer_of(drafted.cover, trued.seam)):
            continue
        length = worked(term(trued.seam.name), trued.length_b) * float(trued.times)
        seams.append(length)
        passes = max(trued.seam.rows, 1 if trued.seam.kind in (SeamKind.FELLED, "felled") else 0)
        if passes:
            rows.append(length * float(passes))
    hems = []
    as_one = drafted.job.cover.lining.school is LiningSchool.AS_ONE  # one row of stitches goes through outer and lining
    hemmed = [panel for panel in drafted.panels if not (as_one and panel.cloth is Cloth.LINING)]
    for panel in hemmed:
        for edge in panel.edges if layer in (None, panel.cloth) else ():
            if edge.finish.kind in HEMMED:
                name = tr("{edge} of {panel}", edge=term(edge.name), panel=term(panel.name))
                hems.append(worked(name, edge.curve.length) * float(panel.count))
    grid = drafted.job.cover.padded.grid
    quilted = []
    if grid and layer in (None, Cloth.OUTER):
        for panel in drafted.panels:
            if panel.cloth is Cloth.PADDING:
                lines = 2.0 * panel.length.value * panel.width.value / grid
                quilted.append(worked(term(panel.name), lines) * float(panel.count))
    return {"seams": _sum(seams), "topstitching": _sum(rows), "hems": _sum(hems), "quilting": _sum(quilted)}


HEMMED: Final = (
    *(FinishKind.SINGLE_HEM, FinishKind.DOUBLE_HEM, FinishKind.CORD_CASING, FinishKind.ELASTIC_CASING),
    *(FinishKind.BOUND, FinishKind.FACING),
)
"""Edges that are stitched down."""


def thread_of(cloth: ClothChoice, lengths: Mapping[str, Worked]) -> Worked:
    """The thread that so much sewing in a cloth takes, its spare counted, mm."""
    _, _, stitch = sewn_with(cloth)
    parts = []
    for what, length in lengths.items():
        if length.value <= 1e-9:
            continue
        thick = LAYERS[what] * cloth.thickness
        how = tr("{length} × {times}: stitches of {stitch} through {thick}", length=mm(length.value), times=Count(2.0 * (1.0 + thick / stitch), 2),
                 stitch=mm(stitch, fine=True), thick=mm(thick, fine=True))  # fmt: skip
        parts.append(worked(term(what), length.value * 2.0 * (1.0 + thick / stitch), how=how))
    used = _sum(parts)
    return used + worked(tr("spare, {share}", share=Share(SPARE)), used.value * SPARE) if used.value else used


def overlocked(drafted: Drafted) -> Worked | None:
    """Thread for neatening raw allowances, where the cloth frays and nothing hides them; None where nothing is neatened."""
    job = drafted.job
    if not job.cover.cloth.frays or job.cover.cloth.hot_cut or job.cover.lining.school is not LiningSchool.NONE:
        return None
    raw = [
        worked(term(trued.seam.name), trued.length_b * OVERLOCK) * float(trued.times)
        for trued in drafted.seams
        if trued.seam.kind in (SeamKind.PLAIN, "plain")
    ]
    return _sum(raw) if raw else None


def _sum(parts: list[Worked]) -> Worked:
    return parts[0].plus(parts[1:]) if parts else NOTHING_SEWN
