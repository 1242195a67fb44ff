"""What is reached without looking for it: the menu with the jobs of late; a word when a long search has ended elsewhere."""

from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtWidgets import QMenu
from pytestqt.qtbot import QtBot
from tests.bench.conftest import at_rest, open_job, settle

from omnipel.bench import notices
from omnipel.bench.window.menu import RECENT, menu_of
from omnipel.bench.window.window import Window
from omnipel.core.words import refs
from omnipel.core.words.phrases import Name, tr


def inner(menu: QMenu, words: str) -> QMenu:
    (found,) = [one for one in menu.findChildren(QMenu) if one.title() == words]
    return found


def test_the_jobs_of_late_stand_in_the_menu_and_open_where_they_go_on(sample_window: Window) -> None:
    store = sample_window.session.store
    open_job(sample_window, "Barrow wheel", "object")
    sample_window.session.set(refs.of_job("notes"), "touched", tr("notes"))
    open_job(sample_window, "Fruit tub", "object")
    sample_window.session.set(refs.of_job("name"), "Fruit & co", tr("named"))
    open_job(sample_window, "Rain butt", "object")
    menu = menu_of(sample_window)
    recent = inner(menu, "Recent jobs")
    names = [action.text() for action in recent.actions()]
    assert names[:2] == ["Fruit && co", "Barrow wheel"]
    assert len(names) == RECENT < len(store.cards())
    assert "Rain butt" not in names
    recent.actions()[1].trigger()
    settle(sample_window)
    assert sample_window.session.open_job.name == "Barrow wheel"
    assert sample_window.here == "sew"  # it was begun
    menu.deleteLater()


def test_every_command_stands_in_the_menu_once_and_few_lines_at_once(sample_window: Window) -> None:
    menu = menu_of(sample_window)
    menus = (menu, *menu.findChildren(QMenu))
    recent = inner(menu, "Recent jobs")
    said = [
        action.text().split("\t")[0]
        for one in menus
        if one is not recent
        for action in one.actions()
        if not action.menu() and not action.isSeparator()
    ]
    tell = sample_window.session.tell
    assert sorted(said) == sorted(tell(c.inside) or tell(c.words) for c in sample_window.commands)
    assert len(set(said)) == len(said)  # within a group nothing is said of it once more, yet no two are called the same
    assert len(menu.actions()) <= 20
    groups = [action.text() for action in menu.actions() if action.menu()]
    assert groups == ["Recent jobs", "Stations", "This job", "Papers", "Files for other programs", "This shop", "Window"]
    menu.deleteLater()


def test_a_group_in_which_nothing_can_be_done_is_grey(
    sample_window: Window, open_window: Callable[..., Window], tmp_path: Path
) -> None:
    """On the shelf no station, no paper, no file; on an open job all of them."""
    needy = {"This job", "Papers", "Files for other programs"}
    for window, can in ((sample_window, True), (open_window(tmp_path / "empty.sqlite"), False)):
        if can:
            open_job(window, "Rain butt", "cover")
        menu = menu_of(window)
        assert {action.text() for action in menu.actions() if action.menu() and action.isEnabled()} >= (needy if can else set())
        assert {one for one in needy if inner(menu, one).isEnabled()} == (needy if can else set())
        assert inner(menu, "Window").isEnabled()
        menu.deleteLater()


def test_a_long_search_that_ends_while_one_is_elsewhere_is_told(
    sample_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    told = tmp_path / "told"
    program = tmp_path / "notify-send"
    program.write_text(f'#!/bin/sh\nprintf "%s\\n" "$@" >> {told}\n', encoding="utf-8")
    program.chmod(0o755)
    monkeypatch.setenv("PATH", f"{tmp_path}:/usr/bin:/bin")
    monkeypatch.setattr(notices, "LONG_S", 0.0)
    notices.watch(sample_window)
    open_job(sample_window, "Honey extractor", "cloth")
    at_rest(sample_window, qtbot)
    cloth = sample_window.session.cloth

    def searched() -> None:
        cloth.begin(cloth.current.lays["outer"], 0.5)  # type: ignore[union-attr]
        qtbot.waitUntil(lambda: cloth.search is None, timeout=60_000)

    sample_window.activateWindow()
    searched()
    assert not told.exists()  # whoever looks at it sees it
    monkeypatch.setattr(sample_window, "isActiveWindow", lambda: False)
    searched()
    qtbot.waitUntil(
        lambda: told.exists() and "Honey extractor: the lay is ready" in told.read_text(encoding="utf-8"), timeout=10_000
    )
    assert "Outer laid on" in told.read_text(encoding="utf-8")
    monkeypatch.setattr(notices, "LONG_S", 1e9)
    before = told.read_text(encoding="utf-8")
    searched()
    assert told.read_text(encoding="utf-8") == before  # a short one is waited for


def test_without_a_program_for_it_nothing_is_told_and_nothing_fails(
    sample_window: Window, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("PATH", "")
    notices.tell(sample_window, tr("{job}: the lay is ready", job=Name("Tub")), tr("done"))
