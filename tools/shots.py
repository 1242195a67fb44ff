"""`make shots`: the pictures in docs/screenshots, from the sample shop at 1280×800, and what F1 shows, in docs/guide."""

import os
import tempfile
import time
from pathlib import Path

os.environ["QT_QPA_PLATFORM"] = "offscreen"

import pypdfium2
from PySide6.QtWidgets import QApplication, QDialog, QWidget

from omnipel.bench.commands.dress import set_dark
from omnipel.bench.commands.explaining import HelpDialog, subject_of
from omnipel.bench.commands.papers import PapersDialog
from omnipel.bench.parts.look import load_type
from omnipel.bench.session import Session
from omnipel.bench.sewing import sewing_of
from omnipel.bench.stations.fit.again import AgainDialog
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.exchange.asked import Order
from omnipel.exchange.export import DESPITE_STOP, exported
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.demo import unpack
from omnipel.shop.store import Store

TARGET = Path(__file__).parent.parent / "docs" / "screenshots"
GUIDE = TARGET.parent / "guide"
ASKED = (
    ("girth", "tape", refs.reading("girth")),
    ("gap", "cover", refs.CLEARANCE),
    ("seam", "cover", refs.SEAM_ALLOWANCE),
    ("hem", "cover", refs.HEM_WIDTH),
)
"""What is asked about with F1, of the job that the guide is about."""
SHOTS = (
    ("tape", "Honey extractor", "tape", False),
    ("panels", "Honey extractor", "panels", False),
    ("cover", "Press motor", "cover", False),
    ("object", "Press motor", "object", False),
    ("panels-traced", "Platform scale", "panels", False),
    ("panels-dark", "Settling tank", "panels", True),
    ("seam-not-true", "Bottling trolley", "panels", False),
    ("will-not-go-on", "Butter churn", "cover", False),
    ("cover-seam", "Bottling trolley", "cover", False),
    ("cover-apart", "Platform scale", "cover", False),
    ("cloth", "Honey extractor", "cloth", False),
    ("sew", "Press motor", "sew", False),
    ("sew-order", "Fruit tub", "sew", False),
    ("fit", "West butt", "fit", False),
)
SEWN = 11
"""So many steps are done when the Sew station is looked at."""
CHOSEN = {"cover-seam": refs.seam("wall to top"), "cover-apart": refs.panel("gusset")}
APART = {"cover-apart": 0.8}
"""What is chosen on the Cover station, and how far the cover is apart, 0 … 1."""


def stand(window: Window, station: str, name: str) -> None:
    """Show at a station what its picture is of."""
    if station == "panels":
        wall = next(n for n in window.stations["panels"].sizes.numbers if str(n.words).endswith("cut length"))
        window.session.point(wall.words, wall.number)
    if station == "cover":
        cover = window.stations["cover"]
        cover.choose(CHOSEN.get(name, refs.choice()))
        slider = cover.picture.apart
        slider.setValue(round(APART.get(name, 0.0) * slider.maximum()))
    if station == "sew":
        sew = window.stations["sew"]
        for _ in range(SEWN if name == "sew" else 0):
            sew.sewing.do()
        sew.enter()
        sew.sewing.start()
        if name == "sew-order":
            sew.go_to(refs.SEWING_ORDER)
    if station == "fit":
        fit = window.stations["fit"]
        fit.fitting.choose(fit.fitting.tries[0].id)
        fit.refresh()


def main() -> None:
    """Take them all."""
    app = QApplication([])
    load_type()
    TARGET.mkdir(parents=True, exist_ok=True)

    def take(window: QWidget, name: str, folder: Path = TARGET) -> None:
        until = time.monotonic() + (
            7.0 if name in ("cloth", "papers") else 2.0
        )  # cards are drafted when they are first seen, advice is looked for
        while time.monotonic() < until:
            app.processEvents()
        window.grab().save(str(folder / f"{name}.png"))

    def dialog_of(dialog: QDialog, name: str) -> None:
        dialog.show()
        take(dialog, name)
        dialog.reject()

    def paper(window: Window) -> None:
        """A page of the order of work, as it is printed."""
        session = window.session
        content = exported(
            EXPORTS["order"], Order(session.draft, session.voice, "A4", person=sewing_of(session).person), DESPITE_STOP
        )
        page = pypdfium2.PdfDocument(content)[2]
        page.render(scale=90 / 72).to_pil().save(TARGET / "sew-paper.png")

    def guide(window: Window) -> None:
        """What F1 shows about a few things."""
        GUIDE.mkdir(exist_ok=True)
        for name, station, ref in ASKED:
            window.show_station(station)
            window.go_to(ref)
            app.processEvents()
            page = window.stations[station]
            dialog = HelpDialog(window, subject_of(window, page.field.line if station == "tape" else page.decides()[ref]))
            dialog.show()
            take(dialog, name, GUIDE)
            dialog.close()

    with tempfile.TemporaryDirectory() as folder:
        first = Window(Session(Store(Path(folder) / "empty.sqlite")))
        first.resize(1280, 800)
        first.show()
        take(first, "first-start")
        first.close()
        window = Window(Session(unpack(Path(folder) / "quillet.sqlite")))
        window.resize(1280, 800)
        window.show()
        take(window, "shelf")
        for name, job, station, dark in SHOTS:
            key = next(card.id for card in window.session.store.cards() if card.name == job)
            set_dark(window, dark)
            window.session.open(key)
            window.show_station(station)
            stand(window, station, name)
            take(window, name)
            if station == "fit":
                dialog_of(AgainDialog(window, window.session), "fit-again")
            if name == "panels":
                guide(window)
            if name == "cloth":
                dialog_of(PapersDialog(window, window.session, EXPORTS["book"]), "papers")
            if name == "sew":
                paper(window)
    os._exit(0)


if __name__ == "__main__":
    main()
