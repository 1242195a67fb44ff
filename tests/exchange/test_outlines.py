"""Traced outlines: from files, as paths, smoothed, and refused with the place."""

from pathlib import Path

import numpy as np
import pytest

from omnipel.cli import main
from omnipel.core.draft import draft
from omnipel.core.job.findings import Impossible
from omnipel.core.job.thing import Outline
from omnipel.core.plane.trace import corners_of, grown_ring, ring_of
from omnipel.core.words.phrases import Voice
from omnipel.exchange.reading.outlines import read_outline
from omnipel.shop.document import DocumentError, read, write
from omnipel.shop.starter import starter

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" width="400mm" height="300mm" viewBox="0 0 400 300">'


def test_the_largest_closed_path_is_taken_in_millimetres(tmp_path: Path) -> None:
    path = tmp_path / "side.svg"
    path.write_text(HEAD + '<rect x="10" y="10" width="20" height="20"/><path d="M50 250 H350 V100 Q200 20 50 100 Z"/></svg>')
    ring = ring_of(read_outline(path).outline)
    assert np.ptp(ring[:, 0]) == pytest.approx(300.0, abs=0.1)
    assert np.ptp(ring[:, 1]) == pytest.approx(190.0, abs=0.6)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("hello", "no SVG drawing"),
        (HEAD + "</svg>", "no outline"),
        (HEAD + '<path d="M0 0 L10 10"/></svg>', "no outline"),
        ('<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>' + HEAD + "<text>&b;</text></svg>", "no SVG drawing"),
    ],
)
def test_what_is_no_outline_is_said(text: str, words: str, tmp_path: Path) -> None:
    path = tmp_path / "bad.svg"
    path.write_text(text)
    with pytest.raises(DocumentError, match=words):
        read_outline(path)


def test_from_the_command_line_into_a_job(tmp_path: Path) -> None:
    file, drawing = tmp_path / "job.omnipel.json", tmp_path / "side.svg"
    write(starter("traced", "traced-ends"), file)
    drawing.write_text(HEAD + '<path d="M0 200 H300 V60 C280 20 20 20 0 60 Z"/></svg>')
    assert main(["outline", str(file), str(drawing)]) == 0
    assert draft(read(file)).panels
    assert main(["outline", str(file), str(tmp_path / "none.svg")]) == 2


def test_a_crossing_outline_is_refused_with_the_place() -> None:
    with pytest.raises(Impossible, match="crosses itself near") as caught:
        ring_of(Outline(points=((0, 0), (100, 100), (100, 0), (0, 100))))
    assert Voice().say(caught.value.text).endswith("near 50 mm across and 50 mm up")


def test_corners_are_kept_or_rounded_when_the_outline_grows() -> None:
    square = ring_of(Outline(points=((0, 0), (100, 0), (100, 100), (0, 100))))
    assert len(corners_of(square)) == 4
    assert np.ptp(grown_ring(square, 10.0, rounded=False), axis=0) == pytest.approx((120.0, 120.0))
    kept, rounded = (len(corners_of(grown_ring(square, 10.0, rounded=r))) for r in (False, True))
    assert (kept, rounded) == (4, 0)


def test_smoothing_takes_the_shake_out_and_leaves_corners_alone() -> None:
    rng = np.random.default_rng(3)
    x = np.linspace(0.0, 300.0, 120)
    top = np.column_stack((x[::-1], 200.0 + 30.0 * np.sin(x[::-1] / 60.0) + rng.normal(0.0, 0.8, len(x))))
    points = tuple(map(tuple, np.vstack(([(0.0, 0.0), (300.0, 0.0)], top)).tolist()))
    rough, smooth = ring_of(Outline(points=points)), ring_of(Outline(points=points, smoothing=0.8))
    walk = lambda ring: np.hypot(*np.diff(ring, axis=0).T).sum()  # noqa: E731
    assert walk(smooth) < walk(rough)
    for corner in ((0.0, 0.0), (300.0, 0.0)):
        assert np.hypot(*(smooth - smooth.min(axis=0) - corner).T).min() < 1.0
