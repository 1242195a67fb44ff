"""The store: every edit is kept, undo survives a restart, a killed process loses nothing."""

import contextlib
import gzip
import multiprocessing
import os
import signal
import sqlite3
import time
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.jobs import drum
from tests.shop.writer import bring_up_to_date, edit_for_ever

from omnipel.shop.demo import unpack
from omnipel.shop.opening import APPLICATION_ID, MIGRATIONS, SCHEMA_VERSION, StoreError
from omnipel.shop.store import Store


def test_undo_and_redo_survive_a_restart(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with Store(path) as store:
        key = store.add(drum())
        for i in range(5):
            store.commit(key, replace(drum(), notes=str(i)), f"note {i}")
        assert store.undo(key).notes == "3"  # type: ignore[union-attr]
    with Store(path) as store:
        assert store.job(key).notes == "3"
        assert store.undo(key).notes == "2"  # type: ignore[union-attr]
        assert store.redo(key).notes == "3"  # type: ignore[union-attr]
        assert store.redo(key).notes == "4"  # type: ignore[union-attr]
        assert store.redo(key) is None
        revisions, position = store.history(key)
        assert [r.reason for r in revisions] == ["new job", *(f"note {i}" for i in range(5))]
        assert position == 6


@settings(max_examples=40, deadline=None)
@given(st.lists(st.sampled_from(["edit", "undo", "redo"]), max_size=25))
def test_any_walk_of_edits_and_undos_agrees_with_a_list(tmp_path_factory: pytest.TempPathFactory, steps: list[str]) -> None:
    with Store(tmp_path_factory.mktemp("shop") / "shop.sqlite") as store:
        key = store.add(replace(drum(), notes="0"))
        line, here = ["0"], 0
        for i, step in enumerate(steps, 1):
            if step == "edit":
                store.commit(key, replace(drum(), notes=str(i)), "edit")
                line = [*line[: here + 1], str(i)]
                here += 1
            elif step == "undo":
                store.undo(key)
                here = max(0, here - 1)
            else:
                store.redo(key)
                here = min(len(line) - 1, here + 1)
            assert store.job(key).notes == line[here]


def test_killed_at_any_moment_the_last_committed_edit_is_there(tmp_path: Path) -> None:
    """Forty writers are killed after different numbers of edits; what they told as kept is kept."""
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["tests.shop.writer"])
    told_in_all = 0
    for round_ in range(40):
        path = tmp_path / f"shop{round_}.sqlite"
        hear, tell = context.Pipe(duplex=False)
        child = context.Process(target=edit_for_ever, args=(path, tell))
        child.start()
        tell.close()
        told = 0
        for _ in range(1 + round_ % 7):
            told = hear.recv()
        os.kill(child.pid or 0, signal.SIGKILL)
        child.join()
        with contextlib.suppress(EOFError):  # what was in the pipe already was told before the kill
            while True:
                told = hear.recv()
        hear.close()
        child.close()
        told_in_all += told
        with Store(path) as store:
            (card,) = store.cards()
            assert int(store.job(card.id).notes.split()[1]) in (told, told + 1)
            assert store.db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
            assert store.undo(card.id) is not None
    assert told_in_all >= 40


def test_killed_while_an_old_shop_is_brought_up_to_date_it_is_all_there(tmp_path: Path) -> None:
    """Processes are killed at moments spread over the whole migration; then it is opened, and again what it was."""
    old = gzip.decompress((Path(__file__).parent / "data" / "shop-v2.db.gz").read_bytes())
    path = tmp_path / "shop.db"
    path.write_bytes(old)
    with contextlib.closing(sqlite3.connect(path)) as grown:  # large enough that a kill falls into it
        for _ in range(6):
            most = grown.execute("SELECT max(number) FROM revisions").fetchone()[0]
            grown.execute(f"INSERT INTO revisions SELECT job, number + {most}, document, reason, made FROM revisions")
        grown.commit()
        before = grown.execute("SELECT job, number, document, reason, made FROM revisions ORDER BY job, number").fetchall()
    large = path.read_bytes()
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload(["tests.shop.writer"])
    whole, halfway = 0.0, 0
    for round_ in range(29):
        for left in tmp_path.iterdir():
            left.unlink()
        path.write_bytes(large)
        hear, tell = context.Pipe(duplex=False)
        child = context.Process(target=bring_up_to_date, args=(path, tell))
        child.start()
        tell.close()
        assert hear.recv() == "begins"
        start = time.monotonic()
        done = hear.poll(whole * round_ / 28 if round_ else 60.0)
        if round_ == 0:
            whole = time.monotonic() - start
        with contextlib.suppress(ProcessLookupError):  # it may be done, and gone
            os.kill(child.pid or 0, signal.SIGKILL)
        child.join()
        hear.close()
        child.close()
        halfway += not done
        with Store(path) as store:
            after = store.db.execute("SELECT job, number, document, reason, made FROM revisions ORDER BY job, number").fetchall()
            assert after == before
            assert store.db.execute("PRAGMA integrity_check").fetchone() == ("ok",)
            assert store.db.execute("SELECT count(*) FROM revisions WHERE form = ''").fetchone() == (0,)
            assert len(store.cards()) == 20
        with contextlib.closing(sqlite3.connect(f"{path}.v2.backup")) as kept:
            assert (
                kept.execute("SELECT job, number, document, reason, made FROM revisions ORDER BY job, number").fetchall()
                == before
            )
    assert halfway >= 3


