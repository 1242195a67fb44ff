"""Sheets of paper in a file: each with a foot that says whose it is and which of how many, bookmarks, and titles that a reader can speak."""

from __future__ import annotations

import io
import unicodedata
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path as FilePath
from typing import Any, Final

from reportlab.lib.units import mm
from reportlab.lib.utils import TimeStamp
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.pdfdoc import PDFArray, PDFDictionary, PDFName, PDFObjectReference, PDFString
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from omnipel import __version__

TYPE_FOLDER: Final = FilePath(__file__).parent.parent.parent / "type"
PLAIN: Final = "Omnipel"
STRONG: Final = "Omnipel-Strong"
FOOT_SIZE: Final = 8.2
"""Type of the foot, pt."""
LONG_AGO: Final = datetime(2000, 1, 1, tzinfo=UTC)


def load_type() -> None:
    """Register the program's typeface with reportlab, once."""
    if PLAIN not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(PLAIN, str(TYPE_FOLDER / "SourceSansPro-Regular.ttf")))
        pdfmetrics.registerFont(TTFont(STRONG, str(TYPE_FOLDER / "SourceSansPro-Semibold.ttf")))


def spelt(words: str) -> str:
    """Words in which pictures that the typeface has not are named in brackets, instead of empty boxes; what only colours or joins them goes.

    >>> spelt("Tractor 🚜, 1⁄2")
    'Tractor (tractor), 1⁄2'
    """
    load_type()
    known = pdfmetrics.getFont(PLAIN).face.charToGlyph
    made = []
    for sign in unicodedata.normalize("NFC", words):
        if ord(sign) in known or unicodedata.category(sign)[0] not in "SMC":
            made.append(sign)
        elif unicodedata.category(sign) == "So":
            made.append(f"({unicodedata.name(sign, 'sign').lower().removeprefix('regional indicator symbol letter ')})")
    return "".join(made)


@dataclass(frozen=True, slots=True)
class Foot:
    """What stands at the foot of a sheet: from so far from the left to so far, and above the lower border, mm; before the page numbers these words."""

    words: str
    left: float
    right: float
    low: float


@dataclass
class Kept:
    """What is known of a sheet besides what is drawn: its bookmarks by level, its foot, and which parts of it are titles or paragraphs."""

    marks: list[tuple[str, int]] = field(default_factory=list)
    foot: Foot | None = None
    tags: list[tuple[str, str]] = field(default_factory=list)
    later: Callable[[], object] | None = None
    """What is drawn on it once all sheets are there."""


