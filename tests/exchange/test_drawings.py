"""Drawings and instructions for machines, read by other people's readers and measured: outlines within 0.01 mm, arcs still arcs."""

import io
import math
import zipfile
from collections.abc import Iterator
from functools import cache
from typing import Any

import dxfgrabber
import ezdxf
import numpy as np
import pytest
import shapely
import trimesh
from ezdxf.addons.hpgl2.tokenizer import hpgl2_commands
from ezdxf.lldxf.const import DXFError
from hypothesis import given
from svgelements import SVG, Arc, Shape
from svgelements import Path as SvgPath
from tests.wild import one_in, tried, wild_jobs

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.drafting.panel import Panel
from omnipel.core.job.document import Job
from omnipel.core.pictures.drawing import Path
from omnipel.core.pictures.pens import Layer
from omnipel.core.plane.curves import Points
from omnipel.core.words.phrases import Voice
from omnipel.exchange.files.dxf import LAYERS, R12, R2000, dxf
from omnipel.exchange.files.flat import NoSuchPart, flat, parts
from omnipel.exchange.files.hpgl import STEPS, hpgl
from omnipel.exchange.files.obj import obj, ply
from omnipel.exchange.files.routes import Route, Step, Tool, over_cut, points, route, routes, trailed
from omnipel.exchange.files.svg import each, svg
from omnipel.shop.machine import Machine
from omnipel.shop.sample import SAMPLES

NEAR = 0.01
"""What is read lies no further from what was drafted, mm."""
TRUE_SIZE = 25.4 / 96.0
"""What the reader of SVG files takes for a mm."""


@cache
def sample(name: str) -> Drafted:
    made = draft(next(job for job in (each() for each in SAMPLES) if job.name == name))
    assert isinstance(made, Drafted)
    return made


NAMES = [job.name for job in (each() for each in SAMPLES) if isinstance(draft(job), Drafted)]
SOME = NAMES[:: one_in(5)]


def apart(one: Points, other: Points) -> float:
    """How far two closed lines are apart at most."""
    a, b = shapely.LinearRing(one), shapely.LinearRing(other)
    return max(float(shapely.distance(b, shapely.points(one)).max()), float(shapely.distance(a, shapely.points(other)).max()))


def matched(read: list[Points], wanted: list[Points]) -> None:
    """Each outline that was wanted has been read once, where it lies."""
    assert len(read) == len(wanted)
    left = list(read)
    for ring in wanted:
        low, high = ring.min(axis=0), ring.max(axis=0)
        off = [np.abs(r.min(axis=0) - low).max() + np.abs(r.max(axis=0) - high).max() + abs(area(r) - area(ring)) for r in left]
        found = left.pop(int(np.argmin(off)))
        assert apart(found, ring) <= NEAR + 0.012  # what it is held against leaves the arc by the chord error itself
        assert area(found) == pytest.approx(area(ring), abs=NEAR * shapely.LinearRing(ring).length)


def area(ring: Points) -> float:
    return float(shapely.Polygon(ring).area)


def outlines(drafted: Drafted, of: str = "") -> list[Points]:
    whole = flat(drafted, Voice(), of)
    return [
        item.points
        for piece in whole.pieces
        for item in piece.drawing.items
        if isinstance(item, Path) and item.layer is Layer.CUT and item.closed
    ]


def discs(drafted: Drafted) -> list[tuple[Panel, float]]:
    """Panels of which nothing is cut but one circle, with its radius."""
    return [(p, p.sizes["cut radius"].value) for p in drafted.panels if "cut radius" in p.sizes and not p.figures]


def of_dxf(content: bytes) -> "ezdxf.document.Drawing":
    text = content.decode("utf-8", errors="surrogateescape").replace("\r\n", "\n")
    document = ezdxf.read(io.StringIO(text))
    assert not document.audit().errors
    return document


def closed_dxf(content: bytes) -> list[Points]:
    return [ring(e) for e in of_dxf(content).modelspace().query("LWPOLYLINE POLYLINE") if e.dxf.layer == "CUT" and e.is_closed]


def ring(polyline: Any) -> Points:
    """A closed polyline of another's reader as points; its own paths make curves of arcs, a tenth of a mm off."""
    first = next(iter(polyline.vertices() if polyline.dxftype() == "LWPOLYLINE" else polyline.points()))
    made = [(first[0], first[1])]
    for part in polyline.virtual_entities():
        if part.dxftype() == "ARC":
            here = [(p.x, p.y) for p in part.flattening(0.002)]
            made += here if math.dist(made[-1], here[0]) < math.dist(made[-1], here[-1]) else here[::-1]
        else:
            made += [(p.x, p.y) for p in (part.dxf.start, part.dxf.end)]
    points = np.array(made)
    return points[np.hypot(*(points - np.roll(points, 1, axis=0)).T) > 1e-7]


