"""A label of several rows whose numbers are never parted from their fraction or unit."""

from PySide6.QtWidgets import QLabel

from omnipel.core.words.typeset import held


class Wrapped(QLabel):
    """Says its words as they were given, and shows them held together."""

    def __init__(self, words: str = "") -> None:
        super().__init__()
        self.given = ""
        self.setWordWrap(True)
        self.setText(words)

    def setText(self, words: str) -> None:
        self.given = words
        super().setText(held(words))

    def text(self) -> str:
        return self.given
