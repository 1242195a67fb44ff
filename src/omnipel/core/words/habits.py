"""Habits: what people who work in millimetres, or in inches, start from when nothing has been decided.

A job says which system's habits it follows and which of them its shop has changed, so that a job file stands alone and flipping the
unit it is shown in never changes a size.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Annotated, Final

from annotated_types import Ge, Le

from omnipel.core.words.phrases import Phrase, Rule, tr
from omnipel.core.words.units import MM_PER_INCH, Unit


class System(StrEnum):
    """Whose habits are followed."""

    METRIC = "metric"
    INCH = "inch"

    @property
    def step(self) -> float:
        """What is round to those who follow it, mm: a millimetre, a 16th of an inch."""
        return MM_PER_INCH / 16.0 if self is System.INCH else 1.0

    @property
    def sold_by(self) -> float:
        """Steps by which cloth is sold to them, mm: a tenth of a metre, a quarter of a yard."""
        return MM_PER_INCH * 9.0 if self is System.INCH else 100.0

    def up(self, length: float) -> float:
        """A length rounded up to what is round to them, mm."""
        return math.ceil(length / self.step - 1e-9) * self.step

    def down(self, length: float) -> float:
        """A length rounded down to what is round to them, mm."""
        return math.floor(length / self.step + 1e-9) * self.step

    def near(self, length: float) -> float:
        """A length rounded to what is round to them, mm."""
        return round(length / self.step) * self.step

    def take(self, rule: Rule) -> float:
        """A rule as those have it who follow it, mm."""
        return rule.inches * MM_PER_INCH if self is System.INCH else rule.metric

    @staticmethod
    def of(unit: Unit) -> "System":
        """The system of those who work in a unit."""
        return System.INCH if unit.denominator else System.METRIC


@dataclass(frozen=True, slots=True)
class Habit:
    """One habit: what it is about and its value in both systems."""

    words: Phrase
    rule: Rule

    def usual(self, system: System) -> float:
        """What it is until a shop changes it, mm."""
        return system.take(self.rule)

    def most(self, system: System) -> float:
        """More than this is nobody's habit, mm: rounded down to what is round to them."""
        return system.down(min(FAR_FROM_USUAL * self.usual(system), MOST_HABIT))


MOST_HABIT: Final = 20_000.0
FAR_FROM_USUAL: Final = 20.0

