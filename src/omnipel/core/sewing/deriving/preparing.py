"""What is done before anything is sewn: the cloth washed, marked, cut, labelled, measured; then layers fused, quilted, trimmed to size."""

import math
from collections.abc import Iterator, Sequence
from typing import Any, Final

import shapely

from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Cloth, Panel
from omnipel.core.finishing.operation import After, Check, Operation, Pace, Work
from omnipel.core.job.document import Iron, LiningSchool
from omnipel.core.job.layers import Fused
from omnipel.core.sewing.making import Making
from omnipel.core.tolerances import SAME_SIZE
from omnipel.core.words import refs
from omnipel.core.words.phrases import Phrase, listed, mm, term, tr, trn

MEASURED: Final = 3
"""So many sizes of cut panels are told to be measured again; the largest are the ones that go wrong."""


def of_cloth(making: Making) -> Iterator[Operation]:
    """From the bolt to labelled pieces, layer by layer."""
    for cloth in Cloth:
        pieces = making.of(cloth)
        if pieces and cloth is not Cloth.WEBBING:
            yield from _cut(making, cloth, pieces)
    lengths = [item for item in making.goods if item.length is not None and item.strip is None]
    if lengths:
        words = tr("Cut to length: {goods}", goods=listed(dict.fromkeys(item.name for item in lengths)))
        checks = tuple(Check(item.name, item.length.value) for item in lengths if item.length is not None)
        yield Operation(
            key="goods/cut",
            deed="cut goods",
            words=words,
            ref=refs.of_job("name"),
            work=(Work(Pace.FIXED, 0.5 * len(lengths)),),
            checks=checks,
            notes=(tr("seal or whip the ends so that they do not fray"),),
        )


def _cut(making: Making, cloth: Cloth, pieces: tuple[str, ...]) -> Iterator[Operation]:
    choice, name = making.cloth_of(cloth), term(cloth)
    panels = list({making.pieces[piece].panel: making.flat[piece] for piece in pieces}.values())
    around = math.fsum(shapely.LinearRing(cut_line(panel)).length * panel.count for panel in panels)
    before = ""

    def does(action: str, deed: str, words: Phrase, *work: Work, **more: Any) -> Operation:
        nonlocal before
        why = tr("cloth is prepared, marked, cut and measured in this order")
        after = (After(before, why),) if before else ()
        before = f"cloth:{cloth}/{action}"
        return Operation(
            key=before, deed=deed, words=words, ref=refs.of_job("name"), on=pieces, cloth=cloth, work=work, after=after, **more
        )

    if choice.shrinks and choice.prewashed:
        yield does(
            "prewash",
            "prewash",
            tr("Wash and press the {cloth} cloth before it is cut: it shrinks", cloth=name),
            Work(Pace.FIXED, 15.0),
        )
    if cloth in (Cloth.OUTER, Cloth.LINING):
        yield does("square", "square", tr("Square the end of the {cloth} cloth", cloth=name), Work(Pace.FIXED, 2.0))
    words = trn("Mark {n} {cloth} piece", "Mark {n} {cloth} pieces", len(pieces), cloth=name)
    yield does("mark", "mark", words, Work(Pace.MARKING, around))
    words = trn("Cut {n} {cloth} piece", "Cut {n} {cloth} pieces", len(pieces), cloth=name)
    hot = choice.hot_cut
    how = ("hot knife",) if hot else ("blades",)
    yield does(
        "cut", "cut", words, Work(Pace.HOT_CUT if hot else Pace.SHEARS, around), cautions=how, notes=_how_cut(hot, choice.frays)
    )
    shrinks = any(choice.still_shrinks) and cloth in (Cloth.OUTER, Cloth.LINING)
    if shrinks:
        words = tr("Wash and press the {cloth} pieces: they were cut larger, for they shrink", cloth=name)
        yield does("wash", "prewash", words, Work(Pace.FIXED, 15.0))
    if len(pieces) > 1:
        words = trn("Label {n} {cloth} piece", "Label {n} {cloth} pieces", len(pieces), cloth=name)
        upward = (tr("name, right side, which way is up"),)
        yield does("label", "label", words, Work(Pace.FIXED, 0.3 * len(pieces)), notes=upward)
    words = tr("Measure the {cloth} pieces against the list", cloth=name)
    quilted = making.choices.padding > 0.0 and cloth is Cloth.OUTER  # what quilting takes up is trimmed after it
    if shrinks and not quilted:
        words = tr("Trim the {cloth} pieces to their cut size, and measure them against the list", cloth=name)
    sizes = () if shrinks and quilted else tuple(_sizes(panels, rough=not shrinks))
    yield does("measure", "measure", words, Work(Pace.FIXED, 0.5 * len(panels)), checks=sizes)


def _how_cut(hot: bool, frays: bool) -> tuple[Phrase, ...]:
    if hot:
        return (tr("with a hot knife: it seals the edge"),)
    return (tr("with shears or a rotary blade; handle the edges little, they fray"),) if frays else ()


