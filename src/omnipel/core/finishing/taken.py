"""What a person's seams and hems are known to come out deeper by: so much more is cut, and the sew line stays where it is."""

from omnipel.core.covers.scheme import Cover
from omnipel.core.drafting.panel import Cloth, Edge
from omnipel.core.finishing.refitted import refitted
from omnipel.core.job.document import CoverChoices
from omnipel.core.job.finish import FOLDED, SEWN, Finish, deeper
from omnipel.core.words import refs
from omnipel.core.words.phrases import term, tr

KEPT = 2.0
"""So much of an allowance is left at the least, however shallow somebody sews, mm."""


def with_takes(cover: Cover, choices: CoverChoices) -> Cover:
    """The cover with the allowances of its outer cut wider by what is known of who sews it."""
    if not choices.seam_take and not choices.hem_take:
        return cover
    wanted = {}
    for piece in cover.pieces:
        panel = cover.flat[piece.name]
        edges = [edge for edge in panel.edges if panel.cloth is Cloth.OUTER and edge.finish.kind in SEWN | FOLDED]
        made = {edge.name: (_taken(edge, choices), edge.source) for edge in edges}
        wanted[piece.name] = {name: (finish, where) for name, (finish, where) in made.items() if finish.allowance}
    return refitted(cover, wanted)


def _taken(edge: Edge, choices: CoverChoices) -> Finish:
    if edge.finish.kind in SEWN:
        more, words, where = choices.seam_take, tr("your seams on {cloth}", cloth=term(choices.cloth.kind)), refs.SEAM_TAKE
    else:
        more, words, where = choices.hem_take, tr("your hems"), refs.HEM_TAKE
    more = max(more, min(0.0, KEPT - edge.finish.allowance))
    return deeper(edge.finish, more, words, where) if more else edge.finish
