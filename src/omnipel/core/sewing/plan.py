"""The plan: steps in order, each with its rig, minutes, reasons and cautions."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final

from omnipel.core.cloth.kinds import needle_words
from omnipel.core.cloth.stitches import sewn_with
from omnipel.core.draft import Drafted
from omnipel.core.finishing.operation import Foot, Operation, Station, Stitch
from omnipel.core.job.trying import Stage
from omnipel.core.sewing.cautions import Caution, cautions
from omnipel.core.sewing.making import Making
from omnipel.core.sewing.minutes import Spent, changed, spent
from omnipel.core.sewing.operations import operations
from omnipel.core.sewing.order import Ordered, Orders, Rig
from omnipel.core.sewing.paces import Person, spanned
from omnipel.core.sewing.ruling.rules import rules
from omnipel.core.words.phrases import Count, Phrase, Stitches, listed, term, tr

STAGES: Final = {"try on": Stage.FIRST, "fit": Stage.FINISHED}
"""When a cover is tried on, by the kind of step."""


@dataclass(frozen=True, slots=True)
class Span:
    """Minutes: most likely, and from the tenth to the ninetieth of a hundred."""

    likely: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Step:
    """One step.

    Args:
        number: from 1.
        operation: what is done.
        rig: where, and with what.
        work: its minutes by the paces, changing over included.
        likely: what this person takes for it, most likely, and the range.
        changeover: whether another rig was used before.
        cautions: what to mind.
        settings: what the machine is set to, in words, by name.
        paced: minutes by the paces without changing over.
    """

    number: int
    operation: Operation
    rig: Rig
    work: Spent
    likely: Span
    changeover: bool
    cautions: tuple[Caution, ...]
    settings: tuple[tuple[Phrase, Phrase], ...]
    paced: float

    @property
    def key(self) -> str:
        """Of its operation."""
        return self.operation.key

    @property
    def numbered(self) -> Phrase:
        """Its number and its words."""
        return tr("{n}, {words}", n=Count(self.number), words=self.operation.words)

    @property
    def stop(self) -> bool:
        """Whether one stops here to try it on."""
        return self.operation.deed in STAGES

    @property
    def stage(self) -> Stage | None:
        """At which stage it is tried on here; None where it is not."""
        return STAGES.get(self.operation.deed)


@dataclass(frozen=True, eq=False)
class Plan:
    """The order of work of so many covers.

    Args:
        making: the cover.
        steps: in order.
        ordered: how good that order is.
        orders: all lawful ones.
        copies: of how many covers.
        person: who sews.
    """

    making: Making
    steps: tuple[Step, ...]
    ordered: Ordered
    orders: Orders
    copies: int
    person: Person

    @cached_property
    def by_key(self) -> Mapping[str, Step]:
        """Steps by their keys."""
        return {step.key: step for step in self.steps}

    def left(self, done: frozenset[str]) -> list[Step]:
        """Steps that are not done."""
        return [step for step in self.steps if step.key not in done]

    def at(self, done: frozenset[str]) -> Step | None:
        """The first step that is not done; None when all are."""
        return next((step for step in self.steps if step.key not in done), None)

    def next_stop(self, done: frozenset[str]) -> Step | None:
        """Where one tries it on next."""
        return next((step for step in self.left(done) if step.stop), None)

    def by(self, person: Person) -> "Plan":
        """The same, sewn by somebody else with the same paces."""
        steps = tuple(
            replace(step, likely=Span(*spanned([(step.operation.deed, step.work.minutes)], person))) for step in self.steps
        )
        return replace(self, steps=steps, person=person)

    def span(self, done: frozenset[str] = frozenset()) -> Span:
        """What all steps take together, or those that are not done."""
        return Span(*spanned([(step.operation.deed, step.work.minutes) for step in self.left(done)], self.person))


def planned(drafted: Drafted, person: Person | None = None, copies: int = 1, wanted: Sequence[str] = ()) -> Plan:
    """The plan of a drafted cover, for so many covers at once: each step is done for all of them. `wanted` is an order that a person chose."""
    making, who = Making(drafted), person or Person()
    made = operations(making)
    rigs = {operation.key: rig_of(making, operation) for operation in made}
    orders = Orders(rigs, rules(making, made))
    ordered = orders.arranged(wanted) if wanted else orders.best()
    by_key = {operation.key: operation for operation in made}
    return Plan(
        making, tuple(_steps(making, [by_key[key] for key in ordered.keys], rigs, who, copies)), ordered, orders, copies, who
    )


def rig_of(making: Making, operation: Operation) -> Rig:
    """Where an operation is done and what the machine is set up with."""
    did = operation.did
    if did.station not in (Station.MACHINE, Station.OVERLOCK):
        return Rig(did.station)
    needle, thread, _ = sewn_with(making.cloth_of(operation.cloth))
    zigzag = (operation.stitch or did.stitch) in (Stitch.ZIGZAG, Stitch.TACK)
    if did.station is Station.OVERLOCK:
        return Rig(did.station)
    return Rig(did.station, did.foot, needle, thread, "zigzag" if zigzag else "straight")


def _steps(making: Making, ordered: Sequence[Operation], rigs: Mapping[str, Rig], person: Person, copies: int) -> list[Step]:
    made, before, sewn, stations = [], None, None, set()
    for number, operation in enumerate(ordered, 1):
        rig, cloth = rigs[operation.key], making.cloth_of(operation.cloth)
        paced = spent(operation, cloth.kind, person, copies)
        over = changed(before, rig, sewn)
        work = Spent((*over.parts, *paced.parts))
        likely = Span(*spanned([(operation.deed, work.minutes)], person))
        new = rig != before
        first = rig.station not in stations or (new and rig.station == Station.MACHINE and rig != sewn)
        mind = tuple(cautions(making, operation, first=first))
        settings = tuple(settings_of(making, operation))
        made.append(Step(number, operation, rig, work, likely, new and before is not None, mind, settings, paced.minutes))
        stations.add(rig.station)
        before, sewn = rig, rig if rig.foot else sewn
    return made


def settings_of(making: Making, operation: Operation) -> list[tuple[Phrase, Phrase]]:
    """What to set: foot, needle, thread, stitch; how long it is sewn, with how many pins."""
    did, told = operation.did, []
    cloth = making.cloth_of(operation.cloth)
    if did.station is Station.MACHINE:
        needle, thread, stitch = sewn_with(cloth)
        kind = operation.stitch or did.stitch
        how = {
            Stitch.ZIGZAG: tr("zigzag, stitches {long}", long=Stitches(stitch / 2.0)),
            Stitch.TACK: tr("bar tack: a dense zigzag"),
            Stitch.LONG: tr("the longest stitch there is"),
        }.get(kind, tr("stitches {long}", long=Stitches(stitch)))
        with_ = tr(
            "{foot} · needle {needle} · Tex {thread} polyester · {stitch}",
            foot=term(did.foot or Foot.USUAL),
            needle=needle_words(needle),
            thread=Count(thread),
            stitch=how,
        )
        told.append((tr("machine"), with_))
    elif did.station is Station.OVERLOCK:
        told.append((tr("machine"), tr("overlock, or a zigzag over the edge")))
    told += [(tr("look"), listed_notes(operation))] if operation.notes else []
    return told


def listed_notes(operation: Operation) -> Phrase:
    """What else to know about an operation, in one line."""
    return tr("{notes}", notes=listed(operation.notes, "; "))
