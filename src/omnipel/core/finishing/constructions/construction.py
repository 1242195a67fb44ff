"""What a construction of a seam says about itself: allowances, what is bought, what speaks against it."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from omnipel.core.covers.scheme import Hardware
from omnipel.core.drafting import crosssection
from omnipel.core.drafting.crosssection import CrossSection, Widths
from omnipel.core.finishing.operation import Operation
from omnipel.core.finishing.stitching import Stitching, plainly
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.finish import Finish
from omnipel.core.words import refs
from omnipel.core.words.phrases import NOTHING, Phrase, term
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked


@dataclass(frozen=True, slots=True)
class Joining:
    """A seam that is to be sewn in some way.

    Args:
        seam: its name.
        length: of the stretch that the construction runs over, once.
        times: how many such seams there are.
        ring: whether the stretch closes on itself.
        bend: the radius of its tightest bend on the flat panels, mm; infinite when it is straight.
        wide: the construction's own width, mm.
        allowance: of its first side, mm.
        thick: thickness of one layer of its cloth, mm.
        choices: everything decided about the cover.
        fuller: how many times its first side is as long as its second.
    """

    seam: str
    length: Worked
    times: int
    ring: bool
    bend: float
    wide: float
    allowance: float
    thick: float
    choices: CoverChoices
    fuller: float = 1.0

    @property
    def where(self) -> Ref:
        """Where it is decided."""
        return refs.seam(self.seam)

    @property
    def called(self) -> Phrase:
        """The name of the seam, for words."""
        return term(self.seam)


@dataclass(frozen=True, slots=True)
class Against:
    """Something that speaks against sewing a seam so: why, and the number that would be better, for which field."""

    text: Phrase
    part: str = ""
    better: float = 0.0


def nothing_bought(_joining: Joining) -> Iterator[Hardware]:
    """Nothing is bought."""
    return iter(())


def nothing_against(_joining: Joining) -> Iterator[Against]:
    """Nothing speaks against it."""
    return iter(())


@dataclass(frozen=True, slots=True)
class Construction:
    """A way to sew a seam.

    Args:
        key: its name in job files.
        words: its name on screen.
        about: one line that says when it is used.
        sides: the finishes of both sides.
        goods: what it takes.
        against: what speaks against it.
        wide: what its own width is called; nothing when it has none.
        habit: the habit that says how wide that usually is; "" for nothing.
        stretches: whether it may run over a part of a seam only.
        rows: rows of topstitching as a rule.
        section: how it looks cut across.
        fuller: how many times one side is cut as long as the other, as a rule, at least and at most; None where both are alike.
        operations: how it is sewn, in order.
    """

    key: str
    words: Phrase
    about: Phrase
    sides: Callable[[Joining], tuple[Finish, Finish]]
    goods: Callable[[Joining], Iterator[Hardware]] = nothing_bought
    against: Callable[[Joining], Iterator[Against]] = nothing_against
    wide: Phrase = NOTHING
    habit: str = ""
    stretches: bool = False
    rows: int = 0
    section: Callable[[Widths], CrossSection] = crosssection.plain
    fuller: tuple[float, float, float] | None = None
    operations: Callable[[Stitching], Iterator[Operation]] = plainly
