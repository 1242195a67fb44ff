"""The picture of a step: the pieces as they lie now, and what is being made, cut across."""

from typing import Final

from omnipel.core.drafting.crosssection import CrossSection, Widths
from omnipel.core.drafting.crosssection import edge as edge_section
from omnipel.core.finishing.constructions import CONSTRUCTIONS
from omnipel.core.finishing.operation import When
from omnipel.core.pictures.drawing import Drawing
from omnipel.core.pictures.lying import LETTER, Lies, lying
from omnipel.core.pictures.squaring import squaring
from omnipel.core.sewing.plan import Plan, Step
from omnipel.core.words.phrases import Voice

WRONG_UP: Final = frozenset({"press hem", "score hem", "lay cord", "hem", "casing", "fuse", "baste layers", "mark", "seal edge"})
"""Done from the wrong side."""
PINNED: Final = frozenset({"pin", "pin corners", "sew", "sew ring", "sew piped", "catch", "draw up"})
"""Steps at which pins are in."""
FOLDED: Final = PINNED | {"mark boxed", "sew boxed"}
"""At these two edges of one piece lie on one another."""
APART: Final = frozenset({"quarters", "clip", "staystitch"})
"""Done to one side of a seam after the other, before they are brought together."""
SQUARED: Final = "square"
"""Here no piece is cut yet: the cloth itself is shown."""
IN_SEAM: Final = "seam:"


def picture(plan: Plan, step: Step, voice: Voice, letters: float = LETTER) -> Drawing:
    """The pieces that are worked on as they lie when all steps before are done; `letters`: how high they are, as a share of the picture."""
    operation = step.operation
    if operation.deed == SQUARED:
        return squaring(plan.making.cloth_of(operation.cloth).cut_width, voice, letters)
    sewn = frozenset(i for earlier in plan.steps[: step.number - 1] for i in earlier.operation.seams)
    pins = sum(int(work.amount) for work in operation.work if work.pace.value == "pin")
    if operation.deed in PINNED and not pins:
        pins = 6
    return lying(
        plan.making.drafted.cover,
        Lies(
            on=operation.on,
            edges=operation.edges,
            sewn=sewn,
            pins=pins,
            wrong=operation.deed in WRONG_UP and operation.did.when is not When.PREPARE,
            lit=frozenset({operation.ref.whole}),
            folded=operation.deed in FOLDED and len(operation.on) == 1,
            apart=operation.deed in APART,
            letters=letters,
        ),
        voice,
    )


def section(plan: Plan, step: Step) -> CrossSection | None:
    """What is being made, cut across, to the job's own widths; None where there is nothing to see."""
    operation, making = step.operation, plan.making
    head = operation.key.rpartition("/")[0]
    if head.startswith(IN_SEAM) and head in making.keys:
        seam = making.seams[making.keys.index(head)]
        known = CONSTRUCTIONS.get(str(seam.kind)) or CONSTRUCTIONS["zipped" if seam.kind == "zip" else "plain"]
        a, b = (making.edge(side[0]).finish.width for side in seam.sides)
        return known.section(Widths(a, b, seam.wide))
    if operation.opening and operation.edges:
        finish = making.edge(operation.edges[0]).finish
        return edge_section(finish) if finish.kind.value not in ("raw", "fold") else None
    return None
