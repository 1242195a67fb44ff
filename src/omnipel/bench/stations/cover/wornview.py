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
from omnipel.core.forms.body import Body
from omnipel.core.pictures.sewn import COVER, piece_of, shell
from omnipel.core.space.frames import Solid
from omnipel.core.space.mesh import Mesh
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
        apart = self.apart.isChecked()
        sewn = shell(draft.cover, apart=apart) if isinstance(draft, Drafted) else Mesh()
        what = self.what.value if sewn.faces else "object"
        thickness = draft.cover.thickness if isinstance(draft, Drafted) else 0.0
        lies = sewn if not apart else shell(draft.cover) if isinstance(draft, Drafted) else Mesh()
        self.sketch.tints = self._tints(lies, body, thickness, see_through=what == "both")
        mesh = {"both": body.mesh() + sewn, "cover": sewn, "object": body.mesh()}[what]
        over = COVER if what == "both" and not self.apart.isChecked() else ""
        self.sketch.show_mesh(mesh, over=over)

    def _tints(self, sewn: Mesh, body: Body, thickness: float, *, see_through: bool) -> dict[str, QColor]:
        """A colour for every facet of the cover, where it lies on the object."""
        names = list(dict.fromkeys(piece_of(face.part) for face in sewn.faces))
        cloth = QColor(self.session.open_job.cover.cloth.colour)
        by_gap = self.colours.value == "gap" and sewn.faces
        states = gap_states(body, sewn.middles, thickness) if by_gap else []
        tints = {}
        for i, face in enumerate(sewn.faces):
            piece = names.index(piece_of(face.part))
            colour = QColor(LOOK.colours.of(states[i])) if by_gap else _turned(cloth, piece)
            colour.setAlpha(150 if see_through else 255)
            tints[face.part] = colour
        return tints


def gap_states(body: Body, middles: Solid, thickness: float) -> list[str]:
    """How facets stand off the object, by their middles: stop below nothing, look when tight or flapping, fine between."""
    gaps = body.occupied.gaps(middles) - thickness / 2.0
    return ["stop" if gap < 0.0 else "look" if gap < TIGHT_CLEARANCE or gap > FLAP_CLEARANCE else "fine" for gap in gaps]


def _turned(colour: QColor, step: int) -> QColor:
    """The cloth's colour turned on by steps around the hue, so that neighbouring panels differ."""
    hue = (max(colour.hslHueF(), 0.0) + 0.13 * step) % 1.0
    return QColor.fromHslF(hue, min(1.0, colour.hslSaturationF() + 0.08), min(0.85, colour.lightnessF() + 0.06 * (step % 2)))
