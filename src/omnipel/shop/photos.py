"""Photos of covers: scaled down, turned as they were taken, with nothing in them that says where or by whom; kept in the shop by their check sum."""

from __future__ import annotations

import hashlib
import io
import warnings
from typing import TYPE_CHECKING, Final

from omnipel.core.words.phrases import Count, Phrase, Refusal, tr

if TYPE_CHECKING:
    from pathlib import Path

    from PIL import Image

    from omnipel.core.job.document import Job
    from omnipel.core.job.trying import Photo
    from omnipel.shop.store import Store

LONG_SIDE: Final = 1600
"""No photo is kept larger, pixels."""
LARGEST: Final = 40_000_000
"""A file larger than this is not opened, bytes."""
MOST_PIXELS: Final = 120_000_000
"""A picture with more is a trap, or a map."""
KINDS: Final = ("JPEG", "PNG")
QUALITY: Final = 82
JPEG: Final = "jpeg"


class PhotoError(Refusal, ValueError):
    """A file that is no photo that can be kept: why."""


def prepared(content: bytes) -> tuple[str, bytes]:
    """A photo as it is kept: its check sum and the bytes of a JPEG picture.

    Raises:
        PhotoError: it is none, or too large, or damaged.
    """
    from PIL import Image, ImageOps, UnidentifiedImageError  # 0.1 s, for who brings a photo in

    if len(content) > LARGEST:
        raise PhotoError(tr("it is larger than {most} MB", most=Count(LARGEST / 1e6)))
    try:
        with warnings.catch_warnings(action="ignore"), Image.open(io.BytesIO(content), formats=KINDS) as image:
            if image.width * image.height > MOST_PIXELS:
                raise PhotoError(_too_many())
            image.draft("RGB", (LONG_SIDE, LONG_SIDE))
            turned = ImageOps.exif_transpose(image)
            turned.thumbnail((LONG_SIDE, LONG_SIDE))
            whole = _plain(turned)
    except PhotoError:
        raise
    except Image.DecompressionBombError:
        raise PhotoError(_too_many()) from None
    except UnidentifiedImageError:
        raise PhotoError(tr("it is no JPEG or PNG picture")) from None
    except Exception as error:  # what a picture library does with a damaged picture is not told: each format fails in its own way
        raise PhotoError(tr("the picture is damaged")) from error
    made = io.BytesIO()
    whole.save(made, "JPEG", quality=QUALITY, optimize=True)
    kept = made.getvalue()
    return hashlib.sha256(kept).hexdigest(), kept


def _too_many() -> Phrase:
    return tr("it has more than {most} million pixels", most=Count(MOST_PIXELS / 1e6))


def _plain(image: Image.Image) -> Image.Image:
    """A picture of its pixels alone: what shines through stands on white, and nothing is known of where it was taken."""
    from PIL import Image

    seen = image.convert("RGBA") if image.mode in ("RGBA", "LA", "P", "PA") else image.convert("RGB")
    ground = Image.new("RGB", seen.size, "white")
    ground.paste(seen, mask=seen.getchannel("A") if seen.mode == "RGBA" else None)
    return ground


def read_photo(path: Path) -> tuple[str, bytes]:
    """A photo from a file.

    Raises:
        PhotoError: it cannot be read, or is none.
    """
    from omnipel.shop.reasons import reason_of

    try:
        with open(path, "rb") as file:
            content = file.read(LARGEST + 1)
    except (OSError, ValueError) as error:
        raise PhotoError(reason_of(error)) from None
    return prepared(content)


def is_kept(digest: str, content: bytes) -> bool:
    """Whether bytes are the photo of a check sum."""
    return hashlib.sha256(content).hexdigest() == digest


def keep(store: Store, digest: str, content: bytes) -> None:
    """Keep a photo in the shop.

    Raises:
        StoreError: it cannot be written.
    """
    with store.writing():
        store.db.execute("INSERT OR IGNORE INTO photos (digest, kind, bytes) VALUES (?, ?, ?)", (digest, JPEG, content))


def photo(store: Store, digest: str) -> bytes | None:
    """A photo of the shop; None when it is not there, or is not what it was any more."""
    row = store.db.execute("SELECT bytes FROM photos WHERE digest = ?", (digest,)).fetchone()
    return bytes(row[0]) if row is not None and is_kept(digest, bytes(row[0])) else None


def photos_of(job: Job) -> tuple[Photo, ...]:
    """All photos of a job, each once: of its try-ons, then of its log."""
    all_ = [one for tried in job.tries for one in tried.photos] + [one for entry in job.log for one in entry.photos]
    return tuple({one.digest: one for one in all_}.values())


def contents(store: Store, job: Job) -> dict[str, bytes]:
    """The bytes of a job's photos that are there, by check sum."""
    found = ((one.digest, photo(store, one.digest)) for one in photos_of(job))
    return {digest: content for digest, content in found if content is not None}
