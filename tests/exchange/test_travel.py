"""A job that travels comes out as it went in; traps, damage and paths that lead out are refused, and nothing half-read comes back."""

import io
import json
import zipfile
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.shop.test_photos import picture

from omnipel.core.job.document import Job
from omnipel.core.job.trying import Entry, Happened, Photo, TryOn, Went
from omnipel.exchange.files import travel
from omnipel.exchange.files.travel import DOCUMENT, PHOTOS, opened, packed, read_job, unpacked
from omnipel.shop.document import DocumentError, dumped, envelope, write
from omnipel.shop.photos import prepared
from omnipel.shop.sample import SAMPLES

DIGEST, CONTENT = prepared(picture())


def with_photos() -> Job:
    photos = (Photo(digest=DIGEST, words="the rim"),)
    job = replace(SAMPLES[0](), tries=(TryOn(went=Went.RIGHT, photos=photos, words="ﬁts «well» & <b>true</b>"),))
    return replace(job, log=(Entry(happened=Happened.WASHED, photos=(Photo(digest="a" * 64),)),))


def zipped(*files: tuple[str, bytes], compress: int = zipfile.ZIP_DEFLATED) -> bytes:
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", compress) as target:
        for name, content in files:
            target.writestr(name, content)
    return made.getvalue()


DOC = dumped(with_photos()).encode()


def test_a_job_comes_out_as_it_went_in_and_says_what_did_not_come(tmp_path: Path) -> None:
    job = with_photos()
    content = packed(job, {DIGEST: CONTENT, "b" * 64: b"no photo of this job"})
    path = tmp_path / "Butt, with photos.OMNIPEL"
    path.write_bytes(content)
    come = opened(path)
    assert (come.job, dict(come.photos), come.missing) == (job, {DIGEST: CONTENT}, ("a" * 64,))
    assert packed(job, {DIGEST: CONTENT}) == packed(come.job, come.photos)  # the same, whenever it is written
    with zipfile.ZipFile(io.BytesIO(content)) as read:
        assert read.namelist() == [DOCUMENT, f"{PHOTOS}{DIGEST}.jpg"]
        assert json.loads(read.read(DOCUMENT)) == envelope(job)
    plain = tmp_path / "plain.omnipel.json"
    write(job, plain)
    assert read_job(path) == read_job(plain) == job


@pytest.mark.parametrize(
    ("content", "why"),
    [
        (lambda: b"", "damaged"),
        (lambda: b"PK\x05\x06" + b"\0" * 18, "no job in it"),
        (lambda: packed(with_photos(), {DIGEST: CONTENT})[:-40], "damaged"),
        (lambda: zipped(("other.txt", b"x")), "no place in it"),
        (lambda: zipped((DOCUMENT, DOC), ("../evil.sh", b"x")), "no place in it"),
        (lambda: zipped((DOCUMENT, DOC), (f"{PHOTOS}../../evil.jpg", b"x")), "no place in it"),
        (lambda: zipped((DOCUMENT, DOC), ("/etc/passwd", b"x")), "no place in it"),
        (lambda: zipped((DOCUMENT, DOC), (f"{PHOTOS}a\\..\\b.jpg", b"x")), "no place in it"),
        (lambda: zipped((DOCUMENT, DOC), *((f"{PHOTOS}{i}.jpg", b"") for i in range(1300))), "files in it"),
        (lambda: zipped((DOCUMENT, b"\0" * 20_000_000)), "larger than"),
        (lambda: zipped((DOCUMENT, b"\xff\xfe\xff")), "not text"),
        (lambda: zipped((DOCUMENT, b"{}")), "expected"),
        (lambda: zipped((DOCUMENT, DOC.replace(b'"omnipel-job"', b'"something-else"'))), "expected"),
    ],
)
def test_traps_and_damage_are_refused_in_one_line(content: Callable[[], bytes], why: str) -> None:
    with pytest.raises(DocumentError, match=why) as told:
        unpacked(content(), "sent.omnipel")
    assert str(told.value).startswith("sent.omnipel: ")
    assert "\n" not in str(told.value)


def test_a_zip_bomb_is_not_unpacked(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    bomb = zipped((DOCUMENT, DOC), *((f"{PHOTOS}{i:064d}.jpg", b"\0" * 30_000_000) for i in range(15)))
    assert len(bomb) < 1_000_000
    with pytest.raises(DocumentError, match="unpacked it would take more than 400 MB"):
        unpacked(bomb, "x.omnipel")
    monkeypatch.setattr(travel, "LARGEST_ZIP", 1000)
    (tmp_path / "x.omnipel").write_bytes(bomb)
    with pytest.raises(DocumentError, match="larger than"):
        opened(tmp_path / "x.omnipel")
    with pytest.raises(DocumentError, match="no such file"):
        opened(tmp_path / "none.omnipel")


def test_a_size_that_is_told_smaller_than_it_is_is_not_believed() -> None:
    """A directory that lies: the stream is read no further than a photo may be."""
    made = bytearray(zipped((DOCUMENT, DOC), (f"{PHOTOS}{DIGEST}.jpg", CONTENT), compress=zipfile.ZIP_STORED))
    come = unpacked(bytes(made), "x.omnipel")
    assert DIGEST in come.photos
    at = made.find(CONTENT[100:140])
    made[at] ^= 1  # a photo that is not what its name says
    with pytest.raises(DocumentError, match="damaged"):
        unpacked(bytes(made), "x.omnipel")
    other = zipped((DOCUMENT, DOC), (f"{PHOTOS}{DIGEST}.jpg", CONTENT[:-1] + b"x"))
    assert unpacked(other, "x.omnipel").photos == {}
    assert DIGEST in unpacked(other, "x.omnipel").missing


@given(st.binary(max_size=300), st.integers(0, 2000), st.integers(0, 255))
@settings(max_examples=60)
def test_whatever_is_spoilt_is_a_job_or_a_refusal(junk: bytes, at: int, byte: int) -> None:
    whole = packed(with_photos(), {DIGEST: CONTENT})
    spoilt = bytearray(whole)
    spoilt[at % len(spoilt)] = byte
    for content in (bytes(spoilt), junk, whole[: at % len(whole)], whole + junk, junk + whole):
        try:
            come = unpacked(content, "x.omnipel")
        except DocumentError:
            continue
        assert come.job.name == with_photos().name or come.job
