"""What there is to say about a lay, in the same words everywhere."""

from omnipel.core.cloth.lay import Lay, by_the_piece
from omnipel.core.words.phrases import Count, Phrase, Run, Share, mm, tr


def off_words(off: float) -> Phrase:
    """How far a lay may be from the best."""
    return tr("no lay is shorter") if off <= 1e-9 else tr("within {share} of the best possible", share=Share(off, 1))


def bought_words(lay: Lay) -> Phrase:
    """How much of a cloth is bought, in words."""
    value = lay.bought.value
    return (
        tr("{n} of {long}", n=Count(value), long=mm(lay.sheet.cloth.piece_length))
        if by_the_piece(lay.sheet)
        else tr("{run}", run=Run(value))
    )
