"""The edge of an opening as it is made: what was decided about it, and how long it is."""

from dataclasses import dataclass

from omnipel.core.drafting.seams import Run
from omnipel.core.job.document import CoverChoices, LiningSchool
from omnipel.core.job.edges import DRAWS, EdgeChoice, HemOrder, Hold
from omnipel.core.job.finish import Finish, FinishKind, usual_finish
from omnipel.core.words import refs
from omnipel.core.words.refs import Ref
from omnipel.core.words.working import Worked


@dataclass(frozen=True, slots=True)
class Dressed:
    """The edge of an opening.

    Args:
        name: of the opening.
        runs: the free edges around it, in order.
        length: all of them together.
        finish: how they are finished, where a person decides it.
        order: when that is sewn.
        held_by: what holds it or draws it in.
        drawn_to: the girth it is drawn in to, mm; 0 where it is not.
        asked: whether a person decides about it; else its scheme does.
    """

    name: str
    runs: tuple[Run, ...]
    length: Worked
    finish: Finish
    order: HemOrder
    held_by: Hold = Hold.NOTHING
    drawn_to: float = 0.0
    asked: bool = True

    @property
    def drawn(self) -> bool:
        """Whether something runs in it that draws it in."""
        return self.held_by in DRAWS


@dataclass(frozen=True, slots=True)
class Decided:
    """How the edges of an opening are finished, and where that is decided."""

    finish: Finish
    source: Ref


def decided(choices: CoverChoices, opening: str) -> Decided:
    """What is decided about the finish of an opening's edge: its own, else what goes with the lining, else that of all edges."""
    own = choices.edges.get(opening, EdgeChoice()).finish
    if own is not None:
        return Decided(own, refs.edge(opening, "finish"))
    match choices.lining.school:
        case LiningSchool.BAGGED:
            return Decided(usual_finish(FinishKind.BAGGED, choices.habits, choices.seam_allowance), refs.SEAM_ALLOWANCE)
        case LiningSchool.BOUND if choices.hem.kind is not FinishKind.BOUND:
            return Decided(usual_finish(FinishKind.BOUND, choices.habits, 0.0), refs.LINING_SCHOOL)
        case _:
            return Decided(choices.hem, refs.HEM)
