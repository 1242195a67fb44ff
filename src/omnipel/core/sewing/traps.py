"""What is about to go wrong in the sewing: traps that are seen in the order of work before anybody has sewn into them."""

from collections.abc import Iterator
from typing import Final

from omnipel.core.drafting.panel import Cloth
from omnipel.core.drafting.seams import Seam, SeamKind
from omnipel.core.finishing.operation import Operation, Station, When
from omnipel.core.finishing.stitching import BENT
from omnipel.core.job.document import LiningSchool
from omnipel.core.job.edges import HemOrder, Hold
from omnipel.core.job.findings import Change, Finding, Remedy, Severity
from omnipel.core.job.finish import FinishKind
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.plan import Plan
from omnipel.core.words import refs
from omnipel.core.words.phrases import Count, listed, mm, term, tr

STACKS: Final = {
    "plain": 2.0,
    "semi-flat felled": 3.0,
    "flat-felled": 4.0,
    "lapped": 2.0,
    "bound": 5.0,
    "piped": 4.0,
    "zipped": 3.0,
    "gathered": 3.0,
    "eased": 2.0,
}
"""So many layers lie at a seam, on the side to which it is turned."""
FELLED: Final = frozenset({"semi-flat felled", "flat-felled"})
"""All is turned to one side and stitched through."""


def traps(plan: Plan, done: frozenset[str] | None = None) -> tuple[Finding, ...]:
    """Everything there is to say about the order of work; `done` are the keys of steps that are done, of the plan's own job where they are not given."""
    making = plan.making
    sewn = making.drafted.job.sewing.done if done is None else done
    found = [*_casings(making), *_gaps(making), *_rings(plan), *_thick(making), *_overtaken(plan, sewn)]
    return tuple({(f.code, f.where, f.text): f for f in found}.values())


def _casings(making: Making) -> Iterator[Finding]:
    """A hem before its casing's cord."""
    for edge in making.edges:
        empty = edge.asked and edge.held_by not in (Hold.CORD, Hold.ELASTIC)
        casing = edge.finish.kind in (FinishKind.CORD_CASING, FinishKind.ELASTIC_CASING)
        closed = any(making.joined_at.get(run.piece) for run in edge.runs)
        if empty and casing and making.first(edge) and closed:
            where = refs.edge(edge.name, "held_by")
            text = tr(
                "The {edge} is a casing that is stitched flat, and its ends are closed with nothing in it.", edge=term(edge.name)
            )
            hold = Hold.CORD if edge.finish.kind is FinishKind.CORD_CASING else Hold.ELASTIC
            held = Remedy(tr("A {what} runs in it", what=term(hold)), (Change(where, hold),))
            last = Remedy(tr("Stitch it last, with a gap"), (Change(refs.edge(edge.name, "order"), HemOrder.HEM_LAST),))
            yield Finding("casing-without-cord", Severity.LOOK, text, where, (held, last))


def _gaps(making: Making) -> Iterator[Finding]:
    """A turning gap in a curved seam."""
    for name in making.of(Cloth.LINING):
        for edge in {notch.edge for notch in making.flat[name].notches if notch.label == "gap"}:
            for i in making.in_seam.get((name, edge), ()):
                stitching = making.stitching(i)
                if i not in making.meeting and (stitching.bend < BENT or stitching.corners):
                    text = tr(
                        "The turning gap lies in {seam}, which is curved: close it by hand with small stitches.",
                        seam=stitching.called,
                    )
                    yield Finding("gap-in-curve", Severity.NOTE, text, refs.TURNING_GAP)


def _rings(plan: Plan) -> Iterator[Finding]:
    """What is round and does not go over the machine's free arm."""
    making = plan.making
    arm = making.choices.habits.mm("free arm")
    for edge in making.edges:
        if making.first(edge) or edge.length.value >= arm or edge.length.value <= 0.0:
            continue
        if any(step.operation.opening == edge.name and step.rig.station == Station.MACHINE for step in plan.steps):
            text = tr(
                "The {edge} is {length} around and the machine's free arm {arm}: it cannot be stitched round.",
                edge=term(edge.name), length=mm(edge.length.value), arm=mm(arm),
            )  # fmt: skip
            flat = Remedy(tr("Hem it first, while it is flat"), (Change(refs.edge(edge.name, "order"), HemOrder.HEM_FIRST),))
            yield Finding("ring-too-small", Severity.LOOK, text, refs.edge(edge.name, "order"), (flat,) if edge.asked else ())
    for step in plan.steps:
        yield from _tube(making, step.operation, arm)


