"""Whatever is called a shop: opened, refused without a trace, or only looked at."""

import contextlib
import gzip
import json
import os
import shutil
import sqlite3
import tempfile
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from tests.jobs import drum
from tests.shop.powerless import look, run_powerless

from omnipel.core.pictures.pens import KEPT
from omnipel.core.words.phrases import NOTHING
from omnipel.shop.demo import unpack
from omnipel.shop.document import DocumentError
from omnipel.shop.opening import StoreError
from omnipel.shop.sample import SAMPLES
from omnipel.shop.store import Kept, Store


def tracks(folder: Path) -> dict[str, bytes]:
    """Every file of a folder with its content."""
    return {path.name: path.read_bytes() for path in folder.iterdir()}


def foreign(path: Path, kind: str) -> None:
    """Something that is no shop."""
    if kind == "words":
        path.write_text("this is no database, it is only words " * 40)
        return
    with contextlib.closing(sqlite3.connect(path)) as made:
        if kind == "marked by others":
            made.execute("PRAGMA application_id = 77")
        made.execute("CREATE TABLE jobs (id INTEGER)" if kind == "a like name" else "CREATE TABLE recipes (id INTEGER)")
        made.execute("PRAGMA user_version = 2")
        made.commit()


@pytest.mark.parametrize("kind", ["words", "marked by others", "somebody else's", "a like name"])
def test_a_database_that_is_not_ours_is_refused_and_nothing_is_touched(kind: str, tmp_path: Path) -> None:
    foreign(tmp_path / "other.db", kind)
    before = tracks(tmp_path)
    with pytest.raises(StoreError, match="no shop of Omnipel"):
        Store(tmp_path / "other.db")
    assert tracks(tmp_path) == before


def test_a_shop_may_be_called_lock_and_a_file_in_the_way_of_its_lock_is_not_emptied(tmp_path: Path) -> None:
    path = tmp_path / "x.lock"
    with Store(path) as store:
        store.add(drum())
    with Store(path) as store:
        assert len(store.cards()) == 1
    other = tmp_path / "x"
    with Store(other) as store:  # its lock is the first shop
        assert store.writable
        store.add(drum())
    with Store(path) as store:
        assert len(store.cards()) == 1


