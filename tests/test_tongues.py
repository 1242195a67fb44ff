"""Languages: every template is said, with its fields; names made of names; numbers as the language writes them, out and in again."""

import argparse
import ast
import contextlib
import importlib.util
import inspect
import io
import json
import pickle
import re
import subprocess
import sys
from dataclasses import replace
from pathlib import Path
from types import ModuleType

import pytest
from babel.messages.mofile import read_mo, write_mo
from babel.messages.pofile import read_po
from hypothesis import given
from hypothesis import strategies as st

from omnipel.cli import main
from omnipel.core.covers import lawful_pairs
from omnipel.core.draft import draft
from omnipel.core.forms import FORMS
from omnipel.core.job.document import Job
from omnipel.core.learning.estimates import Line
from omnipel.core.learning.evidence import BETWEEN, CLEARANCE
from omnipel.core.learning.gaussian import Normal
from omnipel.core.tape.card import read_card
from omnipel.core.words.notation import parse_length, parse_lengths
from omnipel.core.words.phrases import Area, Count, Money, Ratio, Run, Share, Voice, bare, listed, mm, term, tr, trn
from omnipel.core.words.plain_numbers import parse_number, parse_share
from omnipel.core.words.units import Unit
from omnipel.exchange.asked import Order
from omnipel.exchange.exports import EXPORTS
from omnipel.exchange.reading.readings import read_readings
from omnipel.shop.document import dumped
from omnipel.shop.sample import SAMPLES
from omnipel.shop.starter import starter
from omnipel.tongues import NAMES, Spoken, of_the_desktop, tongue_of
from tests.wild import one_in, tried

ROOT = Path(__file__).parents[1]
TONGUES = ROOT / "src" / "omnipel" / "tongues"
SPOKEN = [code for code in NAMES if code != "en"]
FIELD = re.compile(r"\{\w*\}")
GERMAN = tongue_of("de")