@pytest.mark.parametrize("version", [R2000, R12])
@pytest.mark.parametrize("name", SOME)
def test_a_dxf_file_holds_every_outline_in_its_layer_true_and_sound(name: str, version: str) -> None:
    drafted = sample(name)
    for of, _ in [part for part in parts(drafted) if not part[0] or ":" in part[0]]:
        content = dxf(drafted, Voice(), version, of)
        matched(closed_dxf(content), outlines(drafted, of))
        document = of_dxf(content)
        used = {e.dxf.layer for e in document.modelspace()}
        assert used <= {layer for layer, _ in LAYERS.values()}
        assert {"CUT", "TEXT"} <= used
        if version == R2000:
            assert document.units == 4  # mm
        grabbed = dxfgrabber.read(io.StringIO(content.decode("cp1252", errors="replace").replace("\r\n", "\n")))
        assert len(grabbed.entities) == len(document.modelspace())


@pytest.mark.parametrize("name", ["Rain butt", "Fruit tub", "Fermenting crock"])
def test_arcs_stay_arcs_in_dxf_and_svg(name: str) -> None:
    drafted = sample(name)
    assert discs(drafted)
    for panel, radius in discs(drafted):
        (bulged,) = [
            list(e.get_points("xyb"))
            for e in of_dxf(dxf(drafted, Voice(), R2000, panel.name)).modelspace().query("LWPOLYLINE")
            if e.dxf.layer == "CUT" and e.is_closed
        ]
        assert all(bulge for *_, bulge in bulged)
        assert math.fsum(4.0 * math.atan(bulge) for *_, bulge in bulged) == pytest.approx(2.0 * math.pi)
        chords = [math.dist(a[:2], b[:2]) for a, b in zip(bulged, [*bulged[1:], bulged[0]], strict=True)]
        for chord, (*_, bulge) in zip(chords, bulged, strict=True):
            assert chord * (1.0 + bulge * bulge) / (4.0 * bulge) == pytest.approx(radius, abs=1e-3)
        drawn = [part for part in paths(svg(drafted, Voice(), panel.name), "cut") if any(isinstance(s, Arc) for s in part)]
        largest = max(drawn, key=lambda part: float(part.length()))
        assert float(largest.length()) * TRUE_SIZE == pytest.approx(2.0 * math.pi * radius, abs=NEAR)
        assert all(float(s.rx) * TRUE_SIZE == pytest.approx(radius, abs=1e-3) for s in largest if isinstance(s, Arc))


def paths(text: str, layer: str) -> list[SvgPath]:
    drawing = SVG.parse(io.StringIO(text), reify=True)
    group = next(g for g in drawing.select(lambda e: getattr(e, "id", None) == layer))
    return [SvgPath(e) for e in group.select(lambda e: isinstance(e, Shape))]


def flattened(path: SvgPath) -> Points:
    made: list[tuple[float, float]] = []
    for segment in path:
        if isinstance(segment, Arc):
            made += [(p.x, p.y) for p in (segment.point(t) for t in np.linspace(0.0, 1.0, 400)[:-1])]
        elif segment.start is not None and segment.end is not None:
            made.append((segment.start.x, segment.start.y))
    return np.array(made) * TRUE_SIZE * (1.0, -1.0)


@pytest.mark.parametrize("name", SOME)
def test_an_svg_file_holds_every_outline_and_one_file_each_the_same(name: str) -> None:
    drafted = sample(name)
    for of in ("", "lay"):
        text = svg(drafted, Voice(), of)
        read = [flattened(p) for p in paths(text, "cut") if str(p.d()).rstrip().endswith("Z")]
        box = SVG.parse(io.StringIO(text)).viewbox
        corner = (float(box.x), -float(box.y))
        matched([ring + corner for ring in read], outlines(drafted, of))
    with zipfile.ZipFile(io.BytesIO(each(drafted, Voice()))) as archive:
        assert archive.testzip() is None
        assert len(archive.namelist()) == len(drafted.panels)
        for panel, entry in zip(drafted.panels, archive.namelist(), strict=True):
            assert archive.read(entry).decode() == svg(drafted, Voice(), panel.name)


