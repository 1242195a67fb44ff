"""What the bench may ask of every station."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PySide6.QtWidgets import QWidget

from omnipel.core.words.phrases import Phrase
from omnipel.core.words.refs import Ref


class AtBench(QWidget):
    """A place of work along the bench."""

    def enter(self) -> None:
        """A person has come to it."""

    def refresh(self) -> None:
        """The job changed."""
        raise NotImplementedError

    def go_to(self, ref: Ref) -> None:
        """Show the place that a reference means."""
        raise NotImplementedError

    @property
    def walks(self) -> Sequence[QWidget]:
        """Its parts in the order in which Tab walks them, that of the work; none: as they were made."""
        return ()

    def field_words(self) -> Mapping[Ref, Phrase]:
        """What can be gone to here, by its reference, beside what has entries of its own in go-to."""
        return {}

    def decides(self) -> Mapping[Ref, QWidget]:
        """Its fields, by what they decide."""
        return {}

    def meant(self) -> Ref | None:
        """The place of the job that is looked at, where the focus is in no field."""
        return None

    def explains(self, ref: Ref) -> tuple[Phrase, ...]:
        """What only the station knows about a place of the job."""
        return ()
