"""A cover made again, or in several sizes."""

from __future__ import annotations

from omnipel.bench.commands.desk import Desk
from omnipel.bench.stations.fit.again import ask_again
from omnipel.bench.stations.fit.family import ask_family


def make_again(desk: Desk) -> None:
    """A new job from the open one, with what was learnt."""
    ask_again(desk.widget, desk.session)


def in_sizes(desk: Desk) -> None:
    """The open job in several sizes."""
    ask_family(desk.widget, desk.session)
