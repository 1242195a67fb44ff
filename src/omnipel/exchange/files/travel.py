"""A job that travels: one zip with the job's document, its photos and what tells them apart. Limits on size, count and names hold when one is opened.

job.omnipel.json      the job, as docs/file-format.md tells
photos/<sum>.jpg      each photo, named by the check sum of its bytes
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Final

from omnipel.core.job.document import Job
from omnipel.core.words.phrases import Count, Name, tr
from omnipel.shop.document import LARGEST, DocumentError, dumped, loaded, read, write
from omnipel.shop.photos import LARGEST as LARGEST_PHOTO
from omnipel.shop.photos import PhotoError, is_kept, photos_of, prepared
from omnipel.shop.reasons import reason_of
from omnipel.shop.whole import write_whole

SUFFIX: Final = ".omnipel"
DOCUMENT: Final = "job.omnipel.json"
PHOTOS: Final = "photos/"
MOST_FILES: Final = 1200
"""No job has more photos."""
MOST_BYTES: Final = 400_000_000
"""All that is in one, unpacked, bytes."""
LARGEST_ZIP: Final = 300_000_000
DAY: Final = (1980, 1, 1, 0, 0, 0)
"""The same job makes the same file, whenever it is written."""


@dataclass(frozen=True)
class Travelled:
    """A job that has come, and its photos by check sum; the names of photos that did not come with it."""

    job: Job
    photos: Mapping[str, bytes]
    missing: tuple[str, ...] = field(default_factory=tuple)


def packed(job: Job, photos: Mapping[str, bytes]) -> bytes:
    """A job with its photos as one file."""
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as zipped:
        zipped.writestr(zipfile.ZipInfo(DOCUMENT, DAY), dumped(job), zipfile.ZIP_DEFLATED)
        for one in photos_of(job):
            if one.digest in photos:
                zipped.writestr(zipfile.ZipInfo(f"{PHOTOS}{one.digest}.jpg", DAY), photos[one.digest], zipfile.ZIP_STORED)
    return target.getvalue()


def is_travelled(path: Path) -> bool:
    """Whether a file is called as one that travels."""
    return path.name.casefold().endswith(SUFFIX)


def opened(path: Path) -> Travelled:
    """A job from a file that travelled.

    Raises:
        DocumentError: it is none, is damaged, or holds more than a job does.
    """
    try:
        if path.stat().st_size > LARGEST_ZIP:
            raise DocumentError(path.name, tr("the file is larger than {most} MB", most=Count(LARGEST_ZIP / 1e6)))
        with open(path, "rb") as file:
            content = file.read(LARGEST_ZIP + 1)
    except (OSError, ValueError) as error:
        raise DocumentError(str(path), reason_of(error)) from None
    return unpacked(content, path.name)


def read_job(path: Path) -> Job:
    """The job in a file, whether it travelled or not.

    Raises:
        DocumentError: it cannot be read, or is none.
    """
    return with_photos(path)[0]


def with_photos(path: Path) -> tuple[Job, Mapping[str, bytes]]:
    """The same with the photos that came with it.

    Raises:
        DocumentError: as above.
    """
    if not is_travelled(path):
        return read(path), {}
    come = opened(path)
    return come.job, come.photos


def write_job(job: Job, path: Path) -> None:
    """Write a job back to its file; one that travelled keeps its photos.

    Raises:
        DocumentError: the file that travelled cannot be read any more.
        NotWritten: it cannot be written; what was there before is untouched.
    """
    if is_travelled(path):
        write_whole(path, packed(job, opened(path).photos))
    else:
        write(job, path)


def unpacked(content: bytes, name: str) -> Travelled:
    """The same from the bytes of such a file; `name` is told with what is wrong.

    Raises:
        DocumentError: as above.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as zipped:
            infos = _allowed(zipped, name)
            text = _read(zipped, infos[DOCUMENT], LARGEST * 4).decode("utf-8-sig")
            job = loaded(text)
            photos, missing = _photos(zipped, infos, job)
    except DocumentError as error:
        raise DocumentError(f"{name}: {error.where}" if error.where and error.where != name else name, error.what) from None
    except KeyError:
        raise DocumentError(name, tr("there is no job in it")) from None
    except UnicodeDecodeError:
        raise DocumentError(name, tr("the job in it is not text")) from None
    except Exception as error:  # a damaged archive fails in many ways, each with a type of its own
        raise DocumentError(name, tr("the file is damaged, or no job that travelled")) from error
    return Travelled(job, photos, missing)


def _allowed(zipped: zipfile.ZipFile, name: str) -> dict[str, zipfile.ZipInfo]:
    """What is in it, by name: no more, no larger, and nothing that leads out of it."""
    infos = zipped.infolist()
    if len(infos) > MOST_FILES:
        raise DocumentError(
            name, tr("there are {n} files in it; a job has no more than {most}", n=Count(len(infos)), most=Count(MOST_FILES))
        )
    if sum(info.file_size for info in infos) > MOST_BYTES:
        raise DocumentError(name, tr("unpacked it would take more than {most} MB", most=Count(MOST_BYTES / 1e6)))
    found: dict[str, zipfile.ZipInfo] = {}
    for info in infos:
        inner = info.filename
        plain = inner == DOCUMENT or (inner.startswith(PHOTOS) and "/" not in inner.removeprefix(PHOTOS))
        if not plain or "\\" in inner or ".." in inner or inner in found:
            raise DocumentError(name, tr("“{inner}” has no place in it", inner=Name(inner[:80])))
        found[inner] = info
    return found


def _read(zipped: zipfile.ZipFile, info: zipfile.ZipInfo, most: int) -> bytes:
    """A file of it; what is said of its size is not believed."""
    with zipped.open(info) as file:
        content = file.read(most + 1)
    if len(content) > most:
        raise DocumentError(info.filename, tr("it is larger than {most} MB", most=Count(most / 1e6)))
    return content


def _photos(zipped: zipfile.ZipFile, infos: Mapping[str, zipfile.ZipInfo], job: Job) -> tuple[dict[str, bytes], tuple[str, ...]]:
    """The photos that the job knows of, each what its name says and a picture; and the check sums of those that are not there."""
    found: dict[str, bytes] = {}
    missing = []
    for one in photos_of(job):
        info = infos.get(f"{PHOTOS}{one.digest}.jpg")
        content = _read(zipped, info, LARGEST_PHOTO) if info is not None else b""
        if not content or not is_kept(one.digest, content) or not _picture(content):
            missing.append(one.digest)
        else:
            found[one.digest] = content
    return found, tuple(missing)


def _picture(content: bytes) -> bool:
    try:
        prepared(content)
    except PhotoError:
        return False
    return True
