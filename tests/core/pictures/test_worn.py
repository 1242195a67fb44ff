"""The cover on its object, for every lawful pair."""

import numpy as np
import pytest

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.core.pictures.sketch import View, sketch
from omnipel.core.pictures.worn import COVER, worn
from omnipel.shop.starter import starter


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs())
def test_every_cover_can_be_seen_on_its_object(form: str, scheme: str) -> None:
    drafted = draft(starter(form, scheme))
    shell = worn(drafted.body, drafted.cover)
    assert 0 < len(shell.faces) <= 400
    named = {face.part.removeprefix(COVER).rpartition(":")[0] for face in shell.faces}
    assert named <= {panel.name for panel in drafted.panels}
    assert {drafted.cover.roles[role] for role in drafted.cover.roles} & named == named
    body = np.concatenate([face.points for face in drafted.body.mesh().faces])
    cover = np.concatenate([face.points for face in shell.faces])
    if drafted.cover.profile and form != "turned":  # no narrower than the object where it hangs
        assert np.ptp(cover[:, :2], axis=0).max() >= np.ptp(body[:, :2], axis=0).max() * 0.98
    apart = np.concatenate([face.points for face in worn(drafted.body, drafted.cover, apart=True).faces])
    assert np.ptp(apart, axis=0).max() >= np.ptp(cover, axis=0).max()
    assert sketch(drafted.body.mesh() + shell, View()).items
