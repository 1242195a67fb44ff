"""The logbook on paper, as plain data, as dates for a calendar: each read back."""

import io
import json
from dataclasses import replace
from datetime import date, timedelta

import pytest
from icalendar import Calendar
from pdfminer.high_level import extract_pages, extract_text
from pdfminer.layout import LTChar, LTImage, LTTextContainer
from tests.shop.test_photos import picture

from omnipel.core.draft import draft
from omnipel.core.job.document import ClothChoice, Job
from omnipel.core.job.thing import Lives
from omnipel.core.job.trying import Entry, Happened, Photo, Stage, TryOn, Went
from omnipel.core.learning.logbook import dues
from omnipel.core.words.phrases import Voice
from omnipel.core.words.units import Unit
from omnipel.exchange.asked import NotExported, Order
from omnipel.exchange.export import exported
from omnipel.exchange.exports import EXPORTS
from omnipel.shop.photos import prepared
from omnipel.shop.sample.round import rain_butt_west, rain_butt_west_again
from omnipel.shop.sample.tried import tried
from omnipel.shop.starter import starter

DIGEST, CONTENT = prepared(picture())


def order(job: Job, *others: Job, paper: str = "A4") -> Order:
    return Order(draft(job), Voice(job.unit), paper, others=others, photos={DIGEST: CONTENT})


def west() -> Job:
    job = tried(rain_butt_west())
    photos = (Photo(digest=DIGEST),) * 1
    return replace(job, tries=(replace(job.tries[0], photos=photos), *job.tries[1:]))


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_the_report_tells_the_story_with_sizes_and_photos(paper: str) -> None:
    pdf = exported(EXPORTS["logbook"], order(west(), tried(rain_butt_west_again()), paper=paper))
    text = " ".join(extract_text(io.BytesIO(pdf)).split())
    for words in ("Logbook", "stands: west gate", "First try-on, 2025-10-18: does not go on", "stops at the hoop", "was read 3 5⁄16 in short",
                  "To be done: set in a strip", "80 15/16", "Changed", "Retired", "cut up for patches", "West butt 2", "77 3⁄4"):  # fmt: skip
        assert words.replace("⁄", "/").casefold() in text.replace("⁄", "/").casefold(), (words, text)
    assert " mm" not in text
    images = 0
    for page in extract_pages(io.BytesIO(pdf)):
        for box in page:
            images += sum(isinstance(item, LTImage) for item in (box if hasattr(box, "__iter__") else [box]))
            if isinstance(box, LTTextContainer):
                assert 20.0 <= box.x0 <= box.x1 <= page.width - 20.0, box.get_text()
                sizes = [c.size for line in box if hasattr(line, "__iter__") for c in line if isinstance(c, LTChar)]
                assert min(sizes, default=9.0) >= 6.0
    assert images == 1


def test_a_job_without_a_word_in_its_log_and_one_not_drafted_have_a_report_too() -> None:
    text = extract_text(io.BytesIO(exported(EXPORTS["logbook"], order(starter("drum", "wall-and-lid")))))
    assert "Nothing is written down yet." in text
    bare = starter("drum", "wall-and-lid", with_readings=False)
    assert exported(EXPORTS["logbook"], order(bare)).startswith(b"%PDF")
    odd = replace(bare, name="½ <b>&\u202e" * 8, log=(Entry(happened=Happened.MENDED, words="— ž 漢 \u0000 <i>" * 60),))
    assert exported(EXPORTS["logbook"], order(odd)).startswith(b"%PDF")


def test_plain_data_holds_all_of_it() -> None:
    data = json.loads(exported(EXPORTS["log"], order(west(), tried(rain_butt_west_again()))))
    assert (data["format"], data["version"]) == ("omnipel-log", 1)
    first, second = data["covers"]
    assert [one["went"] for one in first["tries"]] == ["does not go on", "right", "right"]
    assert first["tries"][0]["made"]["again:girth"] == pytest.approx(1974.85)
    assert first["alterations"][0]["deed"] == "strip let in"
    assert [entry["happened"] for entry in first["log"]] == ["changed", "re-proofed", "retired"]
    assert first["due"] == []
    assert second["due"]
    assert second["again_of"] == "West butt"


def test_dates_are_read_by_a_calendar() -> None:
    job = starter("drum", "wall-and-lid")
    job = replace(
        job,
        name="Drum; with, commas\nand lines",
        place="yard",
        tries=(TryOn(stage=Stage.FINISHED, day="2026-10-14", went=Went.RIGHT),),
        thing=replace(job.thing, lives=Lives.OUTDOORS),
        cover=replace(job.cover, cloth=ClothChoice(outdoors=True)),
    )
    content = exported(EXPORTS["calendar"], order(job))
    assert content.startswith(EXPORTS["calendar"].begins)
    assert content == exported(EXPORTS["calendar"], order(job))
    assert b"\r\n" in content
    assert max(len(line) for line in content.split(b"\r\n")) <= 75
    read = Calendar.from_ical(content)
    events = read.walk("VEVENT")
    assert [event["DTSTART"].dt for event in events] == [date.fromisoformat(due.day) for due in dues(job)]
    assert str(events[0]["SUMMARY"]) == "Drum; with, commas\nand lines: look at it"
    assert "a look every year" in str(events[0]["DESCRIPTION"])
    assert len({str(event["UID"]) for event in events}) == len(events)
    assert events[0].walk("VALARM")[0]["TRIGGER"].dt == timedelta(days=-7)
    for nothing in (starter("drum", "wall-and-lid"), replace(job, log=(Entry(happened=Happened.RETIRED),))):
        with pytest.raises(NotExported, match="nothing is due"):
            exported(EXPORTS["calendar"], order(nothing))


def test_inches_are_told_in_inches() -> None:
    job = replace(starter("box", "saddle-and-ends", Unit.INCH_16), tries=(TryOn(made={"edge:lower edge": 1500.0}),))
    text = extract_text(io.BytesIO(exported(EXPORTS["logbook"], order(job))))
    assert "mm" not in text
    assert "lengths in inches" in text