def test_what_lies_on_a_cloth_is_cut_where_the_lay_has_it() -> None:
    from omnipel.core.cloth.lay import laid
    from omnipel.core.drafting.panel import Cloth

    drafted = sample("Platform scale")
    lay = laid(drafted, Cloth.OUTER)
    ground = lay.grounds[0]
    wanted = [lay.outline(placed) for placed in lay.on(ground)]
    whole = flat(drafted, Voice(), "lay:outer")
    rings = [
        next(i.points for i in piece.drawing.items if isinstance(i, Path) and i.layer is Layer.CUT) for piece in whole.pieces
    ]
    for ring, outline in zip(rings, wanted, strict=True):
        assert apart(ring, outline) < 1e-6
        assert shapely.LinearRing(ring).is_ccw
    x0, y0, x1, y1 = shapely.Polygon(whole.cloths[0]).bounds
    assert shapely.box(x0, y0, x1, y1).buffer(1e-6).contains(shapely.MultiPolygon([shapely.Polygon(r) for r in rings]))
    with pytest.raises(NoSuchPart, match="lay:outer"):
        flat(drafted, Voice(), "lay:lining")


# --- machines

PLAIN, FINE, DRAG = Machine(language="HPGL"), Machine(), Machine(knife_offset=0.25, over_cut=4.0)


def followed(content: bytes) -> Iterator[tuple[int, bool, Points]]:
    """What another's tokenizer makes of instructions, interpreted: for each line its pen, whether it is closed, its points, mm."""
    at, pen, down, line = (0.0, 0.0), 0, False, list[tuple[float, float]]()

    def done() -> Iterator[tuple[int, bool, Points]]:
        if len(line) > 1:
            yield pen, math.dist(line[0], line[-1]) < 2.0, np.array(line) / STEPS

    for command in hpgl2_commands(content):
        numbers = [] if command.name in ("LB", "PS") else [float(a) for a in command.args if a]
        if command.name in ("PU", "SP"):
            yield from done()
            line, down = [], False
            if command.name == "SP":
                pen = int(numbers[0])
        if command.name == "PD" and not down:
            down, line = True, [at]
        if command.name in ("PU", "PD") and numbers:
            for k in range(0, len(numbers), 2):
                at = numbers[k], numbers[k + 1]
                if down:
                    line.append(at)
        elif command.name == "AA":
            assert down
            x, y, sweep, chord = numbers
            radius, begin = math.dist((x, y), at), math.atan2(at[1] - y, at[0] - x)
            for k in range(1, (n := max(2, math.ceil(abs(sweep) / chord))) + 1):
                angle = begin + math.radians(sweep) * k / n
                line.append((x + radius * math.cos(angle), y + radius * math.sin(angle)))
            at = line[-1]


@pytest.mark.parametrize("name", SOME)
def test_a_plotter_draws_every_outline_where_it_is(name: str) -> None:
    drafted = sample(name)
    for machine, near in ((FINE, NEAR), (PLAIN, 1.5 / STEPS)):
        once = Machine(language=machine.language, over_cut=0.0, marks=False)
        for of in ("", "lay"):
            content = hpgl(drafted, Voice(), once, of)
            assert content.decode("ascii").startswith("IN;")
            whole = flat(drafted, Voice(), of)
            low = (0.0, 0.0) if whole.cloths else whole.bounds[:2]
            read = [line[:-1] + low for pen, closed, line in followed(content) if pen == Tool.KNIFE and closed]
            wanted = outlines(drafted, of)
            assert len(read) == len(wanted)
            for ring in wanted:
                found = min(read, key=lambda r: abs(area(r) - area(ring)) + float(np.abs(r.min(axis=0) - ring.min(axis=0)).sum()))
                assert apart(found, ring) <= near + 0.017


def test_pens_come_before_the_knife_and_openings_before_outlines() -> None:
    drafted = sample("Barrow wheel")
    pens = [int(c.args[0]) for c in hpgl2_commands(hpgl(drafted, Voice(), FINE)) if c.name == "SP"]
    assert pens == [Tool.PEN, Tool.KNIFE, 0]
    assert b"LB" not in hpgl(drafted, Voice(), Machine(marks=False))
    whole = flat(drafted, Voice())
    knife = routes(whole, Tool.KNIFE)
    by_piece = {piece.name: [line for line in knife if line.piece == piece.name] for piece in whole.pieces}
    assert any(len(lines) > 1 for lines in by_piece.values())
    for lines in by_piece.values():
        first = knife.index(lines[0])
        assert knife[first : first + len(lines)] == lines  # a piece is finished before the next
        assert not any(
            inside(later, earlier)
            for k, earlier in enumerate(lines)
            for later in lines[k + 1 :]
            if later.closed and earlier.closed
        )
    way = sum(math.dist(a.end, b.start) for a, b in zip(knife, knife[1:], strict=False))
    as_drawn = [route(i) for p in whole.pieces for i in p.drawing.items if isinstance(i, Path) and i.layer is Layer.CUT]
    assert way < sum(math.dist(a.end, b.start) for a, b in zip(as_drawn, as_drawn[1:], strict=False))


