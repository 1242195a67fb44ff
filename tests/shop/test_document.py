"""Job files: round trip, and one clear line for every kind of bad input."""

import json
from pathlib import Path
from typing import Any

import pytest
from tests.jobs import drum

from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.core.words.units import Unit
from omnipel.shop.document import DocumentError, dumped, envelope, loaded, read, schema, write
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter
from omnipel.shop.whole import NotWritten


@pytest.mark.parametrize("made", [*SAMPLES, *(lambda f=form, s=scheme: starter(f, s) for form, scheme in lawful_pairs())])
def test_round_trip(made: Any) -> None:
    job = made()
    assert loaded(dumped(job)) == job


def broken(change: Any) -> str:
    data = envelope(drum())
    change(data)
    return json.dumps(data)


def put(*path: Any) -> Any:
    """A change that puts the last item at the path of the others."""
    *steps, last, value = path

    def change(data: Any) -> None:
        for step in steps:
            data = data[step]
        data[last] = value

    return change


BAD = {
    "cut off": (dumped(drum())[:-40], "cut off"),
    "empty": ("", "not JSON"),
    "no json": ("hello", "not JSON"),
    "a list": ("[1, 2]", "format"),
    "another format": (broken(put("format", "other")), "format: expected 'omnipel-job', found 'other'"),
    "newer": (broken(put("version", 99)), "newer than this program reads"),
    "version words": (broken(put("version", "1")), "version: expected a whole number"),
    "no readings value": (broken(put("job", "readings", 0, "repeats", [])), "job.readings.0.repeats"),
    "missing": (broken(lambda data: data["job"]["readings"][0].pop("repeats")), "job.readings.0.repeats: is missing"),
    "negative": (
        broken(put("job", "readings", 0, "repeats", [-5.0])),
        "job.readings.0.repeats.0: input should be greater than 0, found -5.0",
    ),
    "zero": (broken(put("job", "readings", 0, "repeats", [0])), "job.readings.0.repeats.0"),
    "nan": (dumped(drum()).replace("1763.0", "NaN"), "NaN is not a number"),
    "infinite": (dumped(drum()).replace("1763.0", "1e999"), "not a number that can be cut"),
    "huge": (dumped(drum()).replace("1763.0", "1e308"), "job.readings.0.repeats.0"),
    "long string": (broken(put("job", "name", "x" * 10_000_000)), "the file is 10 MB"),
    "long name": (broken(put("job", "name", "x" * 5000)), "job.name: string should have at most 120 characters, found 'xxx"),
    "words for a number": (broken(put("job", "cover", "seam_allowance", "wide")), "job.cover.seam_allowance"),
    "unknown key": (broken(put("job", "cover", "sparkle", 1)), "job.cover.sparkle"),
    "unknown top key": (broken(put("extra", 1)), "extra: is not part"),
    "no hem": (
        broken(put("job", "cover", "hem", "kind", "seam, trimmed when it meets")),
        "job.cover.hem: no cover's lower edge is finished so",
    ),
    "deep": ("[" * 100_000, "nests too deeply"),
    "long digits": (dumped(drum()).replace("1763.0", "9" * 5000), "digits"),
}


@pytest.mark.parametrize("kind", BAD)
def test_bad_input_is_one_clear_line(kind: str, tmp_path: Path) -> None:
    text, words = BAD[kind]
    path = tmp_path / "job.omnipel.json"
    path.write_text(text)
    with pytest.raises(DocumentError) as caught:
        read(path)
    said = str(caught.value)
    assert words in said
    assert "\n" not in said
    assert len(said) < 300
    assert path.read_text() == text


def test_not_text_and_not_there(tmp_path: Path) -> None:
    (tmp_path / "b.json").write_bytes(b"\xff\xfe\x00")
    with pytest.raises(DocumentError, match="not text"):
        read(tmp_path / "b.json")
    with pytest.raises(DocumentError, match="no such file"):
        read(tmp_path / "none.json")


def test_a_file_is_written_whole_or_not_at_all(tmp_path: Path) -> None:
    path = tmp_path / "job.omnipel.json"
    write(drum(), path)
    assert read(path) == drum()
    with pytest.raises(NotWritten, match="there is no folder"):
        write(drum(), tmp_path / "nowhere" / "job.json")
    assert [p.name for p in tmp_path.iterdir()] == ["job.omnipel.json"]


def test_the_schema_in_docs_is_the_one_the_program_checks_by() -> None:
    kept = json.loads((Path(__file__).parents[2] / "docs" / "job.schema.json").read_text())
    assert kept == json.loads(json.dumps(schema()))


OLD = sorted((Path(__file__).parent / "data").glob("*.omnipel.json"))


@pytest.mark.parametrize("path", OLD, ids=lambda path: path.name)
def test_files_of_earlier_versions_are_read_as_they_were_meant(path: Path) -> None:
    job, old = read(path), json.loads(path.read_text())
    assert old["version"] < json.loads(dumped(job))["version"]
    now = envelope(job)["job"]
    assert meant_the_same(old["job"], now) == []
    assert [thing.id for thing in job.thing.sticks_out] == [str(i) for i, _ in enumerate(old["job"]["thing"]["sticks_out"], 1)]


def meant_the_same(old: Any, now: Any, path: str = "") -> list[str]:
    """Where an old document's data is no longer there as it was."""
    if isinstance(old, dict):
        return [fault for key, value in old.items() for fault in meant_the_same(value, now.get(key, "gone"), f"{path}.{key}")]
    if isinstance(old, list):
        pairs = enumerate(zip(old, now, strict=True))
        return [fault for i, (a, b) in pairs for fault in meant_the_same(a, b, f"{path}.{i}")]
    return [] if old == now else [f"{path}: {old!r} → {now!r}"]


def test_a_port_of_an_old_file_knows_what_comes_out_through_it() -> None:
    path = next(path for path in OLD if path.name.startswith("press-motor-v1"))
    data = json.loads(path.read_text())
    data["job"]["cover"]["features"] = [
        {"kind": "port", "name": "cable", "panel": "end"},
        {"kind": "port", "name": "other", "panel": "end"},
    ]
    job = loaded(json.dumps(data))
    assert [(feature.id, feature.serves) for feature in job.cover.features] == [("1", job.thing.sticks_out[0].id), ("2", "")]
    assert [(feature.face, feature.was_on) for feature in job.cover.features] == [("", "end"), ("", "end")]


@pytest.mark.parametrize("unit", [Unit.MM, Unit.INCH_16])
def test_a_cosy_of_before_keeps_its_channel_and_heading(unit: Unit) -> None:
    job = starter("drum", "gathered-halves", unit)
    data = json.loads(dumped(job))
    wide, looser, heading = (25.4, 25.4 / 8, 38.1) if unit is Unit.INCH_16 else (20.0, 3.0, 40.0)
    data["version"], data["job"]["cover"]["options"] = 6, {"channel": wide, "ratio": 2.0}
    read = loaded(json.dumps(data))
    assert read.cover.options == {"ratio": 2.0, "heading": heading, "ribbon": pytest.approx(wide - looser)}
    half = next(p for p in draft(read).panels if p.name == "half")
    lower, upper = (next(f.points[0, 1] for f in half.figures if f.name == f"channel {line} line") for line in ("lower", "upper"))
    assert (upper - lower, half.width.value - upper) == pytest.approx((wide, heading))
