"""Outlines from DXF drawings: whatever they are made of, in whatever unit, and refused in one line."""

import io
import math
import random
from pathlib import Path

import ezdxf
import numpy as np
import pytest
import shapely
from tests.jobs import drum

from omnipel.cli import main
from omnipel.core.draft import Drafted, draft
from omnipel.core.drafting.cutline import cut_line
from omnipel.core.plane.trace import ring_of
from omnipel.core.words.phrases import Voice
from omnipel.exchange.files.dxf import R12, R2000, dxf
from omnipel.exchange.files.svg import svg
from omnipel.exchange.reading.outlines import read_outline
from omnipel.shop.document import DocumentError, read, write
from omnipel.shop.starter import starter

MM, INCH, METRE = 4, 1, 6
DRUM = draft(drum())
assert isinstance(DRUM, Drafted)


def saved(document: "ezdxf.document.Drawing", folder: Path) -> Path:
    document.saveas(folder / "side.dxf")
    return folder / "side.dxf"


@pytest.mark.parametrize("version", [R2000, R12])
@pytest.mark.parametrize("panel", DRUM.panels, ids=lambda p: p.name)
def test_what_is_written_is_read_back(panel, version: str, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    ring = cut_line(panel)
    for name, content in (("a.dxf", dxf(DRUM, Voice(), version, panel.name)), ("a.svg", svg(DRUM, Voice(), panel.name).encode())):
        (tmp_path / name).write_bytes(content)
        traced = read_outline(tmp_path / name)
        back = ring_of(traced.outline)
        assert np.ptp(back, axis=0) == pytest.approx(np.ptp(ring, axis=0), abs=0.02)
        assert shapely.Polygon(back).area == pytest.approx(shapely.Polygon(ring).area, rel=2e-4)
        assert bool(traced.notes) is (version == R12 and name == "a.dxf")


@pytest.mark.parametrize(("unit", "factor"), [(MM, 1.0), (INCH, 25.4), (METRE, 1000.0)])
def test_units_are_heeded_and_loose_ends_are_joined(unit: int, factor: float, tmp_path: Path) -> None:
    document = ezdxf.new("R2010", units=unit)
    space, u = document.modelspace(), 1.0 / factor
    # A door: three sides as single lines in no order, the head a half circle, and a smaller closed line beside it.
    space.add_line((400 * u, 0), (0, 0))
    space.add_arc((200 * u, 500 * u), 200 * u, 0.0, 180.0)
    space.add_line((0, 0), (0, 500 * u))
    space.add_line((400 * u, 500 * u), (400 * u, 0))
    space.add_lwpolyline([(600 * u, 0), (700 * u, 0), (700 * u, 90 * u)], close=True)
    ring = ring_of(read_outline(saved(document, tmp_path)).outline)
    assert np.ptp(ring, axis=0) == pytest.approx((400.0, 700.0), abs=0.02)
    assert shapely.Polygon(ring).area == pytest.approx(400.0 * 500.0 + math.pi * 200.0**2 / 2.0, rel=1e-4)


def test_curves_bulges_ellipses_and_blocks_within_blocks_are_read(tmp_path: Path) -> None:
    document = ezdxf.new("R2000", units=MM)
    inner = document.blocks.new("inner")
    inner.add_lwpolyline([(0, 0, 0), (300, 0, 0), (300, 100, 0.4), (0, 100, -0.2)], format="xyb", close=True)
    outer = document.blocks.new("outer")
    outer.add_blockref("inner", (10, 10), {"rotation": 90, "xscale": 2, "yscale": 2, "zscale": 2})
    document.modelspace().add_blockref("outer", (1000, -500))
    document.modelspace().add_ellipse((0, 0), (40, 0), 0.5)
    ring = ring_of(read_outline(saved(document, tmp_path)).outline)
    flat = shapely.Polygon([(0, 0), (300, 0), (300, 100), (0, 100)]).area
    segments = sum(sign * 0.5 * r * r * (angle - math.sin(angle)) for sign, r, angle in (bow(300, 0.4, 1.0), bow(100, 0.2, -1.0)))
    assert shapely.Polygon(ring).area == pytest.approx(4.0 * (flat + segments), rel=1e-3)
    space = (alone := ezdxf.new("R2000", units=MM)).modelspace()
    space.add_closed_spline([(0, 0), (200, -40), (260, 120), (80, 200), (-60, 90)], degree=3) if hasattr(
        space, "add_closed_spline"
    ) else space.add_spline([(0, 0), (200, -40), (260, 120), (80, 200), (-60, 90), (0, 0)])
    assert len(ring_of(read_outline(saved(alone, tmp_path)).outline)) > 40


def bow(chord: float, bulge: float, sign: float) -> tuple[float, float, float]:
    angle = 4.0 * math.atan(bulge)
    return sign, chord / 2.0 / math.sin(angle / 2.0), angle


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"AutoCAD Binary DXF\r\n\x1a\x00rest", "no DXF drawing"),
        (b"  0\nSECTION\n  2\nENTITIES\n  0\nENDSEC\n  0\nEOF\n", "no outline"),
        (b"999\nhello", "no"),
        (b"  0\nSECTION\n", "no"),
        (b"PK\x03\x04", "no SVG drawing"),
    ],
)
def test_what_is_no_drawing_is_refused_in_one_line(content: bytes, words: str, tmp_path: Path) -> None:
    path = tmp_path / "bad.dxf"
    path.write_bytes(content)
    with pytest.raises(DocumentError, match=words) as caught:
        read_outline(path)
    assert "\n" not in str(caught.value)


