"""The cover taken apart: whole at one end, the flat panels at the other, and cloth keeps its lengths in between."""

import numpy as np
import pytest

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.pictures.seen import drawn
from omnipel.core.pictures.unrolled import DRAWN_IN, Unrolling, taken_apart
from omnipel.core.pictures.view import View
from omnipel.core.pictures.worn import cover_sheets
from omnipel.core.words import refs
from omnipel.shop.sample import SAMPLES
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


def test_what_hangs_goes_out_with_the_piece_it_hangs_on() -> None:
    made = draft(next(job for job in (sample() for sample in SAMPLES) if job.name == "Bottling trolley"))
    assert isinstance(made, Drafted)
    sheets = cover_sheets(made.cover, plain=True)
    rolls, hanging = [Unrolling(sheet) for sheet in sheets if sheet.flat], [sheet for sheet in sheets if not sheet.flat]
    hosts = {refs.feature(id_): lying.piece for id_, lying in made.cover.lying.items()}
    assert len(hanging) > 4
    assert {hosts[one.ref] for one in hanging if one.ref in hosts} == {"wall"}
    apart = taken_apart(rolls, hanging, 0.5, View(), hosts).sheets
    ways = {
        before.name: after.rings[0][0] - before.rings[0][0] for before, after in zip(sheets[: len(rolls)], apart, strict=False)
    }
    for before, after in zip(hanging, apart[len(rolls) :], strict=True):
        assert np.allclose(after.rings[0] - before.rings[0], ways["wall"])
    assert len(taken_apart(rolls, hanging, 0.9, View(), hosts).sheets) == len(rolls)