def test_a_second_window_may_look_but_not_write(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with unpack(path) as first, Store(path) as second:
        assert first.writable
        assert not second.writable
        assert len(second.cards()) == len(first.cards())
        with pytest.raises(StoreError, match="another window"):
            second.add(drum())
    with Store(path) as third:
        assert third.writable


def test_an_old_shop_is_brought_up_to_date_with_a_copy_first(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with Store(path) as store:
        key = store.add(drum())
        text = store.db.execute("SELECT document FROM revisions").fetchone()[0]
    path.unlink()
    old = sqlite3.connect(path)
    old.executescript(MIGRATIONS[1])
    old.execute("INSERT INTO jobs VALUES (?, 1, '2020-01-01T00:00:00', 0)", (key,))
    old.execute("INSERT INTO revisions VALUES (?, 1, ?, 'new job', '2020-01-01T00:00:00')", (key, text))
    old.execute("PRAGMA user_version = 1")
    old.commit()
    old.close()
    with Store(path) as store:
        assert store.job(key) == drum()
        assert store.db.execute("PRAGMA user_version").fetchone()[0] == SCHEMA_VERSION
    assert Path(f"{path}.v1.backup").exists()


def test_a_newer_shop_and_a_file_that_is_none_are_refused(tmp_path: Path) -> None:
    newer, none = tmp_path / "newer.sqlite", tmp_path / "none.sqlite"
    made = sqlite3.connect(newer)
    made.execute("PRAGMA user_version = 99")
    made.execute(f"PRAGMA application_id = {APPLICATION_ID}")
    made.close()
    none.write_text("this is no database, it is only words " * 40)
    before = none.read_text()
    for path, words in ((newer, "newer Omnipel"), (none, "no shop of Omnipel")):
        with pytest.raises(StoreError, match=words):
            Store(path)
    assert none.read_text() == before


def test_archive_delete_and_back(tmp_path: Path) -> None:
    with unpack(tmp_path / "shop.sqlite") as store:
        key = store.cards()[0].id
        count = len(store.cards())
        store.archive(key)
        assert key not in [card.id for card in store.cards()]
        assert key in [card.id for card in store.cards(archived=True)]
        store.archive(key, False)
        store.delete(key)
        assert len(store.cards(archived=True)) == count - 1
        store.delete(key, False)
        assert len(store.cards()) == count


@pytest.mark.parametrize("version", [1, 2])
def test_a_shop_of_0_1_0_opens_with_all_its_jobs_and_their_revisions(tmp_path: Path, version: int) -> None:
    path = tmp_path / "shop.db"
    path.write_bytes(gzip.decompress((Path(__file__).parent / "data" / f"shop-v{version}.db.gz").read_bytes()))
    with Store(path) as store:
        cards = store.cards()
        assert len(cards) == 20
        for card in cards:
            things, features = store.job(card.id).thing.sticks_out, store.job(card.id).cover.features
            assert all(thing.id for thing in things)
            assert len({feature.id for feature in features}) == len(features)
            revisions, position = store.history(card.id)
            assert position in [revision.number for revision in revisions]
        key = cards[0].id
        redone = store.redo(key)
        assert (redone is None) == (version == 2)  # the one that was undone there is still there
        store.commit(key, store.job(key), "as it is")
    with Store(path) as store:
        assert len(store.cards()) == 20