@pytest.fixture(scope="module")
def messages() -> ModuleType:
    spec = importlib.util.spec_from_file_location("messages", ROOT / "tools" / "messages.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


@pytest.mark.parametrize("code", SPOKEN)
def test_every_template_is_said_with_its_fields_and_nothing_else_is(messages: ModuleType, code: str) -> None:
    with (TONGUES / f"{code}.po").open("rb") as file:
        spoken = read_po(file, locale=code)
    wanted, found = ({(m.context, str(m.id)) for m in c if m.id} for c in (messages.catalogue(), spoken))
    assert found == wanted
    for message in spoken:
        if message.id:
            ids, said = (message.id, message.string) if message.pluralizable else ([message.id], [message.string])
            for one, other in zip(ids, said, strict=True):
                assert other.strip(), one
                assert sorted(FIELD.findall(one)) == sorted(FIELD.findall(other)), one
                assert len(one) - len(one.strip()) == len(other) - len(other.strip()), one  # what is put together stays parted


@pytest.mark.parametrize("code", SPOKEN)
def test_what_is_read_is_what_was_written_last(code: str) -> None:
    with (TONGUES / f"{code}.po").open("rb") as file:
        compiled = io.BytesIO()
        write_mo(compiled, read_po(file, locale=code))
    with (TONGUES / f"{code}.mo").open("rb") as file:
        shipped = read_mo(file)
    compiled.seek(0)
    said = ({(m.context, str(m.id)): m.string for m in c} for c in (read_mo(compiled), shipped))
    assert next(said) == next(said)


def test_what_was_learnt_of_a_form_is_said_in_its_name() -> None:
    for key, form in FORMS.items():
        learnt = Line(BETWEEN.join((CLEARANCE, key, "canvas")), Normal(0.0, 1.0), Normal(0.0, 1.0), ())
        assert Voice(Unit.MM, GERMAN).say(learnt.words) == f"die richtige Luft: {GERMAN.gettext(form.words.template)}, Segeltuch"


FOR_PROGRAMMERS = "__call__|callable|cannot|conflict|dest=|invalid option|with mode|positionals$|must be|deprecated"
"""What Python's reader of arguments says to who wrote the options wrong, not to who types them."""
FILLED = r"%(?:\(\w+\))?[srd]"


@pytest.mark.parametrize("code", SPOKEN)
def test_pythons_reader_of_arguments_speaks_too(
    code: str, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    with (TONGUES / "arguments" / code / "LC_MESSAGES" / "messages.mo").open("rb") as file:
        spoken = {tuple(m.id) if m.pluralizable else m.id: m.string for m in read_mo(file)}
    calls = (node for node in ast.walk(ast.parse(inspect.getsource(argparse))) if isinstance(node, ast.Call))
    asked = [call.args for call in calls if isinstance(call.func, ast.Name) and call.func.id in ("_", "ngettext")]
    texts = [tuple(a.value for a in args[:2] if isinstance(a, ast.Constant)) for args in asked]
    wanted = {text if len(text) == 2 else text[0] for text in texts if text and not re.search(FOR_PROGRAMMERS, text[0])}
    assert len(wanted) > 15
    assert wanted - {*spoken} == set()
    for one, other in ((one, other) for one, other in spoken.items() if one):
        pairs = zip([one] if isinstance(one, str) else one, [other] if isinstance(other, str) else other, strict=True)
        assert all(sorted(re.findall(FILLED, a)) == sorted(re.findall(FILLED, b)) for a, b in pairs), one
    for typed in (["--help"], ["export"], ["new", "--unit", "ell"], ["new", "--unit"], ["lay", "j", "--nothing"]):
        for language, found in (("en", True), (code, False)):
            monkeypatch.setenv("LANGUAGE", language)
            with contextlib.suppress(SystemExit):
                assert main(typed) == 2
            said = "".join(capsys.readouterr())
            assert bool(re.search("usage|options:|argument|required|invalid|choose", said)) is found, said


def test_every_name_of_a_part_is_said(messages: ModuleType) -> None:
    typed = {feature.name for sample in SAMPLES for feature in sample().cover.features}
    same = {"a", "b", "mm", "cm", "A4", "Letter"}  # alike in both
    for name in sorted({*messages.names()} - {""}):
        told = GERMAN.gettext(term(name).template)
        plain = " ".join(part for part in typed if part in name)
        left = {word for word in re.findall(r"[a-z]{2,}", told) if word in name.split()} - set(plain.split()) - same
        assert not left, (name, told)


@pytest.mark.parametrize(
    ("name", "said"),
    [
        ("gore 17 of 18", "Bahn 17 von 18"),
        ("padding gore 3 of 8", "Polster, Bahn 3 von 8"),
        ("wall to lid", "Wand an Deckel"),
        ("flap of {{odd}} name", "Klappe, {{odd}} name"),
        ("wall {n}", "wall {n}"),
    ],
)
def test_names_are_put_together_and_a_persons_words_stay(name: str, said: str) -> None:
    assert GERMAN.gettext(name) == said


def test_numbers_are_written_as_the_language_writes_them() -> None:
    voice, inches = Voice(Unit.MM, GERMAN), Voice(Unit.INCH_16, GERMAN)
    assert [
        voice.say(v) for v in (mm(12.5, fine=True), Share(0.125, 1), Ratio(2.5), Count(1.25, 2), Area(1.5e6), Run(2500.0))
    ] == [*("12,5 mm", "12,5\u202f%", "2,5\u202f:\u202f1", "1,25", "1,50 m²", "2,50 m")]
    assert voice.say(Money(-1234.5)) == "−1\u202f234,50"
    assert inches.say(mm(12.7)) == "1/2 in"
    assert inches.say(Run(1828.8)) == "2,00 yd"
    assert voice.say(listed([bare(12.5, fine=True), bare(13.0)])) == "12,5; 13"
    assert voice.say(listed([bare(12.0), bare(13.0)])) == "12, 13"
    assert [voice.say(trn("{n} seam", "{n} seams", n)) for n in (0, 1, 2)] == ["0 Nähte", "1 Naht", "2 Nähte"]
    assert voice.sentence(tr("under {step}", step=mm(1.0))) == "Unter 1 mm"


@tried(300)
@given(st.floats(0.1, 90_000.0), st.sampled_from(Unit), st.booleans())
def test_what_is_written_is_read_again(length: float, unit: Unit, with_unit: bool) -> None:
    for voice in (Voice(unit), Voice(unit, GERMAN)):
        words = voice.length(length, fine=True, with_unit=with_unit)
        again = parse_length(words, unit)
        assert again == pytest.approx(length, abs=unit.fine_step * 0.51)
        assert voice.length(again, fine=True, with_unit=with_unit) == words


@tried(200)
@given(st.lists(st.integers(10, 30_000), min_size=1, max_size=6), st.sampled_from(Unit))
def test_lists_of_lengths_are_read_again(tenths: list[int], unit: Unit) -> None:
    lengths = [tenth * unit.fine_step for tenth in tenths]
    voice = Voice(unit, GERMAN)
    assert parse_lengths(voice.say(listed(bare(length, fine=True) for length in lengths)), unit) == pytest.approx(lengths)
    line = "; ".join(f"{letter} {voice.length(length, fine=True)}" for letter, length in zip("ABCDEF", lengths, strict=False))
    assert [many[0] for many in read_card(line, list("ABCDEF"), unit).values()] == pytest.approx(lengths)


@tried(200)
@given(st.integers(1, 9999))
def test_shares_and_ratios_are_read_again(parts: int) -> None:
    voice = Voice(Unit.MM, GERMAN)
    assert parse_share(voice.say(Share(parts / 10_000.0, 2))) == pytest.approx(parts / 10_000.0)
    assert parse_number(voice.say(Ratio(parts / 100.0))) == pytest.approx(parts / 100.0)


@pytest.mark.parametrize("sample", SAMPLES[:: one_in(6)], ids=lambda s: s.__name__)
def test_what_is_for_programs_has_no_decimal_comma(sample: object, tmp_path: Path) -> None:
    job: Job = sample()  # type: ignore[operator]
    german, english = (Order(draft(job), Voice(job.unit, tongue), "A4") for tongue in (GERMAN, Voice().tongue))
    if EXPORTS["dxf"].possible(german.draft):
        for key in ("obj", "ply"):
            assert EXPORTS[key].make(german) == EXPORTS[key].make(english), key
        assert not re.search(rb"(?m)^ *-?\d+,\d+ *$", EXPORTS["dxf"].make(german))
    told = json.loads(EXPORTS["json"].make(german))
    assert [panel["cut"] for panel in told["panels"]] == [p["cut"] for p in json.loads(EXPORTS["json"].make(english))["panels"]]
    table = tmp_path / "readings.csv"
    table.write_bytes(EXPORTS["taken"].make(german))
    back = {reading.place: reading.repeats for reading in read_readings(table, replace(job, readings=()))}
    assert back == {r.place: pytest.approx(r.repeats, abs=0.01) for r in job.readings if r.place in back}
    assert len(back) == len(job.readings) > 0


@pytest.mark.parametrize(("form", "scheme"), lawful_pairs()[:: one_in(6)])
def test_whatever_is_drafted_can_be_told(form: str, scheme: str) -> None:
    drafted, voice = draft(starter(form, scheme)), Voice(Unit.MM, GERMAN)
    told = [voice.say(finding.text) for finding in drafted.findings] + [voice.say(term(panel.name)) for panel in drafted.panels]
    assert all(told)
    assert not any("{" in words for words in told)


def test_a_language_travels_to_a_worker_by_its_code() -> None:
    packed = pickle.dumps(GERMAN)
    assert len(packed) < 200
    assert pickle.loads(packed) is GERMAN
    assert isinstance(GERMAN, Spoken)
    assert tongue_of("xx") is tongue_of("en")


@pytest.mark.parametrize(
    ("said", "code"),
    [
        ({}, "en"),
        ({"LANG": "de_DE.UTF-8"}, "de"),
        ({"LANG": "de_DE.UTF-8", "LC_ALL": "C.UTF-8"}, "en"),
        ({"LANG": "en_GB.UTF-8", "LC_MESSAGES": "de_CH"}, "de"),
        ({"LANG": "de_DE.UTF-8", "LANGUAGE": "xx:en:de"}, "en"),
        ({"LANG": "deutsch"}, "en"),
    ],
)
def test_the_desktop_says_which(said: dict[str, str], code: str) -> None:
    assert of_the_desktop(said) == code


def test_the_command_line_speaks_it(tmp_path: Path) -> None:
    job = tmp_path / "job.json"
    job.write_text(dumped(starter("drum", "wall-and-lid")), encoding="utf-8")

    def ran(*arguments: str) -> subprocess.CompletedProcess[str]:
        command = [sys.executable, "-m", "omnipel.cli", *arguments]
        environment = {
            "LANG": "de_DE.UTF-8",
            "PYTHONPATH": str(ROOT / "src"),
            "PATH": "",
            "HOME": str(tmp_path),
            "PYTHONUTF8": "1",
        }
        return subprocess.run(command, capture_output=True, text=True, check=False, env=environment)

    drafted = ran("draft", str(job))
    assert "Deckel   1-mal zuschneiden" in drafted.stdout
    assert re.search(r"Luft|Spielraum", drafted.stdout)
    wrong = ran("draft", str(tmp_path / "none.json"))
    assert wrong.returncode == 2
    assert len(wrong.stderr.splitlines()) == 1
    assert "Umriss" in ran("--help").stdout


@pytest.mark.parametrize("command", ["check", "draft", "lay", "takeoff", "order", "advise", "fits"])
def test_what_the_command_line_says_of_a_job_is_german(
    command: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setenv("LANGUAGE", "de")
    path = tmp_path / "fass.omnipel.json"
    own = "wall to lid"  # what a person called it is nobody's to translate, whatever the catalogue knows
    path.write_text(dumped(replace(starter("drum", "wall-and-lid"), name=own)), encoding="utf-8")
    main([command, str(path), *{"lay": ["--seconds", "1"], "fits": ["--piece", "600x900"]}.get(command, [])])
    printed = capsys.readouterr()
    text = re.sub(r"\[[\w-]+ \S+ .*\]", "", printed.out + printed.err)  # the code of a finding and its place are for programs
    assert len(text) > 20
    english = re.compile(
        r"\b(the|and|outer|flat|note|wide|long|cut|used|seam|hem|wall|lid|cloth|finished|step|to buy|minutes|does|nothing)\b",
        re.I,
    )
    assert english.findall(text.replace(own, "")) == []
    if command in ("draft", "order"):
        assert own in text.splitlines()[0]
