"""What to mind: short, shown before the step, never hidden, on paper too. What is dangerous is read off the job's own facts."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Final

from omnipel.core.finishing.operation import Operation, Station
from omnipel.core.forms import FORMS
from omnipel.core.forms.abilities import Ability
from omnipel.core.job.document import ClothChoice, Iron
from omnipel.core.job.edges import Hold
from omnipel.core.job.thing import Lives
from omnipel.core.sewing.making import Making
from omnipel.core.words.phrases import Phrase, tr


@dataclass(frozen=True, slots=True)
class Step:
    """A step that may be dangerous: the operation, its cover, and whether it is the first at its station."""

    making: Making
    operation: Operation
    first: bool

    @property
    def cloth(self) -> ClothChoice:
        """What it is done with."""
        return self.making.cloth_of(self.operation.cloth)


@dataclass(frozen=True, slots=True)
class Caution:
    """Something to mind, and of which steps."""

    key: str
    words: Phrase
    minds: Callable[[Step], bool]


def _named(key: str) -> Callable[[Step], bool]:
    return lambda step: key in step.operation.cautions


def _deeds(*deeds: str) -> Callable[[Step], bool]:
    return lambda step: step.operation.deed in deeds


def _at(station: Station) -> Callable[[Step], bool]:
    return lambda step: step.operation.did.station is station


def _melts(step: Step) -> bool:
    """It is cut, and may not be cut hot."""
    return step.operation.deed == "cut" and not step.cloth.hot_cut and step.cloth.iron is Iron.NEVER


def _coated(step: Step) -> bool:
    return step.operation.did.station is Station.IRON and (
        step.cloth.iron is not Iron.YES or step.making.choices.cloth.iron is not Iron.YES
    )


def _first_sewn(step: Step) -> bool:
    return step.operation.did.station in (Station.MACHINE, Station.OVERLOCK) and step.first


def _on_thing(step: Step) -> bool:
    return step.operation.did.station is Station.OBJECT


def _hot(step: Step) -> bool:
    return _on_thing(step) and step.making.drafted.job.thing.gets_hot


def _cold(step: Step) -> bool:
    return _on_thing(step) and not step.making.drafted.job.thing.gets_hot and step.operation.deed in ("try on", "fit")


def _water(step: Step) -> bool:
    """It stands in water or holds some: what is round and open above, or stands outdoors."""
    form = FORMS.get(step.making.drafted.job.thing.form)
    barrel = form is not None and bool({Ability.ROUND, Ability.TAPERED, Ability.TURNED} & form.abilities)
    return step.operation.deed == "fit" and (barrel or step.making.drafted.job.thing.lives is Lives.OUTDOORS)


def _vent(step: Step) -> bool:
    choices = step.making.choices
    vented = any(feature.kind == "vent" for feature in choices.features)
    damp = step.making.drafted.job.thing.lives in (Lives.OUTDOORS, Lives.SHED)
    return step.operation.deed == "fit" and damp and not choices.cloth.breathes and not vented


def _food(step: Step) -> bool:
    choices = step.making.choices
    kitchen = step.making.drafted.job.thing.lives is Lives.KITCHEN
    safe = choices.cloth.food_safe
    return kitchen and not safe and step.operation.deed in ("cut", "fit")


def _rusts(step: Step) -> bool:
    outdoors = step.making.drafted.job.thing.lives is Lives.OUTDOORS
    return outdoors and step.operation.deed in ("set in zip", "fasten", "set flat", "set on object")


def _rots(step: Step) -> bool:
    return _first_sewn(step) and step.making.drafted.job.thing.lives is Lives.OUTDOORS


def _cords(step: Step) -> bool:
    held = any(edge.held_by in (Hold.CORD, Hold.ELASTIC) for edge in step.making.edges)
    return "small parts" in step.operation.cautions or (step.operation.deed == "fit" and held)


def _licensed(step: Step) -> bool:
    thing = step.making.drafted.job.thing
    return step.operation.deed == "fit" and thing.gets_hot


def _sharp(step: Step) -> bool:
    return "blades" in step.operation.cautions or step.operation.deed in ("open", "cut boxed", "trim seam", "trim to size")


DRILLING: Final = tr(
    "What is behind it: a tank, a wire, an airbag, a hull below the waterline? Punch first, depth stop, eye protection. Not your vehicle: ask."
)
CAUTIONS: Final[tuple[Caution, ...]] = (
    Caution("hot knife", tr("Hot knife: burns and fumes. Open the window, glass or metal underneath; never on vinyl or clear sheet."), _named("hot knife")),
    Caution("never hot", tr("No hot knife on this cloth: its fumes are toxic."), _melts),
    Caution("iron coated", tr("This cloth stands the iron badly: a press cloth, little heat, dry; try it on a scrap."), _coated),
    Caution("iron", tr("Iron: stand it up, unplug it when you leave."), _at(Station.IRON)),
    Caution("blades", tr("Blades: cut away from your hand, guard closed when you put them down."), _sharp),
    Caution("needle", tr("Foot off the pedal while you thread. Thick places by the hand wheel."), _first_sewn),
    Caution("eyes", tr("Eye protection: the needle passes close to something hard."), _deeds("set in zip", "sew piped", "casing")),
    Caution("pins", tr("Count the pins out, and in again; out before the needle."), _deeds("pin", "pin corners", "mark boxed", "draw up", "lay cord")),
    Caution("spray glue", tr("Spray glue: moving air, no flame near."), _named("spray glue")),
    Caution("pen", tr("Try the pen on a scrap: heat brings some marks back, others bleach."), _deeds("mark")),
    Caution("drilling", DRILLING, _deeds("drill")),
    Caution("hammer", tr("Hammer on firm ground, fingers away; eye protection."), _deeds("punch", "fasten", "set flat", "set on object")),
    Caution("hot thing", tr("It gets hot: cold, off and unplugged before it is covered. Clear of any flame or hob; let engine, stove and exhaust cool."), _hot),
    Caution("cold thing", tr("Off and unplugged before it is covered; nothing that still moves."), _cold),
    Caution("water", tr("A cloth cover is no guard: a child can fall through it into water. Not a lid, not a lashing for the road."), _water),
    Caution("vent", tr("This cloth does not breathe: leave a vent, or damp will stay inside."), _vent),
    Caution("food", tr("Only cloth sold as food-safe may touch food, washed before. This one is not."), _food),
    Caution("salt", tr("Near salt, steel snaps and metal zips corrode: brass, stainless or plastic."), _rusts),
    Caution("thread", tr("Cotton thread rots outdoors: polyester."), _rots),
    Caution("small parts", tr("Cords, elastic and small parts away from infants; a cord can strangle."), _cords),
    Caution("rules", tr("For gas, mains, vehicles on the road, tents and fire-retardant cloth local rules and licensed trades decide: ask them."), _licensed),
)  # fmt: skip
"""In the order in which they are shown."""


def cautions(making: Making, operation: Operation, *, first: bool) -> Iterator[Caution]:
    """What to mind in a step; `first`: it is the first at its station."""
    step = Step(making, operation, first)
    return (caution for caution in CAUTIONS if caution.minds(step))
