"""Small lawful changes that may make a cover take less cloth: each with what it costs, from the smallest step to the furthest that is lawful."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Final

from omnipel.core.cloth.lay import Lay
from omnipel.core.cloth.sheets import BOLT
from omnipel.core.cloth.stock import Stock, same_cloth
from omnipel.core.covers import SCHEMES
from omnipel.core.covers.options import OptionKind
from omnipel.core.covers.sizes import size_words
from omnipel.core.draft import Drafted
from omnipel.core.drafting.panel import Cloth
from omnipel.core.finishing.pieced import off_corners
from omnipel.core.fit.going_on import Fit
from omnipel.core.job.document import ClearanceSchool, ClothKind, Job, Override
from omnipel.core.job.findings import Act, Change
from omnipel.core.job.finish import FinishKind
from omnipel.core.job.joining import Parting
from omnipel.core.tolerances import TIGHT_CLEARANCE
from omnipel.core.words import refs
from omnipel.core.words.habits import System
from omnipel.core.words.phrases import Name, Phrase, mm, term, tr
from omnipel.core.words.refs import Ref

LEAST_HEM: Final = 12.0
"""No hem is made narrower, mm."""
LEAST_ALLOWANCE: Final = {ClothKind.CANVAS: 8.0, ClothKind.GENERAL: 8.0, ClothKind.COTTON: 6.0}
"""No seam allowance is made narrower, mm."""
SHORTER: Final = 10.0
"""A cover may end higher by this, mm."""
STEPS: Final = {System.METRIC: 5.0, System.INCH: 25.4 / 8.0}
"""Hems and drops change in steps of this, mm."""
FINE_STEPS: Final = {System.METRIC: 1.0, System.INCH: 25.4 / 16.0}
"""Gaps and allowances in steps of this."""


@dataclass(frozen=True)
class Way:
    """A way to save cloth.

    Args:
        key: what it changes; two with one key are not made together.
        steps: how far it can go: each step a set of changes with its words, the smallest first.
        costs: what it costs, in words.
    """

    key: str
    steps: tuple[tuple[Phrase, tuple[Change, ...]], ...]
    costs: Phrase


def ways(drafted: Drafted, lays: Sequence[Lay], stock: Stock) -> Iterator[Way]:
    """All ways that may save something on this cover, those that are tried most by hand first."""
    made: tuple[Callable[[], Iterator[Way]], ...] = (
        lambda: _hem(drafted.job),
        lambda: _stash(lays, stock),
        lambda: _widths(drafted.job, lays),
        lambda: _heights(drafted),
        lambda: _allowances(drafted.job),
        lambda: _clearance(drafted),
        lambda: _pieced(drafted, lays),
        lambda: _across(lays),
        lambda: _options(drafted),
    )
    for several in made:
        yield from several()


def _lower(value: float, least: float, step: float) -> list[float]:
    """Values below one, in steps, no lower than the least; round ones."""
    found = []
    k = 1
    while (lower := round((value - k * step) / step) * step) >= least - 1e-9 and k < 40:
        if lower < value - 1e-9:
            found.append(lower)
        k += 1
    return found


def _hem(job: Job) -> Iterator[Way]:
    """A narrower hem, or a single one where the cloth does not fray."""
    hem, step = job.cover.hem, STEPS[job.cover.habits.system]
    if hem.kind in (FinishKind.SINGLE_HEM, FinishKind.DOUBLE_HEM):
        steps = [
            (
                tr("hem {new} instead of {old}", new=mm(width), old=mm(hem.width)),
                (Change(refs.HEM_WIDTH, width), *_turn(job, width)),
            )
            for width in _lower(hem.width, LEAST_HEM, step)
        ]
        if steps:
            yield Way("hem", tuple(steps), tr("a lighter lower edge"))
    cloth = job.cover.cloth
    if hem.kind is FinishKind.DOUBLE_HEM and (not cloth.frays or cloth.hot_cut):
        change = Change(refs.HEM_KIND, FinishKind.SINGLE_HEM), Change(refs.TURN_UNDER, 0.0)
        yield Way(
            "hem", ((tr("a single hem instead of a double one"), change),), tr("a thinner lower edge; this cloth does not fray")
        )


def _turn(job: Job, width: float) -> tuple[Change, ...]:
    """No more is turned under than the hem is wide."""
    return (Change(refs.TURN_UNDER, width),) if job.cover.hem.turn_under > width else ()


def _heights(drafted: Drafted) -> Iterator[Way]:
    """A cover that ends a little higher."""
    step = STEPS[drafted.job.cover.habits.system]
    for name in dict.fromkeys(drafted.cover.by_hand):
        if "height" not in name or any(o.size == name for o in drafted.job.cover.overrides):
            continue
        size = drafted.cover.sizes[name].value
        steps = []
        for less in _upto(SHORTER, step):
            shorter = Override(size=name, value=size - less, reason=str(tr("shorter, to save cloth")))
            words = tr("{what} {less} less", what=size_words(name), less=mm(less))
            steps.append((words, (Change(refs.by_hand(), shorter, Act.ADD),)))
        yield Way(f"size {name}", tuple(steps), tr("the cover ends that much higher"))


def _upto(most: float, step: float) -> list[float]:
    return [k * step for k in range(1, int(most / step + 1e-9) + 1)]


def _allowances(job: Job) -> Iterator[Way]:
    """A narrower seam allowance, down to the next schools."""
    fine = FINE_STEPS[job.cover.habits.system]
    least = LEAST_ALLOWANCE[job.cover.cloth.kind]
    found = _lower(job.cover.seam_allowance, least, 2.0 * fine)
    steps = [
        (
            tr("seam allowance {new} instead of {old}", new=mm(value), old=mm(job.cover.seam_allowance)),
            (Change(refs.SEAM_ALLOWANCE, value), *_closing(job, value)),
        )
        for value in found
    ]
    if steps:
        yield Way("allowance", tuple(steps), tr("less to let out later"))


def _closing(job: Job, value: float) -> tuple[Change, ...]:
    same = job.cover.closing_allowance == job.cover.seam_allowance
    return (Change(refs.CLOSING_ALLOWANCE, value),) if same else ()


def _clearance(drafted: Drafted) -> Iterator[Way]:
    """Less gap, as long as it still goes on."""
    given, fit = drafted.job.cover.clearance, drafted.fit
    if given.school is ClearanceSchool.GIRTH or not isinstance(fit, Fit):
        return
    share = 2.0 if given.school is ClearanceSchool.DIMENSION else 1.0
    fine = FINE_STEPS[drafted.job.cover.habits.system] * share
    steps = [
        (
            tr("a clearance of {new} instead of {old} on each side", new=mm(value / share), old=mm(given.amount / share)),
            (Change(refs.CLEARANCE, value),),
        )
        for value in _lower(given.amount, TIGHT_CLEARANCE * share, fine)
    ]
    if steps:
        yield Way("clearance", tuple(steps), tr("a closer fit"))


def _pieced(drafted: Drafted, lays: Sequence[Lay]) -> Iterator[Way]:
    """The longest strip in two parts, joined off corners, ports and other joins."""
    outer = next((lay for lay in lays if lay.layer is Cloth.OUTER), None)
    if outer is None:
        return
    on = [p.piece for p in outer.placed if p.on == BOLT]
    parted = {parting.panel for parting in drafted.job.cover.parted}
    for key in sorted(on, key=lambda k: -outer.sheet.by_key[k].size[0])[:2]:
        cut = outer.sheet.by_key[key]
        panel = cut.panel
        if panel is None or panel.count != 1 or panel.name in parted or cut.copy != 1 or len(panel.edges) != 4:
            continue
        along_x = abs(panel.length.value * cut.scale[0]) >= abs(panel.width.value * cut.scale[1])
        long = panel.length.value if along_x else panel.width.value
        if not along_x or long < 4.0 * LEAST_PART:
            continue
        piece = next(p for p in drafted.cover.pieces if p.panel == panel.name)
        at = drafted.job.cover.habits.system.near(off_corners(piece, panel, long / 2.0))
        parting = Parting(panel=panel.name, at=at, upright=True, joined=True)
        words = tr("{panel} pieced once, {at} from its left end", panel=term(panel.name), at=mm(at))
        yield Way(f"piece {panel.name}", ((words, (Change(refs.parting(), parting, Act.ADD),)),), tr("one more seam"))


LEAST_PART: Final = 100.0
"""A part shorter than this is none, mm."""


def _across(lays: Sequence[Lay]) -> Iterator[Way]:
    """A panel turned across the grain, where the cloth is not one-way."""
    for lay in lays:
        cloth = lay.sheet.cloth
        if cloth.one_way or cloth.repeat_along or cloth.repeat_across or lay.sheet.folded:
            continue
        names = dict.fromkeys(cut.panel.name for cut in lay.sheet.cuts if cut.panel is not None)
        for name in names:
            if name in lay.sheet.choice.free:
                continue
            change = Change(refs.lay(lay.layer.value, "free"), (*lay.sheet.choice.free, name))
            words = tr("{panel} turned across the grain", panel=term(name))
            yield Way(f"turn {lay.layer.value} {name}", ((words, (change,)),), tr("it will hang differently from the others"))


def _stash(lays: Sequence[Lay], stock: Stock) -> Iterator[Way]:
    """A piece of the stash of the same cloth."""
    for lay in lays:
        used = {piece.id for piece in lay.sheet.choice.pieces}
        for key, piece in stock.pieces.items():
            if key in used or lay.sheet.folded or not same_cloth(piece.cloth, lay.sheet.cloth):
                continue
            change = Change(refs.lay(lay.layer.value, "pieces"), (*lay.sheet.choice.pieces, replace(piece.piece, id=key)))
            size = tr("{long} by {wide}", long=mm(piece.piece.length), wide=mm(piece.piece.width))
            words = tr("some of it from the stash piece of {size}", size=size)
            where = tr("a piece of the stash ({where})", where=Name(piece.where)) if piece.where else tr("a piece of the stash")
            yield Way(f"stash {lay.layer.value}", ((words, (change,)),), where)


def _widths(job: Job, lays: Sequence[Lay]) -> Iterator[Way]:
    """Another width that the same cloth is sold in."""
    for lay in lays:
        cloth, ref = lay.sheet.cloth, _cloth_ref(lay.layer)
        for width in cloth.widths:
            if abs(width - cloth.usable_width) < 1.0 or ref is None:
                continue
            words = tr("the same cloth {new} wide instead of {old}", new=mm(width), old=mm(cloth.usable_width))
            yield Way(
                f"width {lay.layer.value}",
                ((words, (Change(ref.at("usable_width"), width),)),),
                tr("look up its price for that width"),
            )


def _cloth_ref(layer: Cloth) -> Ref | None:
    return {Cloth.OUTER: refs.CLOTH, Cloth.LINING: refs.LINING_CLOTH}.get(layer)


def _options(drafted: Drafted) -> Iterator[Way]:
    """The scheme's own choices the other way."""
    scheme = SCHEMES[drafted.job.cover.scheme]
    choices = drafted.job.cover
    for option in scheme.options:
        now = choices.options.get(option.key, option.usual(scheme.key, choices.habits))
        others: list[object] = []
        if option.kind is OptionKind.PICK:
            others = [pick for pick in option.picks if pick != now]
        elif option.kind is OptionKind.COUNT:
            others = [n for n in (float(now) - 1.0, float(now) + 1.0) if option.low <= n <= option.high]
        for other in others:
            words = tr("{what}: {value}", what=option.words, value=option.shown(other))  # type: ignore[arg-type]
            yield Way(f"option {option.key}", ((words, (Change(refs.option(option.key), other),)),), tr("another way to cut it"))