def _tube(making: Making, operation: Operation, arm: float) -> Iterator[Finding]:
    """The rows beside the seam that closes a narrow strip into a tube."""
    if operation.deed != "topstitch":
        return
    i = next((k for k, key in enumerate(making.keys) if operation.key == f"{key}/topstitch"), None)
    if i is None or {run.piece for side in making.seams[i].sides for run in side} != {operation.on[0]} or len(operation.on) != 1:
        return
    around = making.flat[operation.on[0]].length.value
    if around < arm and making.seams[i].kind != SeamKind.BOXED:
        seam = making.seams[i]
        where = refs.seam(seam.whole or seam.name, "kind")
        text = tr("{piece} is {around} around and the machine's free arm {arm}: the seam that closes it cannot be stitched down.",
                  piece=term(operation.on[0]), around=mm(around), arm=mm(arm))  # fmt: skip
        plain = Remedy(tr("Sew it plain and press it open"), (Change(where, "plain"),))
        yield Finding("ring-too-small", Severity.LOOK, text, where, (plain,) if seam.kind != "plain" else ())


def _thick(making: Making) -> Iterator[Finding]:
    """More cloth under the foot than goes there, where one seam runs over the ends of others."""
    most, sheet = making.choices.habits.mm("under the foot"), thickness(making)
    for k, seam in enumerate(making.seams):
        crossed = [i for i, over in making.crossing.items() if k in over and _counts(making, i)]
        if not crossed or k in making.meeting or seam.onto or making.layer(k) is Cloth.LINING:
            continue
        layers, cords = stacked(making, k, crossed)
        thick = layers * sheet + cords
        if thick > most + 1e-9:
            called = listed(making.called(i) for i in crossed[:3])
            where = refs.seam(seam.whole or seam.name, "kind")
            text = tr(
                "Where {seam} crosses {others} {layers} layers lie under the foot, {thick}: {most} go there. Turn the allowances in opposite ways and trim "
                "them in steps.",
                seam=making.called(k), others=called, layers=Count(layers), thick=mm(thick, fine=True), most=mm(most, fine=True),
            )  # fmt: skip
            yield Finding("too-thick", Severity.LOOK, text, where, tuple(_thinner(making, k, crossed, most - cords)))


def _thinner(making: Making, k: int, crossed: list[int], most: float) -> Iterator[Remedy]:
    """Sewn plain and pressed open, where that is enough."""
    sides = _sides(making, k, crossed)
    flat = sum(2.0 if side else 1.0 for side in sides) * thickness(making)
    if flat <= most + 1e-9:
        names = dict.fromkeys(making.seams[i].whole or making.seams[i].name for i in (*crossed, k))
        yield Remedy(tr("Sew them plain and press them open"), tuple(Change(refs.seam(name, "kind"), "plain") for name in names))


def thickness(making: Making) -> float:
    """Of what is sewn as one cloth, mm: with the lining where that is one with it, with padding that runs to the seams."""
    choices = making.choices
    one = choices.cloth.thickness
    if choices.lining.school is LiningSchool.AS_ONE:
        one += choices.lining.cloth.thickness
    return one + (choices.padding if choices.padded.at_seam else 0.0)


def _counts(making: Making, i: int) -> bool:
    return i not in making.meeting and making.layer(i) is not Cloth.LINING


def _sides(making: Making, k: int, crossed: list[int]) -> tuple[list[int], list[int]]:
    """Which of the crossed seams lie on either side of the one that crosses them."""
    pieces = [{run.piece for run in side} for side in making.seams[k].sides]
    found: tuple[list[int], list[int]] = ([], [])
    for i in crossed:
        mine = {run.piece for side in making.seams[i].sides for run in side}
        for side, names in zip(found, pieces, strict=True):
            if mine & names:
                side.append(i)
    return found


def stacked(making: Making, k: int, crossed: list[int]) -> tuple[float, float]:
    """How many layers lie where a seam crosses others, and how thick cords and teeth there are, mm: as it is sewn, or stitched down where it is felled."""
    seam = making.seams[k]
    one, other = (
        max((STACKS.get(str(making.seams[i].kind), 2.0) for i in side), default=1.0) for side in _sides(making, k, crossed)
    )
    layers = one + other
    if str(seam.kind) in FELLED:
        layers += min(one, other)
    return layers, _cord(seam)


def _cord(seam: Seam) -> float:
    return seam.wide if seam.kind == "piped" else 0.0


def _overtaken(plan: Plan, sewn: frozenset[str]) -> Iterator[Finding]:
    """A step that is left while another is done that it had to come before: something was added, or a step passed over."""
    tries = {step.key for step in plan.steps if step.operation.did.when is When.TRY}
    done = (sewn & set(plan.by_key)) - tries
    for step in plan.steps:
        if step.key in done or step.key in tries or step.operation.did.when is When.PREPARE:
            continue
        passed = plan.orders.missed(step.key, done)
        if passed is not None:
            then = plan.by_key[passed.then].operation
            text = tr(
                "“{step}” is left, and “{then}” is done already: {why}.",
                step=step.operation.words,
                then=then.words,
                why=passed.why,
            )
            again = (Change(refs.step(then.key, "done"), value=False),)
            undone = Remedy(tr("“{then}” is to be done again", then=then.words), again)
            yield Finding("step-overtaken", Severity.LOOK, text, refs.step(step.key), (undone,))
