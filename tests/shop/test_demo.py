"""The sample shop that comes ready is what the samples make, and the shelf of the demo needs nothing drafted."""

from pathlib import Path

from omnipel import __version__
from omnipel.shop.demo import unpack
from omnipel.shop.sample import fill
from omnipel.work.requests import Looked, stand_of


def test_it_is_what_the_samples_make_with_states_and_pictures_of_now(tmp_path: Path) -> None:
    with unpack(tmp_path / "ready.sqlite") as ready, fill(tmp_path / "made.sqlite") as made:
        cards = ready.cards(program=__version__)
        assert [card.name for card in cards] == [card.name for card in made.cards()], "make docs writes it anew"
        for card in cards:
            other = next(c for c in made.cards() if c.name == card.name)
            assert [r.reason for r in ready.history(card.id)[0]] == [r.reason for r in made.history(other.id)[0]]
            text, version = ready.text(card.id)
            assert (text, version) == made.text(other.id), "make docs writes it anew"
            kept = ready.kept(card, __version__)
            assert kept == stand_of(Looked(text, version, ready.mark(text))), f"{card.name}: make docs writes it anew"