def inside(line: Route, other: Route) -> bool:
    return bool(shapely.Polygon(points(other)).contains(shapely.Polygon(points(line))))


SQUARE = Route((0.0, 0.0), (Step((100.0, 0.0)), Step((100.0, 60.0)), Step((0.0, 60.0)), Step((0.0, 0.0))), closed=True)
ROUND = Route((20.0, 0.0), (Step((-20.0, 0.0), math.pi), Step((20.0, 0.0), math.pi)), closed=True)


def blade(axis: Points, at: Points, offset: float) -> Points:
    """Where a blade goes that begins at a place and whose axis is led so: it is drawn after it like a wheel that trails."""
    made = [at]
    for here in axis[1:]:
        away = at - here
        at = here + away / np.hypot(*away) * offset
        made.append(at)
    return np.array(made)


@pytest.mark.parametrize("line", [SQUARE, ROUND, over_cut(SQUARE, 5.0)])
@pytest.mark.parametrize("offset", [0.25, 1.0, 3.0])
def test_a_blade_that_trails_cuts_the_line_itself(line: Route, offset: float) -> None:
    axis = shapely.get_coordinates(shapely.segmentize(shapely.LineString(points(trailed(line, offset), 1e-4)), offset / 60.0))
    cut, wanted = blade(axis, np.array(line.start), offset), shapely.LineString(points(line, 1e-4))
    assert float(shapely.distance(wanted, shapely.points(cut)).max()) < 0.02 * offset
    assert shapely.hausdorff_distance(shapely.LineString(cut), wanted) < 0.02 * offset


def test_an_over_cut_follows_a_closed_line_on_and_leaves_an_open_one_alone() -> None:
    assert over_cut(SQUARE, 30.0).length == pytest.approx(SQUARE.length + 30.0)
    assert over_cut(SQUARE, 130.0).end == pytest.approx((100.0, 30.0))
    assert over_cut(ROUND, 20.0 * math.pi / 2.0).end == pytest.approx((0.0, 20.0))
    assert over_cut(ROUND, 1e9).length == pytest.approx(2.0 * ROUND.length)
    open_ = Route((0.0, 0.0), (Step((10.0, 0.0)),))
    assert over_cut(open_, 5.0) is open_
    assert SQUARE.from_(2).length == pytest.approx(SQUARE.length)
    assert SQUARE.backwards().backwards() == SQUARE
    with pytest.raises(ValueError, match="between"):
        Machine(knife_offset=-1.0)


# --- in space


@pytest.mark.parametrize("name", SOME)
def test_models_hold_the_cloth_that_was_drafted(name: str) -> None:
    drafted = sample(name)
    cloth = math.fsum(area(drafted.cover.flat[piece.name].sew_points) for piece in drafted.cover.pieces)
    one = trimesh.load(io.BytesIO(obj(drafted).encode()), file_type="obj", process=False, split_object=True, group_material=False)
    text = ply(drafted)
    other = trimesh.load(io.BytesIO(text.encode()), file_type="ply", process=False)
    whole = trimesh.load(io.BytesIO(obj(drafted).encode()), file_type="obj", process=False, force="mesh")
    assert other.area == pytest.approx(whole.area, rel=1e-9)
    assert other.bounds == pytest.approx(whole.bounds, abs=1e-9)
    named = {line.split()[3] for line in text.splitlines() if line.startswith("comment group")}
    assert sum(group.startswith("cover/") for group in named) >= len(drafted.cover.pieces)
    assert any(group.startswith("object/") for group in named)
    assert cloth > 0.0
    assert len(one.geometry) >= 1 if hasattr(one, "geometry") else True


# --- whatever is drafted


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs()[:: one_in(6)])
def test_every_wild_cover_can_be_cut_by_a_machine(form: str, scheme: str) -> None:
    @tried(16)
    @given(wild_jobs(form, scheme))
    def run(job: Job) -> None:
        drafted = draft(job)
        if not isinstance(drafted, Drafted) or not drafted.panels:
            return
        try:
            matched(closed_dxf(dxf(drafted, Voice())), outlines(drafted))
        except DXFError as error:  # pragma: no cover
            raise AssertionError(f"{form} {scheme}: {error}") from error
        read = [line for pen, closed, line in followed(hpgl(drafted, Voice(), Machine(marks=False, over_cut=0.0))) if closed]
        assert len(read) == len(outlines(drafted))

    run()


def test_rings_of_drafts_are_what_they_were() -> None:
    """Every panel of the samples drawn from its own arcs again is the cut line, point for point as near as its chords."""
    for name in NAMES:
        for panel in sample(name).panels:
            ring = cut_line(panel)
            way = route(Path(ring, Layer.CUT, closed=True))
            assert apart(points(way)[:-1], ring) < 0.02, (name, panel.name)