def _sizes(panels: Sequence[Panel], *, rough: bool) -> Iterator[Check]:
    """The largest cut sizes, as they are cut before anything takes some up (`rough`), or after; of what is round how far it is across."""
    for panel in sorted(panels, key=lambda panel: -panel.cut_length.value)[:MEASURED]:
        final = (panel.cut_length.value, panel.cut_width.value)
        long, wide = panel.rough_cut or final if rough else final
        if "radius" in panel.sizes and abs(long - wide) < SAME_SIZE:
            yield Check(tr("{panel}, cut, across", panel=term(panel.name)), long)
            continue
        yield Check(tr("{panel}, cut length", panel=term(panel.name)), long)
        yield Check(tr("{panel}, cut width", panel=term(panel.name)), wide)


def of_layers(making: Making) -> Iterator[Operation]:
    """Padding fused or basted to its panels, quilted, trimmed; layers that are sewn as one basted; stiffeners."""
    yield from _padded(making)
    yield from _as_one(making)
    for piece in making.pieces.values():
        if making.flat[piece.name].cloth is Cloth.STIFFENER or piece.name == "stiffening":
            words = tr(
                "Lay {piece} on the wrong side of {host} and tape it", piece=term(piece.name), host=term(making.host(piece))
            )
            yield Operation(
                key=f"piece:{piece.name}/insert",
                deed="spray",
                words=words,
                ref=refs.panel(piece.panel),
                on=(making.host(piece), piece.name),
                cloth=making.flat[piece.name].cloth,
                work=(Work(Pace.FIXED, 3.0),),
            )


def _padded(making: Making) -> Iterator[Operation]:
    padding = [name for name in making.of(Cloth.PADDING) if name != "stiffening" and making.pieces[name].on]
    if not padding:
        return
    hosts = tuple(dict.fromkeys(making.host(making.pieces[name]) for name in padding))
    how, choices = making.choices.padded, making.choices
    on, where = (*hosts, *padding), refs.PADDING
    area = math.fsum(making.flat[name].length.value * making.flat[name].width.value for name in padding)
    told = listed(term(name) for name in hosts)
    material = term(how.material)

    def does(action: str, deed: str, words: Phrase, work: Work, **more: Any) -> Operation:
        return Operation(key=f"padding/{action}", deed=deed, words=words, ref=where, on=on, work=(work,), **more)

    fused = how.fused is not Fused.NOT
    if fused:
        words = tr("Fuse the {material} to the wrong side of {panels}", material=material, panels=told)
        how_to = (tr("glue side to wrong side; press and lift, do not slide"),)
        if choices.cloth.iron is Iron.NEVER:
            how_to = (tr("through a press cloth and as cool as it bonds: this cloth stands no iron; try it on a scrap"),)
        yield does("fuse", "fuse", words, Work(Pace.FIXED, 2.0 + area / 60_000.0), notes=how_to)
    elif how.grid:
        words = tr("Baste the {material} to {panels} with spray or pins", material=material, panels=told)
        yield does("baste", "spray", words, Work(Pace.FIXED, 2.0 + area / 100_000.0), cautions=("spray glue",))
    else:
        words = tr("Baste the {material} to the wrong side of {panels}, short of the seams", material=material, panels=told)
        long = math.fsum(2.0 * (making.flat[name].length.value + making.flat[name].width.value) for name in padding)
        inset = Check(tr("ends short of the seam by"), choices.padding_inset)
        yield does("baste", "baste layers", words, Work(Pace.STRAIGHT, long), checks=(inset,) if choices.padding_inset else ())
    if how.grid:
        lines = math.fsum(2.0 * making.flat[n].length.value * making.flat[n].width.value / how.grid for n in padding)
        words = tr("Quilt {panels} every {grid}, the first line through the middle", panels=told, grid=mm(how.grid))
        yield does("quilt", "quilt", words, Work(Pace.QUILTING, lines), checks=(Check(tr("line to line"), how.grid),))
    if fused or how.grid:
        words = tr("Square up and cut to size again: {panels}", panels=told)
        checks = tuple(_sizes(list({making.pieces[host].panel: making.flat[host] for host in hosts}.values()), rough=False))
        yield does("trim", "trim to size", words, Work(Pace.FIXED, 3.0 * len(hosts)), checks=checks, cautions=("blades",))


def _as_one(making: Making) -> Iterator[Operation]:
    if making.choices.lining.school is not LiningSchool.AS_ONE:
        return
    linings = [name for name in making.of(Cloth.LINING) if making.pieces[name].on]
    hosts = tuple(making.host(making.pieces[name]) for name in linings)
    if linings:
        words = tr(
            "Baste the lining to {panels}, wrong sides together: from here they are one cloth",
            panels=listed(term(n) for n in hosts),
        )
        around = math.fsum(edge.curve.length for name in linings for edge in making.flat[name].edges)
        yield Operation(
            key="lining/baste",
            deed="baste layers",
            words=words,
            ref=refs.LINING_SCHOOL,
            on=(*hosts, *linings),
            work=(Work(Pace.STRAIGHT, around),),
        )
