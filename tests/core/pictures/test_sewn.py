"""The sewn cover as faces for a sketch, for every lawful pair."""

import numpy as np
import pytest

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import Drafted, draft
from omnipel.core.pictures.sewn import piece_of, shell, shown
from omnipel.core.pictures.sketch import View, sketch
from omnipel.shop.starter import starter


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_cover_can_be_seen_on_its_object(form: str, scheme: str) -> None:
    drafted = draft(starter(form, scheme))
    assert isinstance(drafted, Drafted)
    mesh = shell(drafted.cover)
    assert 0 < len(mesh.faces) <= 400
    assert {piece_of(face.part) for face in mesh.faces} == {piece.name for piece in shown(drafted.cover)}
    assert len({face.part for face in mesh.faces}) == len(mesh.faces)
    cover = np.concatenate([face.points for face in mesh.faces])
    body = np.concatenate([face.points for face in drafted.body.mesh().faces])
    assert np.ptp(cover[:, :2], axis=0).max() >= np.ptp(body[:, :2], axis=0).max() * 0.98
    apart = shell(drafted.cover, apart=True)
    assert len(apart.faces) == 2 * len(mesh.faces)
    assert np.ptp(np.concatenate([f.points for f in apart.faces]), axis=0).max() >= np.ptp(cover, axis=0).max()
    assert sketch(drafted.body.mesh() + mesh, View()).items