def test_a_block_that_holds_itself_and_endless_drawings_are_refused(tmp_path: Path) -> None:
    document = ezdxf.new("R2000", units=MM)
    for one, other in (("a", "b"), ("b", "a")):
        document.blocks.new(one).add_blockref(other, (1, 1))
    document.modelspace().add_blockref("a", (0, 0))
    with pytest.raises(DocumentError):
        read_outline(saved(document, tmp_path))
    many = ezdxf.new("R2000", units=MM)
    block = many.blocks.new("row")
    for k in range(200):
        block.add_line((k, 0), (k, 1))
    for k in range(200):
        many.modelspace().add_blockref("row", (0, k))
    with pytest.raises(DocumentError, match="parts"):
        read_outline(saved(many, tmp_path))


def test_spoilt_drawings_are_read_or_refused(tmp_path: Path) -> None:
    dice = random.Random(5)
    good = [dxf(DRUM, Voice(), version, panel.name) for version in (R2000, R12) for panel in DRUM.panels[:1]]
    path, read_ = tmp_path / "spoilt.dxf", 0
    for _ in range(60):
        content = bytearray(dice.choice(good))
        for _ in range(dice.randrange(1, 6)):
            at = dice.randrange(len(content))
            match dice.randrange(4):
                case 0:
                    del content[at : at + dice.choice((1, 3, 200))]
                case 1:
                    content[at:at] = dice.choice(
                        (b"\r\n", b"-1e308", b"nan", b" 0\r\nSECTION\r\n", b"\xff\xfe", b"70\r\n99999999\r\n")
                    )
                case 2:
                    content[at] = dice.randrange(256)
                case _:
                    content[at : at + 20] = content[:20]
        path.write_bytes(bytes(content))
        try:
            traced = read_outline(path)
        except DocumentError:
            continue
        assert np.isfinite(ring_of(traced.outline)).all()
        read_ += 1
    assert read_ > 5


def test_a_drawing_goes_into_a_job_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file, drawing = tmp_path / "job.omnipel.json", tmp_path / "side.dxf"
    write(starter("traced", "traced-ends"), file)
    document = ezdxf.new("R12")
    document.modelspace().add_polyline2d([(0, 0), (400, 0), (400, 250), (0, 250)], close=True)
    out = io.StringIO()
    document.write(out)
    drawing.write_text(out.getvalue())
    assert main(["outline", str(file), str(drawing)]) == 0
    assert "no unit" in capsys.readouterr().out
    made = draft(read(file))
    assert isinstance(made, Drafted)
    assert made.panels
