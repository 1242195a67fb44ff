"""The tick that lets a panel be cut on the fold."""

from PySide6.QtWidgets import QCheckBox

from omnipel.bench.parts.widgets import check
from omnipel.bench.session import Session
from omnipel.core.covers.fields import FIELDS
from omnipel.core.drafting.onfold import fold_of
from omnipel.core.drafting.panel import Panel
from omnipel.core.words import refs
from omnipel.core.words.phrases import term, tr


def foldable(panel: Panel) -> bool:
    """Whether its sides are alike, or it is cut on the fold already."""
    return panel.fold is not None or fold_of(panel) is not None


def fold_box(session: Session, name: str, *, on: bool) -> QCheckBox:
    """Whether the panel of a name is cut on the fold."""

    def folded(ticked: bool) -> None:
        now = tuple(other for other in session.open_job.cover.on_fold if other != name)
        session.set(refs.ON_FOLD, (*now, name) if ticked else now, FIELDS[refs.ON_FOLD])

    box = check(tr("on the fold: half is marked out"), folded, full=tr("{panel} on the fold", panel=term(name)))
    box.setChecked(on)
    return box
