"""Traced outlines from SVG files: the largest closed path, in millimetres.

The file is read with a parser that refuses external entities and expansion bombs before anything else sees it, and looked over before the
reader of shapes, which knows no limits, is let at it.
"""

import io
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Final
from xml.etree.ElementTree import Element, TreeBuilder, tostring

import numpy as np
import shapely

from omnipel.core.job.findings import Impossible
from omnipel.core.job.thing import Outline
from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import MOST_POINTS, SIMPLER, flattened, ring_of
from omnipel.core.words.phrases import Count, Name, Phrase, Refusal, mm, tr
from omnipel.shop.document import DocumentError
from omnipel.shop.whole import reason_of

LARGEST: Final = 8_000_000
"""Bytes of a file."""
DEEPEST: Final = 100
"""Groups within groups, and copies of copies."""
MOST_ELEMENTS: Final = 20_000
"""Every copy that a `use` makes counts."""
MOST_DATA: Final = 1_000_000
"""Letters of path data: some 60 000 points."""
LONGEST_S: Final = 20.0
MM_PER_PX: Final = 25.4 / 96.0
"""SVG's own unit, the px, is 1/96 inch."""
SVG_SPACE: Final = "http://www.w3.org/2000/svg"
LINK: Final = "{http://www.w3.org/1999/xlink}href"


class NoTracing(Refusal, ValueError):
    """A drawing that no outline can be taken from, and why."""


@dataclass(frozen=True, slots=True)
class Traced:
    """An outline that was read, and what there is to say about it."""

    outline: Outline
    notes: tuple[Phrase, ...] = ()


def read_svg_outline(path: Path, *, smoothing: float = 0.0) -> Traced:
    """The largest closed path of an SVG file as a traced outline, y up, mm, its lowest left corner at 0, 0.

    Raises:
        DocumentError: the file cannot be read, is no SVG, is larger than a tracing can be, or holds no outline; says what is wrong and where.
    """
    try:
        with open(path, "rb") as file:
            text = file.read(LARGEST + 1)
        size = max(len(text), path.stat().st_size)
    except (OSError, ValueError) as error:
        raise DocumentError(str(path), reason_of(error)) from None
    if len(text) > LARGEST:
        large = tr(
            "the file is {size} MB; a tracing takes no more than {most} MB", size=Count(size / 1e6), most=Count(LARGEST / 1e6)
        )
        raise DocumentError(path.name, large)
    until = time.monotonic() + LONGEST_S
    try:
        return _largest(_figures(_looked_over(text), until), smoothing, until)
    except NoTracing as fault:
        raise DocumentError(path.name, fault.phrase) from None


class _Sparing(TreeBuilder):
    """Builds the tree of a drawing as long as it is no deeper and larger than a tracing can be."""

    def __init__(self) -> None:
        super().__init__()
        self.depth = self.count = 0

    def start(self, tag: str, attrs: dict[str, str]) -> Element:
        """An element begins."""
        self.depth, self.count = self.depth + 1, self.count + 1
        made = super().start(tag, attrs)
        if self.depth > DEEPEST:
            raise NoTracing(tr("{element} lies {n} groups deep", element=Name(_name(made)), n=Count(self.depth)))
        if self.count > MOST_ELEMENTS:
            raise NoTracing(tr("the drawing has more than {n} parts; save the outline alone", n=Count(MOST_ELEMENTS)))
        return made

    def end(self, tag: str) -> Element:
        """An element ends."""
        self.depth -= 1
        return super().end(tag)


def _looked_over(text: bytes) -> Element:
    """The drawing's elements, once it is known that there are not too many.

    Raises:
        NoTracing: no SVG, or larger than a tracing can be.
    """
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import DefusedXMLParser, ParseError

    try:
        parser = DefusedXMLParser(target=_Sparing())
        parser.feed(text)
        root: Element = parser.close()
    except (ParseError, DefusedXmlException, ValueError, LookupError) as error:  # LookupError: an encoding that nobody knows
        if isinstance(error, NoTracing):
            raise
        raise NoTracing(tr("this is no SVG drawing: {fault}", fault=Name(" ".join(str(error).split())))) from None
    if root.tag not in ("svg", f"{{{SVG_SPACE}}}svg"):
        raise NoTracing(tr("this is no SVG drawing: it begins with {element}", element=Name(_name(root))))
    _count_copies(root)
    data = sum(len(e.get("d", "")) + len(e.get("points", "")) for e in root.iter())
    if data > MOST_DATA:
        raise NoTracing(
            tr("the paths are {n} letters long, more than {most}; save the outline alone", n=Count(data), most=Count(MOST_DATA))
        )
    return root


