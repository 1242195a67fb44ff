"""What this program is, and whose work it is made of."""

from email.message import Message
from importlib.metadata import PackageNotFoundError, distribution
from typing import cast

from PySide6.QtCore import qVersion
from PySide6.QtWidgets import QPlainTextEdit

from omnipel import __version__
from omnipel.bench.commands.desk import Desk
from omnipel.bench.parts.asking import chosen, sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.widgets import button, column, label, row
from omnipel.bench.speech import say
from omnipel.core.words.phrases import Name, tr

LIBRARIES = (
    *("PySide6-Essentials", "numpy", "shapely", "pydantic", "annotated-types", "reportlab", "svgelements", "fonttools"),
    *("defusedxml", "platformdirs"),
)


class AboutDialog(Dialog):
    """Version, where the shop lies, and whose work is used, under which terms."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(
            desk.widget,
            tr("About Omnipel"),
            tr(
                "Which Omnipel this is, where your shop lies, and whose work is used in it. The terms of each library stand below."
            ),
        )
        where = label(tr("Your shop: {path}", path=Name(str(desk.session.store.path))), wrap=True)
        version = label(tr("Omnipel {version} · Qt {qt}", version=Name(__version__), qt=Name(qVersion())), "soft")
        self.terms = QPlainTextEdit("\n".join([say(tr("Omnipel itself: MIT")), *licences()]))
        self.terms.setReadOnly(True)
        self.terms.setAccessibleName(say(tr("Licences")))
        close = button(tr("Close"), self.accept, "main")
        close.setDefault(True)
        buttons = row(close)
        buttons.insertStretch(0, 1)
        about = label(tr("Drafts the panels of a fitted cover from tape readings, and says whether it will go on."), wrap=True)
        title = label(tr("Omnipel"), "title")
        self.setLayout(column(title, version, about, where, label(tr("Licences"), "head"), self.terms, buttons, margins=16))
        sized(self, 560, 460)


def licences() -> list[str]:
    """Each library that the program is made of, its version and its terms."""
    found = []
    for name in LIBRARIES:
        try:
            known = cast("Message", distribution(name).metadata)
        except PackageNotFoundError:
            continue
        terms = known.get("License-Expression") or known.get("License") or ""
        classified = [line.rpartition(" :: ")[2] for line in known.get_all("Classifier") or [] if line.startswith("License ::")]
        short = terms if 0 < len(terms) < 80 else ", ".join(classified)
        found.append(f"{known['Name']} {known['Version']}: {' '.join(short.split())}")
    return [*found, "Source Sans Pro: OFL-1.1"]


def show_about(desk: Desk) -> None:
    """What this program is."""
    with chosen(AboutDialog(desk)):
        pass
