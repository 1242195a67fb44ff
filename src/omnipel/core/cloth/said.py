"""What there is to say about a lay, in the same words everywhere."""

from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.words.phrases import Count, Phrase, Run, Share, mm, tr

TOLD = 0.25
"""Further than this from what is proven, nothing can be said: it is the proof that is far off."""
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
