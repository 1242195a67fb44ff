"""Lessons of a shop's jobs are worked out once for every document, follow what is undone, and what a person rules is kept."""

import json
from dataclasses import replace
from pathlib import Path

import pytest

from omnipel.core.job.document import Job
from omnipel.core.job.trying import Kin, Stage, TryOn, Went
from omnipel.core.learning.estimates import Line
from omnipel.shop import lessons
from omnipel.shop.demo import unpack
from omnipel.shop.kin import of_family, of_thing
from omnipel.shop.lessons import LEARNT, Ruled, known, learnt, lesson_of, ruled, ruled_text, tried
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter
from omnipel.shop.store import Store


def with_girth(short: float) -> Job:
    job = starter("drum", "wall-and-lid")
    return replace(
        job, tries=(TryOn(stage=Stage.FINISHED, day="2026-10-14", went=Went.RIGHT, made={"edge:lower edge": 1840.0 - short}),)
    )


def seam(store: Store) -> Line | None:
    return learnt(store, "test").lines.get("seam:canvas")


def test_what_is_learnt_follows_the_documents_as_they_stand(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        assert learnt(store, "test").lines == {}
        key = store.add(starter("drum", "wall-and-lid"))
        assert tried(store) == []
        store.commit(key, with_girth(6.0), "tried on")
        first = seam(store)
        assert first is not None
        assert first.now.mean > 0.3
        asked = tried(store)
        assert set(known(store, "test", asked)) == {key}
        assert known(store, "another", asked) == {}
        monkeypatch.setattr(lessons, "lesson_of", lambda _told: pytest.fail("it is kept"))
        assert seam(store) == first
        monkeypatch.undo()
        store.commit(key, with_girth(-6.0), "measured again")
        assert seam(store).now.mean < -0.3  # type: ignore[union-attr]
        store.undo(key)
        assert seam(store).now == first.now  # type: ignore[union-attr]
        store.undo(key)
        assert seam(store) is None
        store.redo(key)
        store.delete(key)
        assert seam(store) is None


def test_damaged_lessons_and_documents_are_left_out(tmp_path: Path) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        key, broken = store.add(with_girth(6.0)), store.add(with_girth(6.0))
        first = seam(store)
        for text in ("", "{", "[]", '{"told": 3}', json.dumps({"told": {"seam:canvas": [1]}, "checked": {}})):
            with store.writing():
                store.db.execute("UPDATE lessons SET lesson = ?", (text,))
            assert known(store, "test", tried(store)) == {}
            assert seam(store) == first
        with store.writing():
            store.db.execute("UPDATE revisions SET document = replace(document, '1834.0', '\"x\"') WHERE job = ?", (broken,))
        assert seam(store).n == 1  # type: ignore[union-attr]
        assert lesson_of(next(told for told in tried(store) if told.job == broken))[1].told == {}
        assert [told.job for told in tried(store)] == [key, broken]


def test_what_a_person_ruled_is_kept_and_damage_counts_as_nothing_said(tmp_path: Path) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        key = store.add(with_girth(6.0))
        said = Ruled().switched("seam:canvas", False).without("hem:canvas", [key, 99])
        store.set(LEARNT, ruled_text(said))
        assert ruled(store) == said
        assert learnt(store, "test").line("seam:canvas") is None
        store.set(LEARNT, ruled_text(said.switched("seam:canvas", True)))
        assert learnt(store, "test").line("seam:canvas") is not None
        store.set(LEARNT, ruled_text(Ruled().without("seam:canvas", [key])))
        assert seam(store) is None
        for damaged in ("", "{", "[1]", '{"off": 3}', '{"forgotten": {"a": ["x"]}}'):
            store.set(LEARNT, damaged)
            assert ruled(store) == Ruled()


def test_the_sample_shop_has_evidence_for_every_kind_of_line(tmp_path: Path) -> None:
    with unpack(tmp_path / "shop.sqlite") as store:
        lines = learnt(store, "test").lines
        kinds = {line.kind for line in lines.values() if line.n}
        assert {"seam", "hem", "tape", "quilt along", "quilt across", "cloth warp", "cloth weft", "clearance"} <= kinds
        canvas = lines["seam:canvas"]
        assert canvas.n >= 3
        assert canvas.now.range[0] < 0.8 < canvas.now.range[1]
        several = [job for card in store.cards() if len((job := store.job(card.id)).tries) >= 2]
        assert len(several) >= 5
        west = next(job for job in several if job.name == "West butt")
        assert [one.went for one in west.tries][:2] == [Went.NOT, Went.RIGHT]


def test_covers_of_one_thing_and_of_a_family_are_found(tmp_path: Path) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        job = SAMPLES[0]()
        keys = [
            store.add(replace(job, name=name, kin=kin))
            for name, kin in (("a", Kin(thing="t")), ("b", Kin(thing="t", family="f")), ("c", Kin(family="f")), ("d", Kin()))
        ]
        assert [found.name for found in of_thing(store, "t", keys[0])] == ["b"]
        assert [found.name for found in of_family(store, "f", -1)] == ["b", "c"]
        store.delete(keys[1])
        assert of_thing(store, "t", keys[0]) == ()
