"""The sketch of the cover over its object: taken apart, with or without the object, coloured by panel or by the gap."""

from PySide6.QtCore import QSize
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QWidget

from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.picker import combo
from omnipel.bench.parts.sketchview import SketchView
from omnipel.bench.parts.widgets import check, column
from omnipel.bench.session import Session
from omnipel.core.draft import Drafted
from omnipel.core.fit.going_on import Fit
from omnipel.core.forms.mesh import Mesh
from omnipel.core.pictures.worn import COVER, worn
from omnipel.core.tolerances import FLAP_CLEARANCE, TIGHT_CLEARANCE
from omnipel.core.words.phrases import tr

SHOW = ((tr("cover over object"), "both"), (tr("cover alone"), "cover"), (tr("object alone"), "object"))
COLOURS = ((tr("coloured by panel"), "panel"), (tr("coloured by the gap"), "gap"))


class WornView(QWidget):
    """The sketch and its three choices."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.sketch = SketchView(tr("Sketch of the cover over the object. Arrow keys turn it."))
        self.what = combo(tr("What is shown"), SHOW, lambda _v: self.refresh())
        self.colours = combo(tr("Colours"), COLOURS, lambda _v: self.refresh())
        self.apart = check(tr("apart"), lambda _on: self.refresh(), full=tr("taken apart"))
        self.sketch.hint = QSize(240, 190)  # it takes what room there is; where that is less, it scrolls before it vanishes
        shown = Flow(gap=8)
        for widget in (self.what, self.colours, self.apart):
            shown.addWidget(widget)
        layout = column(self.sketch, shown, spacing=4)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def refresh(self) -> None:
        """Show the draft as it stands."""
        draft = self.session.draft
        body = self.session.body
        if body is None:
            return
        shell = worn(draft.body, draft.cover, apart=self.apart.isChecked()) if isinstance(draft, Drafted) else Mesh()
        what = self.what.value if shell.faces else "object"
        self.sketch.tints = self._tints(shell, see_through=what == "both")
        mesh = {"both": body.mesh() + shell, "cover": shell, "object": body.mesh()}[what]
        over = COVER if what == "both" and not self.apart.isChecked() else ""
        self.sketch.show_mesh(mesh, over=over)

    def _tints(self, shell: Mesh, *, see_through: bool) -> dict[str, QColor]:
        """A colour for every part of the cover."""
        parts = dict.fromkeys(face.part for face in shell.faces)
        names = list(dict.fromkeys(part.removeprefix(COVER).rpartition(":")[0] for part in parts))
        cloth = QColor(self.session.open_job.cover.cloth.colour)
        tints = {}
        for part in parts:
            name, _, depth = part.removeprefix(COVER).rpartition(":")
            colour = self._gap_colour(int(depth)) if self.colours.value == "gap" else _turned(cloth, names.index(name))
            colour.setAlpha(150 if see_through else 255)
            tints[part] = colour
        return tints

    def _gap_colour(self, depth: int) -> QColor:
        """Stop below nothing, look when tight or flapping, fine between."""
        draft = self.session.draft
        fit = draft.fit if isinstance(draft, Drafted) else None
        if not isinstance(fit, Fit):
            return QColor(LOOK.colours.line)
        gap = fit.slacks[min(depth, len(fit.slacks) - 1)].clearance
        state = "stop" if gap < 0.0 else "look" if gap < TIGHT_CLEARANCE or gap > FLAP_CLEARANCE else "fine"
        return QColor(LOOK.colours.of(state))


def _turned(colour: QColor, step: int) -> QColor:
    """The cloth's colour turned on by steps around the hue, so that neighbouring panels differ."""
    hue = (max(colour.hslHueF(), 0.0) + 0.13 * step) % 1.0
    return QColor.fromHslF(hue, min(1.0, colour.hslSaturationF() + 0.08), min(0.85, colour.lightnessF() + 0.06 * (step % 2)))
