"""Photos: turned as they were taken, scaled down, with nothing in them but pixels; what is none, or a trap, is refused."""

import io
import struct
import zlib
from dataclasses import replace
from pathlib import Path

import pytest
from PIL import Image

from omnipel.core.job.trying import Entry, Happened, Photo, TryOn
from omnipel.shop.photos import LARGEST, LONG_SIDE, PhotoError, contents, is_kept, keep, photo, photos_of, prepared, read_photo
from omnipel.shop.starter import starter
from omnipel.shop.store import Store

ORIENTATION, MAKER, GPS = 0x0112, 0x010F, 0x8825


def picture(kind: str = "JPEG", size: tuple[int, int] = (300, 200), mode: str = "RGB", **more: object) -> bytes:
    """Red at the left, green at the right."""
    image = Image.new(mode, size, (200, 30, 30) if mode == "RGB" else (200, 30, 30, 255))
    image.paste((30, 160, 30) if mode == "RGB" else (30, 160, 30, 0), (size[0] // 2, 0, *size))
    made = io.BytesIO()
    image.save(made, kind, **more)
    return made.getvalue()


def seen(content: bytes) -> Image.Image:
    return Image.open(io.BytesIO(content))


@pytest.mark.parametrize(("turned", "red"), [(1, (0.2, 0.5)), (3, (0.8, 0.5)), (6, (0.5, 0.2)), (8, (0.5, 0.8)), (2, (0.8, 0.5))])
def test_a_photo_is_turned_as_it_was_taken_and_says_nothing_of_where(turned: int, red: tuple[float, float]) -> None:
    exif = Image.Exif()
    exif[ORIENTATION], exif[MAKER] = turned, "somebody's camera"
    exif.get_ifd(GPS)[1] = "N"
    digest, content = prepared(picture(exif=exif, comment=b"at home"))
    image = seen(content)
    assert image.format == "JPEG"
    assert not image.getexif()
    assert "comment" not in image.info
    assert b"camera" not in content
    assert b"home" not in content
    assert (image.width > image.height) is (turned in (1, 2, 3))
    at = image.convert("RGB").getpixel((int(red[0] * image.width), int(red[1] * image.height)))
    assert isinstance(at, tuple)
    assert at[0] > at[1]
    assert is_kept(digest, content)
    assert not is_kept(digest, content + b" ")
    assert prepared(picture(exif=exif, comment=b"at home")) == (digest, content)


def test_a_large_photo_is_scaled_down_and_what_shines_through_stands_on_white() -> None:
    image = seen(prepared(picture(size=(4000, 1000)))[1])
    assert image.size == (LONG_SIDE, LONG_SIDE // 4)
    assert seen(prepared(picture(size=(90, 60)))[1]).size == (90, 60)  # none is made larger
    glass = seen(prepared(picture("PNG", mode="RGBA"))[1]).convert("RGB")
    right = glass.getpixel((250, 100))
    assert isinstance(right, tuple)
    assert min(right) > 240
    grey = Image.new("I;16", (20, 20), 500)
    made = io.BytesIO()
    grey.save(made, "PNG")
    assert seen(prepared(made.getvalue())[1]).mode == "RGB"


def bomb(wide: int, high: int) -> bytes:
    """A PNG of a few hundred bytes that says it is enormous."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", wide, high, 8, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 100)) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    ("content", "why"),
    [
        (b"", "no JPEG or PNG"),
        (b"GIF89a" + b"\0" * 40, "no JPEG or PNG"),
        (b"<svg/>", "no JPEG or PNG"),
        (picture()[:200], "damaged"),
        (picture("PNG")[:-60], "damaged"),
        (bomb(60_000, 60_000), "million pixels"),
        (bomb(3000, 3000), "damaged"),
        (b"\0" * (LARGEST + 1), "larger than"),
    ],
)
def test_what_is_no_photo_is_refused_with_the_reason(content: bytes, why: str) -> None:
    with pytest.raises(PhotoError, match=why):
        prepared(content)


def test_photos_are_kept_in_the_shop_once_and_damage_is_noticed(tmp_path: Path) -> None:
    file = tmp_path / "a.jpg"
    file.write_bytes(picture())
    with pytest.raises(PhotoError, match="no such file"):
        read_photo(tmp_path / "none.jpg")
    digest, content = read_photo(file)
    one, other = Photo(digest=digest, words="the rim"), Photo(digest="0" * 64)
    job = replace(
        starter("drum", "wall-and-lid"),
        tries=(TryOn(photos=(one,)),),
        log=(Entry(happened=Happened.MENDED, photos=(one, other)),),
    )
    assert [found.digest for found in photos_of(job)] == [digest, "0" * 64]
    with Store(tmp_path / "shop.sqlite") as store:
        keep(store, digest, content)
        keep(store, digest, content)
        assert photo(store, digest) == content
        assert photo(store, "0" * 64) is None
        assert contents(store, job) == {digest: content}
        with store.writing():
            store.db.execute("UPDATE photos SET bytes = ?", (content[:-1],))
        assert photo(store, digest) is None
        assert contents(store, job) == {}