class Sheets(Canvas):  # type: ignore[misc]
    """Sheets of paper, on which every sign stands that a person may have written.

    Args:
        target: where the file goes.
        size: of the first sheet, mm.
        title: of the whole.
        made: when; None for a file that is always the same.
        tongue: the language of its words.
        numbered: how a sheet's number is told, with {n} and {all}.
    """

    def __init__(
        self,
        target: io.BytesIO,
        size: tuple[float, float],
        title: str,
        *,
        made: datetime | None = None,
        tongue: str = "en",
        numbered: str = "{n} of {all}",
    ) -> None:
        load_type()
        super().__init__(
            target,
            pagesize=(size[0] * mm, size[1] * mm),
            pageCompression=1,
            invariant=1,
            initialFontName=PLAIN,
            initialFontSize=9,
            lang=tongue,
            pdfVersion=(1, 7),
        )
        self.setTitle(spelt(title))
        self.setAuthor("Omnipel")
        self.setCreator(f"Omnipel {__version__}")
        self.setSubject("")
        self._doc.info.producer = f"Omnipel {__version__}"
        self._doc._timeStamp = _stamp(made or LONG_AGO)
        self.numbered = numbered
        self.kept = Kept()
        self.done: list[dict[str, Any]] = []

    def drawString(self, x: float, y: float, text: str, *args: Any, **kwargs: Any) -> None:
        super().drawString(x, y, spelt(text), *args, **kwargs)

    def drawCentredString(self, x: float, y: float, text: str, *args: Any, **kwargs: Any) -> None:
        super().drawCentredString(x, y, spelt(text), *args, **kwargs)

    def drawRightString(self, x: float, y: float, text: str, *args: Any, **kwargs: Any) -> None:
        super().drawRightString(x, y, spelt(text), *args, **kwargs)

    # -- what a sheet is

    def bookmark(self, words: str, level: int = 0) -> None:
        """A bookmark of this sheet."""
        self.kept.marks.append((spelt(words), level))

    def has_foot(self, words: str, left: float, right: float, low: float) -> None:
        """What stands at the foot of this sheet; the numbers are written once all sheets are there."""
        self.kept.foot = Foot(words, left, right, low)

    @contextmanager
    def tagged(self, role: str, words: str = "") -> Iterator[None]:
        """What is drawn meanwhile is a title (H1, H2), a paragraph (P) or a picture (Figure, `words` say of what)."""
        self._code.append(f"/{role} <</MCID {len(self.kept.tags)}>> BDC")
        self.kept.tags.append((role, spelt(words)))
        yield
        self._code.append("EMC")

    @contextmanager
    def read_as(self, words: str) -> Iterator[None]:
        """What is drawn meanwhile is copied and spoken as these words, however its signs are set."""
        self._code.append(f"/Span <</ActualText <FEFF{spelt(words).encode('utf-16-be').hex().upper()}>>> BDC")
        yield
        self._code.append("EMC")

    @contextmanager
    def beside(self) -> Iterator[None]:
        """What is drawn meanwhile is no part of what is told: a rule, a ruler, a foot."""
        self._code.append("/Artifact BMC")
        yield
        self._code.append("EMC")

    # -- how they come into the file

    def showPage(self) -> None:
        """The sheet is complete."""
        self.done.append({name: value for name, value in self.__dict__.items() if name != "done"})
        self.kept = Kept()
        self._startPage()

    def save(self) -> None:
        """Put all sheets into the file."""
        sheets, self.done = self.done, []
        elements: list[tuple[str, str, int, int]] = []
        outlined = False
        for n, state in enumerate(sheets, 1):
            self.__dict__.update(state)
            if self.kept.later is not None:
                self.kept.later()
            self._numbers(n, len(sheets))
            for words, level in self.kept.marks:
                key = f"mark-{n}-{words}"
                self.bookmarkPage(key)
                self.addOutlineEntry(words, key, level, closed=level > 0)
                outlined = True
            elements += [(role, words, n, k) for k, (role, words) in enumerate(self.kept.tags)]
            super().showPage()
            page = self._doc.Pages.pages[-1]
            page.__NoDefault__ = [*page.__NoDefault__, "StructParents"]
            page.StructParents = n - 1
        if outlined:
            self.showOutline()
        self._structure(elements, len(sheets))
        self._code: list[str] = []
        self._doc.SaveToFile(self._filename, self)

    def _numbers(self, n: int, all_: int) -> None:
        """The foot of a sheet."""
        foot = self.kept.foot
        if foot is None:
            return
        self.saveState()
        with self.beside():
            self.setFillGray(0.0)
            self.setFont(PLAIN, FOOT_SIZE)
            told = self.numbered.format(n=n, all=all_)
            self.drawRightString(foot.right * mm, foot.low * mm, told)
            room = (foot.right - foot.left) * mm - pdfmetrics.stringWidth(told, PLAIN, FOOT_SIZE) - 6.0 * mm
            words = spelt(foot.words)
            while words and pdfmetrics.stringWidth(words, PLAIN, FOOT_SIZE) > room:
                words = words[:-2].rstrip("… ") + "…" if len(words) > 2 else ""
            self.drawString(foot.left * mm, foot.low * mm, words)
        self.restoreState()

    def _structure(self, elements: list[tuple[str, str, int, int]], sheets: int) -> None:
        """The tree of titles, paragraphs and pictures (ISO 32000-1, 14.7)."""
        document = self._doc
        whole = PDFObjectReference("structure-document")
        kids = []
        on_sheet: dict[int, list[Any]] = {n: [] for n in range(1, sheets + 1)}
        for k, (role, words, n, mcid) in enumerate(elements):
            told = {
                "Type": PDFName("StructElem"),
                "S": PDFName(role),
                "P": whole,
                "Pg": PDFObjectReference(f"Page{n}"),
                "K": mcid,
            }
            if words:
                told["Alt" if role == "Figure" else "T"] = PDFString(words)
            reference = document.Reference(PDFDictionary(told), f"structure-{k}")
            kids.append(reference)
            on_sheet[n].append(reference)
        root = PDFObjectReference("structure-root")
        told = {"Type": PDFName("StructElem"), "S": PDFName("Document"), "P": root, "K": PDFArray(kids)}
        document.Reference(PDFDictionary(told), "structure-document")
        numbers = [part for n in range(1, sheets + 1) for part in (n - 1, PDFArray(on_sheet[n]))]
        parents = document.Reference(PDFDictionary({"Nums": PDFArray(numbers)}), "structure-parents")
        tree = {"Type": PDFName("StructTreeRoot"), "K": whole, "ParentTree": parents, "ParentTreeNextKey": sheets}
        made = PDFDictionary(tree)
        document.Reference(made, "structure-root")
        document.Catalog.StructTreeRoot = made
        document.Catalog.MarkInfo = PDFDictionary({"Marked": "true"})


def _stamp(made: datetime) -> Any:
    """A moment as reportlab wants it."""
    stamp = TimeStamp(invariant=1)
    offset = made.utcoffset()
    seconds = int(offset.total_seconds()) if offset is not None else 0
    stamp.t, stamp.lt = made.timestamp(), made.timetuple()
    stamp.YMDhms = tuple(made.timetuple())[:6]
    stamp.dhh, stamp.dmm = int(seconds / 3600), abs(seconds) // 60 % 60
    stamp.tzname = made.tzname() or "UTC"
    return stamp