HABITS: Final[Mapping[str, Habit]] = {
    "clearance": Habit(tr("gap on each side, stiff cloth that drops over"), Rule(12.0, 1 / 2)),
    "clearance soft": Habit(tr("gap on each side, soft lined cloth"), Rule(6.0, 1 / 4)),
    "seam": Habit(tr("seam allowance, canvas"), Rule(12.0, 1 / 2)),
    "seam general": Habit(tr("seam allowance, other cloth"), Rule(10.0, 3 / 8)),
    "seam cotton": Habit(tr("seam allowance, thin cotton"), Rule(8.0, 1 / 4)),
    "hem": Habit(tr("hem of the lower edge"), Rule(25.0, 1.0)),
    "hem outdoors": Habit(tr("hem of the lower edge, outdoors"), Rule(35.0, 1.5)),
    "turn-under": Habit(tr("turn-under of a hem"), Rule(15.0, 5 / 8)),
    "lining seam": Habit(tr("seam allowance of the lining"), Rule(10.0, 3 / 8)),
    "turning gap": Habit(tr("gap to turn the lining through"), Rule(120.0, 5.0)),
    "lining looser": Habit(tr("a bagged lining is longer than the drop by"), Rule(4.0, 3 / 16)),
    "pleat": Habit(tr("a pleat of the lining is no deeper than"), Rule(25.0, 1.0)),
    "padding inset": Habit(tr("padding ends short of the seam by"), Rule(12.0, 1 / 2)),
    "padding under a hem": Habit(tr("padding ends short of a hem by"), Rule(2.0, 1 / 16)),
    "padding under a channel": Habit(tr("padding ends below a channel by"), Rule(6.0, 1 / 4)),
    "channel": Habit(tr("a channel is wider than its ribbon by"), Rule(3.0, 1 / 8)),
    "width": Habit(tr("usable width of the cloth"), Rule(1500.0, 60.0)),
    "squared end": Habit(tr("a cut end of the cloth is squared by"), Rule(20.0, 3 / 4)),
    "hot knife gap": Habit(tr("gap between pieces that are cut hot"), Rule(3.0, 1 / 8)),
    "lining width": Habit(tr("usable width of the lining"), Rule(1400.0, 54.0)),
    "binding": Habit(tr("finished width of a binding"), Rule(10.0, 3 / 8)),
    "piping": Habit(tr("diameter of a piping cord"), Rule(4.0, 3 / 16)),
    "overlap": Habit(tr("overlap of a lapped seam"), Rule(12.0, 1 / 2)),
    "strip end": Habit(tr("each end of a piping strip beyond its run"), Rule(15.0, 5 / 8)),
    "short of a seam": Habit(tr("a cord or a zip ends short of a crossing seam by"), Rule(10.0, 3 / 8)),
    "lap beyond": Habit(tr("a lap reaches beyond its stitches by"), Rule(3.0, 1 / 8)),
    "entry gap": Habit(tr("gap to draw a cord in, at least"), Rule(25.0, 1.0)),
    "zip tape": Habit(tr("width of a zip with its tapes"), Rule(32.0, 1.25)),
    "thick piping": Habit(tr("a piping strip of thick cloth is wider by"), Rule(3.0, 1 / 8)),
    "binding join": Habit(tr("a binding is cut longer by"), Rule(20.0, 3 / 4)),
    "facing": Habit(tr("depth of a facing"), Rule(50.0, 2.0)),
    "facing turn": Habit(tr("a facing is turned under by"), Rule(10.0, 3 / 8)),
    "elastic": Habit(tr("width of an elastic"), Rule(10.0, 3 / 8)),
    "hook-and-loop": Habit(tr("width of hook-and-loop"), Rule(25.0, 1.0)),
    "spare to trim": Habit(tr("spare to trim where a ring meets"), Rule(150.0, 6.0)),
    "free arm": Habit(tr("girth of the machine's free arm"), Rule(280.0, 11.0)),
    "under the foot": Habit(tr("thickness that goes under the foot"), Rule(6.0, 1 / 4)),
    "drawcord": Habit(tr("diameter of a drawcord"), Rule(6.0, 1 / 4)),
    "tail": Habit(tr("each tail of a drawcord"), Rule(150.0, 6.0)),
    "elastic overlap": Habit(tr("overlap of an elastic's ends"), Rule(20.0, 3 / 4)),
    "zip end": Habit(tr("each end of a zip beyond its ring"), Rule(30.0, 1.25)),
    "reach behind": Habit(tr("a wheel cap's reach behind the tread"), Rule(60.0, 2.5)),
    "room around a port": Habit(tr("a port is larger on each side than its thing and the gap by"), Rule(3.0, 1 / 8)),
    "below room": Habit(tr("a cover ends above what it leaves below by"), Rule(10.0, 3 / 8)),
    "opening room": Habit(tr("an opening keeps clear of seams and hems by"), Rule(10.0, 3 / 8)),
    "flap": Habit(tr("width of a flap"), Rule(60.0, 2.5)),
    "flap lap": Habit(tr("a flap is longer than its slit by"), Rule(20.0, 3 / 4)),
    "flap side": Habit(tr("a flap over an opening is wider on each side by"), Rule(15.0, 5 / 8)),
    "flap drop": Habit(tr("a flap over an opening is longer by"), Rule(20.0, 3 / 4)),
    "slit flap": Habit(tr("a flap under a slit is wider on each side by"), Rule(25.0, 1.0)),
    "port facing": Habit(tr("facing around an opening"), Rule(25.0, 1.0)),
    "padding around a port": Habit(tr("padding ends short of an opening by"), Rule(6.0, 1 / 4)),
    "window frame": Habit(tr("frame of a clear window"), Rule(25.0, 1.0)),
    "open corner": Habit(tr("a boxed pocket's corner is left open by"), Rule(15.0, 5 / 8)),
    "anchor": Habit(tr("webbing is stitched down over"), Rule(30.0, 1.25)),
    "webbing": Habit(tr("width of webbing"), Rule(25.0, 1.0)),
    "tie width": Habit(tr("width of a tie"), Rule(20.0, 3 / 4)),
    "drain height": Habit(tr("water stands no higher than"), Rule(10.0, 3 / 8)),
    "letters room": Habit(tr("letters keep clear of seams and hems by"), Rule(15.0, 5 / 8)),
    "hood": Habit(tr("a vent's hood is larger by"), Rule(40.0, 1.5)),
    "hood hem": Habit(tr("hem of a vent's hood"), Rule(12.0, 1 / 2)),
    "hood turn-under": Habit(tr("turn-under of a vent's hood"), Rule(8.0, 3 / 8)),
    "mesh": Habit(tr("mesh behind a vent is larger by"), Rule(30.0, 1.25)),
    "window lap": Habit(tr("a clear window laps the cloth by"), Rule(12.0, 1 / 2)),
    "pocket hem": Habit(tr("hem of a pocket"), Rule(20.0, 3 / 4)),
    "pocket turn-under": Habit(tr("turn-under of a pocket"), Rule(10.0, 3 / 8)),
    "patch seam": Habit(tr("a patch is turned under by"), Rule(10.0, 3 / 8)),
    "backing patch": Habit(tr("side of a backing patch"), Rule(40.0, 1.5)),
    "caught": Habit(tr("webbing caught in a seam by"), Rule(25.0, 1.0)),
    "half heading hem": Habit(tr("hem of a gathered heading"), Rule(8.0, 5 / 16)),
    "stiffening": Habit(tr("stiffening ends short of the seam by"), Rule(2.0, 1 / 16)),
    "stiffener": Habit(tr("a stiffener ends short of seams and folds by"), Rule(3.0, 1 / 8)),
    "test square": Habit(tr("side of the test square"), Rule(50.0, 2.0)),
    "clear of a stitch line": Habit(tr("a fastener stays clear of a stitch line by"), Rule(12.0, 1 / 2)),
    "stands up": Habit(tr("width of what stands up on top, when it is not said"), Rule(50.0, 2.0)),
}
"""General habits by name; a scheme's own choices bring theirs."""

Millimetres = Annotated[float, Ge(0), Le(MOST_HABIT)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Habits:
    """Whose habits a job follows; `own` are those its shop has changed, by name, mm."""

    __pydantic_config__ = {"extra": "forbid", "allow_inf_nan": False}  # noqa: RUF012

    system: System = System.METRIC
    own: Mapping[str, Millimetres] = field(default_factory=dict)

    def mm(self, name: str) -> float:
        """A general habit, in mm.

        >>> Habits(system=System.INCH).mm("seam"), Habits(own={"seam": 10.0}).mm("seam")
        (12.7, 10.0)
        """
        return self.take(name, HABITS[name].rule)

    def take(self, name: str, rule: Rule) -> float:
        """The habit of that name, in mm: the shop's own, else the system's."""
        return self.own.get(name, self.system.take(rule))
