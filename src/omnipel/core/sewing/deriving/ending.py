"""Trying on, and what comes after all else: ribbons drawn in, threads trimmed, pins counted."""

from collections.abc import Iterator

from omnipel.core.drafting.panel import Cloth, MarkKind
from omnipel.core.finishing.operation import After, Check, Operation, Pace, Work
from omnipel.core.fit.going_on import Fit
from omnipel.core.sewing.making import Making
from omnipel.core.words import refs
from omnipel.core.words.phrases import term, tr

TRY, FIT, TIDY = "try/first", "try/finished", "end/tidy"


def shaped(making: Making) -> bool:
    """Whether pieces of the outer are joined, or boxed: whether there is anything to try on before it is finished."""
    joined = any(i not in making.meeting and making.layer(i) is not Cloth.LINING for i in range(len(making.seams)))
    return joined or any(figure.kind is MarkKind.BOXED for name in making.surface for figure in making.figures(name))


def of_ending(making: Making) -> Iterator[Operation]:
    """What is done last."""
    on, ref = tuple(name for name in making.surface if making.flat[name].cloth is Cloth.OUTER), refs.of_job("name")
    if shaped(making):
        words = tr("Try it on, inside out where you can, before anything is finished")
        checks = (
            *_sizes(making),
            *_ports(making),
            Check(tr("on and off with two hands; mark what is to be taken in or let out")),
        )
        yield Operation(key=TRY, deed="try on", words=words, ref=ref, on=on, work=(Work(Pace.FIXED, 6.0),), checks=checks)
    for name in making.surface:
        channel = [figure for figure in making.figures(name) if figure.holds == "ribbon"]
        if channel:
            words = tr("Draw the ribbon through the channel and tie it")
            stitched = tuple(After(f"figure:{piece}/channel", tr("the channel is stitched first")) for piece in making.surface
                             if any(f.holds == "ribbon" for f in making.figures(piece)))  # fmt: skip
            yield Operation(
                key="ribbon/thread", deed="thread", words=words, ref=ref, on=on, work=(Work(Pace.FIXED, 3.0),), after=stitched
            )
            break
    words = tr("Trim all threads, count the pins back in")
    yield Operation(
        key=TIDY,
        deed="tidy",
        words=words,
        ref=ref,
        on=on,
        work=(Work(Pace.FIXED, 4.0),),
        checks=(Check(tr("as many pins as went in")),),
    )
    words = tr("Put it on and write down what it measures")
    yield Operation(key=FIT, deed="fit", words=words, ref=ref, on=on, work=(Work(Pace.FIXED, 4.0),), checks=tuple(_sizes(making)))


def _sizes(making: Making) -> Iterator[Check]:
    """The girth that has to pass, to be measured on what is sewn."""
    fit = making.drafted.fit
    if isinstance(fit, Fit) and making.drafted.cover.profile:
        yield Check(tr("inside girth at the opening"), making.drafted.cover.profile[-1].girth.value)


def _ports(making: Making) -> Iterator[Check]:
    for feature in making.choices.features:
        if feature.serves and feature.id in making.drafted.cover.lying:
            yield Check(tr("{feature} lies over what comes out there", feature=term(feature.name)))
