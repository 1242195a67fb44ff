"""Bound: sewn plain, trimmed to the binding's finished width and bound together."""

from collections.abc import Iterator

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting import crosssection
from omnipel.core.finishing.constructions import plain
from omnipel.core.finishing.constructions.construction import Against, Construction, Joining
from omnipel.core.finishing.operation import Check, Operation, Pace, Work, in_turn
from omnipel.core.finishing.stitching import Stitching, pinned, sewn, topstitched
from omnipel.core.finishing.strips import binding_width, strip
from omnipel.core.words.phrases import mm, tr
from omnipel.core.words.working import worked


def goods(joining: Joining) -> Iterator[Hardware]:
    """A strip as long as the seam, joined to a ring, or a little longer."""
    habits = joining.choices.habits
    long = joining.length if joining.ring else joining.length + worked(tr("ends"), habits.mm("binding join"))
    wide = binding_width(joining.wide, joining.thick)
    what = tr("around the allowances of {seam}", seam=joining.called)
    yield strip(tr("binding"), long * float(joining.times), wide, joining.bend, joining.choices.cloth.cut_width, what)


def against(joining: Joining) -> Iterator[Against]:
    """There is nothing to bind."""
    if joining.allowance < joining.wide - 1e-9:
        text = tr(
            "an allowance of {allowance} does not fill a binding of {wide}",
            allowance=mm(joining.allowance),
            wide=mm(joining.wide),
        )
        yield Against(text, "allowance", joining.wide)


def operations(s: Stitching) -> Iterator[Operation]:
    """Sewn, trimmed to the binding's width, bound."""
    return in_turn(_operations(s))


def _operations(s: Stitching) -> Iterator[Operation]:
    yield from pinned(s)
    yield sewn(s)
    words = tr("Trim both allowances to {wide}: {seam}", wide=mm(s.seam.wide), seam=s.called)
    yield s.does("trim", "trim seam", words, Work(Pace.SHEARS, s.long), checks=(Check(tr("what is left"), s.seam.wide),))
    words = tr("Bind both allowances together: {seam}", seam=s.called)
    yield s.does(
        "bind", "bind seam", words, s.sewn(Pace.BINDING), notes=(tr("strip {wide} wide when finished", wide=mm(s.seam.wide)),)
    )
    yield from topstitched(s, s.seam.rows)


CONSTRUCTION = Construction(
    "bound",
    tr("bound"),
    tr("Raw edges inside are bound together: the clean inside of what is not lined."),
    plain.sides,
    goods,
    against,
    wide=tr("binding, finished width"),
    habit="binding",
    stretches=True,
    section=crosssection.bound,
    operations=operations,
)
