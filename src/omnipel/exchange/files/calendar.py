"""Due dates as an iCalendar file (RFC 5545): one all-day event for each thing that is due, with what and why."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, date, datetime, timedelta
from hashlib import sha256
from typing import Final

from omnipel.core.job.document import Job
from omnipel.core.learning.logbook import dues, made_on
from omnipel.core.words.phrases import Name, Voice, tr

PRODUCT: Final = "-//Omnipel//covers//EN"
AHEAD: Final = timedelta(days=-7)
"""It is reminded of a week before."""


def calendar(jobs: Sequence[Job], voice: Voice) -> bytes:
    """All that is due of some covers."""
    from icalendar import Alarm, Calendar, Event  # only for who writes one

    made = Calendar()
    made.add("prodid", PRODUCT)
    made.add("version", "2.0")
    for job in jobs:
        for due in dues(job):
            event = Event()
            words = voice.say(tr("{job}: {what}", job=Name(job.name), what=due.words))
            event.add("uid", sha256(f"{job.name}|{job.thing.form}|{due.words.template}|{due.day}".encode()).hexdigest()[:32])
            event.add("dtstamp", _made(job))
            event.add("dtstart", date.fromisoformat(due.day))
            event.add("dtend", date.fromisoformat(due.day) + timedelta(days=1))
            event.add("summary", words)
            event.add("description", voice.sentence(due.reason))
            if job.place:
                event.add("location", job.place)
            event.add("transp", "TRANSPARENT")
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", words)
            alarm.add("trigger", AHEAD)
            event.add_component(alarm)
            made.add_component(event)
    return bytes(made.to_ical())


def _made(job: Job) -> datetime:
    """When it was made stands for when this was said: the same job makes the same file."""
    day = date.fromisoformat(made_on(job) or "2000-01-01")
    return datetime(day.year, day.month, day.day, tzinfo=UTC)
