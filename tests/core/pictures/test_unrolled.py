"""The cover taken apart: whole at one end, the flat panels at the other, and cloth keeps its lengths in between."""

import numpy as np
import pytest

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.unrolled import DRAWN_IN, Unrolling, taken_apart
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import cover_sheets
from omnipel.shop.starter import starter


def sides(ring: np.ndarray) -> np.ndarray:
    """The lengths of a ring's sides."""
    return np.linalg.norm(np.roll(ring, -1, axis=0) - ring, axis=1)


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_a_cover_unrolls_into_its_flat_panels(form: str, scheme: str) -> None:
    made = draft(starter(form, scheme))
    assert isinstance(made, Drafted)
    sheets = cover_sheets(made.cover, plain=True)
    rolls, view = [Unrolling(sheet) for sheet in sheets if sheet.flat], View()
    whole, flat = taken_apart(rolls, (), 0.0, view), taken_apart(rolls, (), 1.0, view)
    matrix = view.matrix()
    for sheet, sewn, laid in zip(sheets, whole.sheets, flat.sheets, strict=False):
        assert all(np.allclose(a, b) for a, b in zip(sheet.rings, sewn.rings, strict=True))
        screen = np.concatenate(laid.rings) @ matrix.T
        assert np.ptp(screen[:, 2]) < 1e-6 * made.cover.flat[sheet.name].length.value + 1e-6  # flat, and facing who looks
        for ring, own in zip(laid.rings, sheet.flat, strict=True):
            assert np.allclose(sides(ring), sides(own), atol=0.05)
    boxes = [np.concatenate(sheet.rings) @ matrix[:2].T for sheet in flat.sheets]
    for i, one in enumerate(boxes):  # none lies on another
        for other in boxes[i + 1 :]:
            assert (one.max(axis=0) <= other.min(axis=0)).any() or (other.max(axis=0) <= one.min(axis=0)).any()
    for roll, half in zip(rolls, taken_apart(rolls, (), 0.75, view).sheets, strict=True):
        if np.abs(roll.turned[1] - np.eye(2)).max() > DRAWN_IN:
            continue  # gathered cloth is let out on the way
        for ring, own in zip(half.rings, roll.sheet.flat, strict=True):
            assert np.allclose(sides(ring), sides(own), rtol=0.02, atol=0.5)
    assert drawn(taken_apart(rolls, (), 0.75, view), view).items