def test_two_names_of_one_shop_are_one_shop(tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    (tmp_path / "link.sqlite").symlink_to(path)
    (tmp_path / "elsewhere").mkdir()
    (tmp_path / "elsewhere" / "deep.sqlite").symlink_to(tmp_path / "link.sqlite")
    with Store(path) as first:
        key = first.add(drum())
        with Store(tmp_path / "elsewhere" / "deep.sqlite") as second:
            assert first.writable
            assert not second.writable
            assert second.unwritable == NOTHING
            assert second.job(key) == drum()
    os.link(path, tmp_path / "hard.sqlite")
    with Store(tmp_path / "hard.sqlite") as third:
        assert not third.writable
        assert "two names" in str(third.unwritable)


@pytest.fixture
def medium() -> Iterator[Path]:
    """A folder that others can look into."""
    folder = Path(tempfile.mkdtemp(prefix="omnipel-test-"))
    folder.chmod(0o755)
    yield folder
    folder.chmod(0o755)
    shutil.rmtree(folder)


@pytest.mark.parametrize("merged", [True, False])
def test_on_a_medium_that_takes_nothing_every_revision_is_seen(medium: Path, merged: bool) -> None:
    path, copy = medium / "shop.sqlite", medium / "ro" / "shop.sqlite"
    copy.parent.mkdir(mode=0o755)
    store = Store(path)
    key = store.add(replace(drum(), notes="0"))
    for i in range(1, 6):
        store.commit(key, replace(drum(), notes=str(i)), "edit")
    if merged:
        store.close()
    for extra in ("", "-wal"):  # as a stick that was pulled out has it
        if Path(f"{path}{extra}").exists():
            shutil.copyfile(f"{path}{extra}", f"{copy}{extra}")
            os.chmod(f"{copy}{extra}", 0o444)
    store.close()
    assert Path(f"{copy}-wal").exists() is not merged
    copy.parent.chmod(0o555)
    before = tracks(copy.parent)
    assert run_powerless(look, copy) == "False 5 6"
    assert tracks(copy.parent) == before
    copy.parent.chmod(0o755)


def test_a_shop_of_an_earlier_omnipel_on_such_a_medium_is_looked_at_all_the_same(medium: Path) -> None:
    path = medium / "old.db"
    path.write_bytes(gzip.decompress((Path(__file__).parent / "data" / "shop-v2.db.gz").read_bytes()))
    path.chmod(0o444)
    medium.chmod(0o555)
    assert run_powerless(look, path).startswith("False ")


SPOILT = {
    "a renamed key": lambda text: text.replace('"seam_allowance"', '"seam_alowance"'),
    "no JSON": lambda text: text[:-30],
    "a list": lambda text: "[]",
    "nothing": lambda text: "",
    "deep": lambda text: "[" * 50_000,
    "not text": lambda text: text.replace("Rain butt", "\udc80\udc81").encode("utf-8", "surrogatepass"),
}


@pytest.mark.parametrize("kind", SPOILT)
def test_one_bad_document_is_one_job_that_says_so(kind: str, tmp_path: Path) -> None:
    path = tmp_path / "shop.sqlite"
    with unpack(path) as store:
        bad = next(card for card in store.cards() if card.name == "Rain butt")
        good = store.job(bad.id)
        store.commit(bad.id, replace(good, notes="more"), "edit")
        text, last = store.text(bad.id)[0], store.history(bad.id)[1]
        spoilt = SPOILT[kind](text)
        assert spoilt != text
        store.db.execute("UPDATE revisions SET document = ? WHERE job = ? AND number = ?", (spoilt, bad.id, last))
    with Store(path) as store:
        assert len(store.cards()) == len(SAMPLES)
        if kind == "not text":
            with pytest.raises((DocumentError, StoreError)):
                store.job(bad.id)
        else:
            with pytest.raises(DocumentError):
                store.job(bad.id)
        assert store.last_readable(bad.id) == last - 1
        assert store.go_to(bad.id, last - 1) == good


def test_a_document_of_a_newer_format_and_a_revision_that_is_gone_are_said(tmp_path: Path) -> None:
    with unpack(tmp_path / "shop.sqlite") as store:
        newer, gone = store.cards()[0].id, store.cards()[1].id
        store.db.execute("UPDATE revisions SET format = 99 WHERE job = ?", (newer,))
        store.db.execute("DELETE FROM revisions WHERE job = ?", (gone,))
        with pytest.raises(DocumentError, match="newer than this program"):
            store.job(newer)
        with pytest.raises(KeyError):
            store.job(gone)
        assert [card.broken for card in store.cards()[:3]] == [False, True, False]


def test_what_is_kept_of_a_job_counts_for_its_revision_and_program_only(tmp_path: Path) -> None:
    with unpack(tmp_path / "shop.sqlite") as store:
        card = store.cards()[0]
        kept = Kept("look", "Look at: it", KEPT, store.mark(store.text(card.id)[0]))
        store.keep("1", [(card.id, card.revision, kept)])
        assert store.cards(program="1")[0].state == "look"
        assert store.kept(card, "1") == kept
        assert store.cards(program="2")[0].state == ""
        assert store.kept(card, "2") is None
        store.undo(card.id)
        assert store.cards(program="1")[0].state == ""
        store.redo(card.id)
        assert store.cards(program="1")[0].state == "look"
        store.db.execute("UPDATE revisions SET document = document || ' ' WHERE job = ? AND number = ?", (card.id, card.revision))
        assert store.kept(card, "1") is None


def test_settings_go_with_a_revision_or_not_at_all(tmp_path: Path) -> None:
    with Store(tmp_path / "shop.sqlite") as store:
        key = store.add(drum())
        store.commit(key, replace(drum(), notes="1"), "reading", {"tape taken": "7"})
        store.db.execute("PRAGMA query_only = ON")
        with pytest.raises(StoreError):
            store.commit(key, replace(drum(), notes="2"), "reading", {"tape taken": "8"})
        store.db.execute("PRAGMA query_only = OFF")
        assert (store.setting("tape taken", ""), store.job(key).notes) == ("7", "1")
        store.db.execute("UPDATE settings SET value = 'damaged'")
        assert store.setting("tape taken", "none") == "none"
        assert json.loads(store.text(key)[0])["notes"] == "1"