def _count_copies(root: Element) -> None:
    """Count what `use` would make of the drawing, without making it.

    Raises:
        NoTracing: copies of copies without end, or too many.
    """
    by_id = {element.get("id"): element for element in root.iter() if element.get("id")}
    counted: dict[Element, tuple[int, int]] = {}
    open_: set[Element] = set()

    def weight(element: Element, depth: int) -> tuple[int, int]:
        """How many parts, and how many letters of path data."""
        if element in open_:
            raise NoTracing(tr("{element} is a copy of itself", element=Name(_name(element))))
        if depth > DEEPEST:
            raise NoTracing(tr("{element} lies {n} groups deep", element=Name(_name(element)), n=Count(depth)))
        if element not in counted:
            open_.add(element)
            parts, data = 1, len(element.get("d", "")) + len(element.get("points", ""))
            inner = list(element)
            if _tag(element) == "use":
                target = by_id.get((element.get("href") or element.get(LINK) or "").removeprefix("#"))
                inner += [target] if target is not None else []
            for part in inner:
                more, longer = weight(part, depth + 1)
                parts, data = parts + more, data + longer
            open_.discard(element)
            counted[element] = parts, data
            if parts > MOST_ELEMENTS or data > MOST_DATA:
                raise NoTracing(
                    tr("{element} makes {n} copies; save the outline alone", element=Name(_name(element)), n=Count(parts))
                )
        return counted[element]

    weight(root, 0)


def _figures(root: Element, until: float) -> Iterator[tuple[str, Points]]:
    """Every figure of a drawing as the name of its element and its points, mm.

    Raises:
        NoTracing: an element cannot be read (says which), or it all takes too long.
    """
    from svgelements import SVG
    from svgelements import Path as SvgPath
    from svgelements import Shape as SvgShape

    try:
        drawing = SVG.parse(io.BytesIO(tostring(root)), reify=True)
    except Exception as error:  # the reader of shapes lets many kinds through; each means that an attribute is none
        raise NoTracing(_unreadable(_culprit(root, until), error)) from None
    for element in drawing.elements(lambda e: isinstance(e, SvgShape)):
        _in_time(until)
        name = f"<{type(element).__name__.lower()}>" + (f" “{element.id}”" if element.id else "")
        try:
            with np.errstate(all="ignore"):
                found = [flattened(part) * MM_PER_PX for part in SvgPath(element).as_subpaths()]
        except Exception as error:  # as above
            raise NoTracing(_unreadable(name, error)) from None
        for points in found:
            if len(points) >= 3:
                yield name, points


def _culprit(root: Element, until: float) -> str:
    """The name of the first element that cannot be read by itself."""
    from svgelements import SVG

    for element in root.iter():
        _in_time(until)
        alone = Element(root.tag, root.attrib if element is root else {})
        if element is not root:
            alone.append(Element(element.tag, element.attrib))
        try:
            SVG.parse(io.BytesIO(tostring(alone)), reify=True)
        except Exception:
            return _name(element)
    return _name(root)


def _unreadable(name: str, error: Exception) -> Phrase:
    words = " ".join(str(error).split())[:80] or type(error).__name__
    return tr("{element} cannot be read: {fault}", element=Name(name), fault=Name(words))


def _in_time(until: float) -> None:
    if time.monotonic() > until:
        raise NoTracing(tr("the drawing takes too long to read; save the outline alone"))


def _largest(figures: Iterator[tuple[str, Points]], smoothing: float, until: float) -> Traced:
    """The largest figure that can be drafted.

    Raises:
        NoTracing: there is none; says why the largest is none.
    """
    sized = []
    for name, points in figures:
        with np.errstate(all="ignore"):
            box = np.ptp(points, axis=0)
            sized.append((float(box[0] * box[1]) if np.isfinite(points).all() else -1.0, name, points))
    fault: Phrase | None = None
    for area, name, points in sorted(sized, key=lambda item: -item[0]):
        _in_time(until)
        if area <= 0.0:
            fault = fault or tr("{element} is no closed line of finite size", element=Name(name))
            continue
        try:
            return _outline(points - points.min(axis=0), smoothing)
        except Impossible as impossible:
            fault = fault or tr("{element}: {fault}", element=Name(name), fault=impossible.text)
    none = tr("the drawing holds no outline that could be drafted")
    raise NoTracing(tr("{none}: {fault}", none=none, fault=fault) if fault is not None else none)


def _outline(points: Points, smoothing: float) -> Traced:
    kept, notes = points, tuple[Phrase, ...]()
    if len(points) > MOST_POINTS:
        for off in SIMPLER[1:]:
            kept = shapely.get_coordinates(shapely.LineString(points).simplify(off))
            if len(kept) <= MOST_POINTS:
                break
        else:
            raise NoTracing(tr("{n} points are too rough for an outline", n=Count(len(points))))
        notes = (
            tr(
                "The tracing had {n} points; {kept} are kept, and none that was left out lies further than {off} off the line.",
                n=Count(len(points)),
                kept=Count(len(kept)),
                off=mm(off, fine=True),
            ),
        )
    made = Outline(points=tuple((round(float(x), 3), round(float(y), 3)) for x, y in kept), smoothing=smoothing)
    ring_of(made)
    return Traced(made, notes)


def _tag(element: Element) -> str:
    return str(element.tag).rpartition("}")[2]


def _name(element: Element) -> str:
    name = element.get("id")
    return f"<{_tag(element)}>" + (f" “{name[:40]}”" if name else "")
