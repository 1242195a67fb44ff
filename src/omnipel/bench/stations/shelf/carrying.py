"""A job dragged off the shelf: the file that travels, made when it is picked up, in a folder that goes with the program."""

from __future__ import annotations

import atexit
import shutil
import tempfile
from pathlib import Path

from omnipel.bench.session import Session
from omnipel.core.words.phrases import tr
from omnipel.shop.store import Card


class Carried:
    """Makes the files that cards are dragged out as."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self.folder: Path | None = None

    def file(self, card: Card) -> Path | None:
        """The job with its photos as a file; None where that cannot be, which is said."""
        from omnipel.exchange.files.travel import packed  # what works on jobs is loaded with them
        from omnipel.shop.document import DocumentError, file_name
        from omnipel.shop.opening import StoreError
        from omnipel.shop.photos import contents
        from omnipel.shop.whole import NotWritten, write_whole

        try:
            if self.folder is None:
                self.folder = Path(tempfile.mkdtemp(prefix="omnipel-carried-"))
                atexit.register(shutil.rmtree, self.folder, ignore_errors=True)
            job = self.session.store.job(card.id)
            path = self.folder / str(card.id) / file_name(job.name, ".omnipel")
            path.parent.mkdir(exist_ok=True)
            write_whole(path, packed(job, contents(self.session.store, job)))
        except (DocumentError, StoreError, NotWritten) as error:
            self.session.say("look", tr("Not carried: {fault}", fault=error.phrase))
            return None
        except OSError as error:
            from omnipel.shop.reasons import reason_of

            self.session.say("look", tr("Not carried: {fault}", fault=reason_of(error)))
            return None
        return path
