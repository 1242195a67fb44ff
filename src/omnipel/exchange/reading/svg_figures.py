"""The figures of an SVG drawing.

It is read with a parser that refuses external entities and expansion bombs before anything else sees it, and looked over before the reader
of shapes, which knows no limits, is let at it.
"""

import io
from collections.abc import Iterator
from typing import Final
from xml.etree.ElementTree import Element, TreeBuilder, tostring

import numpy as np

from omnipel.core.plane.curves import Points
from omnipel.core.plane.trace import flattened
from omnipel.core.words.phrases import Count, Name, Phrase, tr
from omnipel.exchange.reading.limits import DEEPEST, MOST_DATA, MOST_ELEMENTS, NoTracing, in_time

MM_PER_PX: Final = 25.4 / 96.0
"""SVG's own unit, the px, is 1/96 inch."""
SVG_SPACE: Final = "http://www.w3.org/2000/svg"
LINK: Final = "{http://www.w3.org/1999/xlink}href"


def svg_figures(text: bytes, until: float) -> Iterator[tuple[str, Points]]:
    """Every figure of a drawing as the name of its element and its points, mm.

    Raises:
        NoTracing: this is no SVG drawing, it is larger than a tracing can be, an element cannot be read (says which), or it all takes too long.
    """
    return _figures(_looked_over(text), until)


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
        in_time(until)
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
        in_time(until)
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


def _tag(element: Element) -> str:
    return str(element.tag).rpartition("}")[2]


def _name(element: Element) -> str:
    name = element.get("id")
    return f"<{_tag(element)}>" + (f" “{name[:40]}”" if name else "")
