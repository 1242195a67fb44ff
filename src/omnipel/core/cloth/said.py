"""What there is to say about a lay, in the same words everywhere."""

from omnipel.core.cloth.cuts import Cut
from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.job.laying import Placed
from omnipel.core.words.phrases import Count, Phrase, Run, Share, Value, mm, tr

TOLD = 0.25
"""Further than this from what is proven, nothing can be said: it is the proof that is far off."""
CHALK = 0.5
"""What lies no further from an end or a selvage than this lies at it, mm: a chalk line is wider."""
SAME = 1e-4
"""A lay that may be longer than the best by no more than this share is the best."""


def off_words(off: float) -> Phrase:
    """How far a lay may be from the best."""
    if off > TOLD:
        return tr("how near that is to the best possible cannot be told")
    return tr("no lay is shorter") if off <= SAME else tr("within {share} of the best possible", share=Share(off, 1))


def bought_words(lay: Lay) -> Phrase:
    """How much of a cloth is bought, in words."""
    value = lay.bought.value
    return (
        tr("{n} of {long}", n=Count(value), long=mm(lay.sheet.cloth.piece_length))
        if by_the_piece(lay.sheet)
        else tr("{run}", run=Run(value))
    )


def cut_words(cut: Cut) -> Value:
    """What a cut is called, and how it is cut where that is not as it is drawn."""
    mirrored = tr("{piece}, mirrored", piece=cut.words) if cut.turned_over else cut.words
    return tr("{piece}, both layers", piece=mirrored) if cut.twice else mirrored


def corner_of(lay: Lay, placed: Placed) -> tuple[float, float]:
    """How far a piece's box lies from the squared end and from the selvage or the fold, mm."""
    end, side = (0.0 if abs(at) < CHALK else at for at in lay.outline(placed).min(axis=0).tolist())
    return end, side


def place_words(lay: Lay, placed: Placed) -> Phrase:
    """Where a piece lies."""
    end, side = corner_of(lay, placed)
    border = tr("fold") if lay.sheet.folded else tr("selvage")
    return tr("{end} from the squared end, {side} from the {border}", end=mm(end), side=mm(side), border=border)
