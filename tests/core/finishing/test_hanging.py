"""What hangs on a cover, and what stands out from it, in space."""

from typing import Any

import numpy as np
import pytest
from tests.core.finishing.putting import made, put

from omnipel.core.fit.sewn import sampled
from omnipel.shop.starter import starter

HANGS: dict[str, tuple[dict[str, Any], float, int]] = {
    "webbing handle": ({"caught": "stitched on", "pair": True, "rise": 50.0}, 120.0 + 2 * 50.0, 2),
    "strap": ({"caught": "stitched on", "ends": "nothing"}, 120.0, 1),
    "loop": ({"caught": "stitched on"}, 2 * 120.0 + 3.0, 1),
    "ties": ({"caught": "stitched on", "long": 300.0, "parts": 2.0}, 300.0, 4),
}


@pytest.mark.parametrize("kind", HANGS)
@pytest.mark.parametrize("caught", ["stitched on", "the seam above"])
@pytest.mark.parametrize(("form", "scheme"), [("box", "five-panels"), ("drum", "wall-and-lid")])
def test_what_hangs_on_a_cover_has_its_own_length_in_space_and_begins_on_the_cover(
    form: str, scheme: str, kind: str, caught: str
) -> None:
    own, long, count = HANGS[kind]
    own = {**own, "caught": caught} | ({"pair": False} if kind == "webbing handle" and caught != "stitched on" else {})
    job = put(kind, starter(form, scheme), own={k: v for k, v in own.items() if k != "pair" or v}, from_top=200.0, width=120.0)
    drafted = made(job)
    (feature,) = drafted.job.cover.features
    ribbons = drafted.cover.ribbons[feature.id]
    assert len(ribbons) == (1 if kind == "webbing handle" and caught != "stitched on" else count)
    piece = next(p for p in drafted.cover.pieces if p.name == drafted.cover.lying[feature.id].piece)
    cloth = piece.place.at(sampled(drafted.cover.flat[piece.name], 160))
    for ribbon in ribbons:
        assert ribbon.length == pytest.approx(long, rel=2e-3)
        assert np.linalg.norm(cloth - ribbon.line[0], axis=1).min() < (40.0 if kind == "webbing handle" else 12.0)
        gaps = drafted.body.occupied.gaps(ribbon.line)
        assert gaps.min() > 0.0  # outside of the object
        if kind in ("webbing handle", "loop"):
            assert gaps.max() > gaps[0] + 25.0  # it stands off
        if kind in ("strap", "ties"):
            assert ribbon.line[-1][2] < ribbon.line[0][2] - 0.9 * long  # it hangs down


def test_a_boxed_pocket_stands_out_by_its_depth_and_its_corners_meet() -> None:
    for caught_on in ("box", "drum"):
        scheme = "five-panels" if caught_on == "box" else "wall-and-lid"
        drafted = made(put("pocket", starter(caught_on, scheme), own={"depth": 40.0}, from_top=250.0, width=160.0, height=120.0))
        piece, panel = next((p, drafted.cover.flat[p.name]) for p in drafted.cover.pieces if p.name == "it")
        at = {e.name: piece.place.at(np.array([e.curve.start, e.curve.end])) for e in panel.edges}
        for side in ("right", "left"):
            up, out = at[f"{side} corner up"], at[f"{side} corner out"]
            assert np.linalg.norm(up - out[::-1], axis=1).max() < 0.05
        gaps = drafted.body.occupied.gaps(piece.place.at(sampled(panel, 20)))
        assert gaps.max() - gaps.min() == pytest.approx(40.0, abs=1.0 if caught_on == "box" else 15.0)
