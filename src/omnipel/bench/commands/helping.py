"""F1: what the thing with the focus is for, and what its station is for."""

from PySide6.QtWidgets import QApplication

from omnipel.bench.commands.desk import Desk
from omnipel.core.words.phrases import Name, tr


def explain(desk: Desk) -> None:
    """What the thing with the focus is for."""
    widget = QApplication.focusWidget()
    words = (widget.toolTip() or widget.accessibleDescription() or widget.accessibleName()) if widget else ""
    here = {
        "shelf": tr("Every job of the shop, as it stands. Enter opens one at its next step."),
        "object": tr("Say what the thing is and what sticks out; the sketch takes shape as you choose."),
        "tape": tr(
            "Take one reading after the other; repeat what matters. Lengths are written as on paper: {examples}.",
            examples=Name("12 5/8, 3'4 1/2, 31.8cm, 2x14 3/8, girth/2, 31*pi"),
        ),
        "cover": tr("Decide how the cover is cut, how much larger it is, and how its edges are finished."),
        "panels": tr(
            "What is to be cut, and both sides of every seam. Point at a number to see its sum; click an edge to see its seam."
        ),
    }[desk.here]
    desk.session.say("note", tr("{what}: {here}", what=Name(words), here=here) if words else here)
