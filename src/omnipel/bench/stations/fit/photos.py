"""Photos of a try-on, or of a line of the logbook: small in a row, large when clicked; brought in from files, taken away."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QIcon, QImage, QPixmap
from PySide6.QtWidgets import QFileDialog, QLabel, QPushButton, QWidget

from omnipel.bench.parts.asking import sized
from omnipel.bench.parts.dialog import Dialog
from omnipel.bench.parts.flow import Flow
from omnipel.bench.parts.look import LOOK
from omnipel.bench.parts.widgets import button, column, emptied, label, row
from omnipel.bench.session import Session
from omnipel.bench.speech import say
from omnipel.core.job.trying import MOST_PHOTOS, Photo
from omnipel.core.words.phrases import Count, Name, Phrase, tr
from omnipel.shop.opening import StoreError
from omnipel.shop.photos import PhotoError, keep, photo, read_photo

SMALL = 52
"""Height of a photo in the row, px."""


class PhotoRow(QWidget):
    """Photos in a row; what is changed is handed on."""

    def __init__(
        self, session: Session, changed: Callable[[tuple[Photo, ...], Phrase], object], parent: QWidget | None = None
    ) -> None:
        super().__init__(parent)
        self.session, self.changed = session, changed
        self.photos: tuple[Photo, ...] = ()
        self.flow = Flow(gap=6)
        self.setLayout(self.flow)
        self.shown: object = None
        self.buttons: list[QPushButton] = []

    def refresh(self, photos: tuple[Photo, ...]) -> None:
        """Show other photos."""
        self.photos = photos
        if photos == self.shown:
            return
        self.shown = photos
        emptied(self.flow)
        self.buttons = []
        for k, one in enumerate(photos, 1):
            made = button(tr("photo {n}", n=Count(k)), partial(self._look, one), "quiet")
            content = photo(self.session.store, one.digest)
            image = QImage.fromData(content) if content is not None else QImage()
            if not image.isNull():
                high = LOOK.px(SMALL)
                made.setIcon(QIcon(QPixmap.fromImage(image.scaledToHeight(high, Qt.TransformationMode.SmoothTransformation))))
                made.setIconSize(QSize(round(high * image.width() / max(1, image.height())), high))
                made.setText("")
            else:
                made.setText(say(tr("photo {n} is not there", n=Count(k))))
            if one.words:
                made.setToolTip(one.words)
            self.buttons.append(made)
            self.flow.addWidget(made)
        self.setVisible(bool(photos))

    def ask(self) -> None:
        """Bring in photos from files."""
        names, _ = QFileDialog.getOpenFileNames(self, say(tr("Photos")), "", say(tr("Pictures (*.jpg *.jpeg *.png)")))
        self.bring([Path(name) for name in names])

    def bring(self, paths: list[Path]) -> None:
        """Keep photos; what is none is said."""
        new: list[Photo] = []
        for path in paths:
            if len(self.photos) + len(new) >= MOST_PHOTOS:
                self.session.say("look", tr("No more than {n} photos are kept here.", n=Count(MOST_PHOTOS)))
                break
            try:
                digest, content = read_photo(path)
                keep(self.session.store, digest, content)
            except (PhotoError, StoreError) as error:
                self.session.say("look", tr("{file} is not kept: {why}.", file=Name(path.name), why=error.phrase))
                continue
            if all(digest != one.digest for one in (*self.photos, *new)):
                new.append(Photo(digest=digest))
        if new:
            self.changed((*self.photos, *new), tr("photos: {n} more", n=Count(len(new))))

    def _look(self, one: Photo) -> None:
        PhotoDialog(self, self.session, one, partial(self._drop, one)).exec()

    def _drop(self, one: Photo) -> None:
        self.changed(tuple(other for other in self.photos if other != one), tr("a photo taken away"))


class PhotoDialog(Dialog):
    """One photo, large."""

    def __init__(self, parent: QWidget, session: Session, one: Photo, drop: Callable[[], object]) -> None:
        super().__init__(
            parent,
            tr("Photo"),
            tr(
                "One photo of this cover, as large as there is room. Taken away it is gone from this job; one undo brings it back."
            ),
        )
        self.drop = drop
        self.picture = QLabel()
        self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
        content = photo(session.store, one.digest)
        self.image = QImage.fromData(content) if content is not None else QImage()
        foot = row(button(tr("Take it away"), self._gone), button(tr("Close"), self.accept, "main"))
        foot.insertStretch(0, 1)
        whole = column(self.picture, *([label(Name(one.words), wrap=True)] if one.words else []), foot, margins=12)
        whole.setStretch(0, 1)
        self.setLayout(whole)
        sized(self, 820, 640)
        if not self.image.isNull():
            room = self.size() - QSize(40, 90)
            whole_ = self.image.scaled(room, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)
            self.picture.setPixmap(QPixmap.fromImage(whole_))
        else:
            self.picture.setText(say(tr("This photo is not there any more.")))

    def _gone(self) -> None:
        self.accept()
        self.drop()
