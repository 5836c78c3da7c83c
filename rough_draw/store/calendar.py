"""Touches of a day as a calendar file (.ics)."""

from __future__ import annotations

from datetime import UTC, timedelta

from icalendar import Alarm, Calendar, Event

from rough_draw.core.message import message
from rough_draw.core.planning.pump_use import name_of
from rough_draw.core.planning.schedule import Planned
from rough_draw.store.moments import moment
from rough_draw.text import say


def ics(jobs: list[Planned]) -> bytes:
    """One event a touch that needs a hand, at its expected time, with the span it may fall in. RFC 5545."""
    calendar = Calendar()
    calendar.add("prodid", "-//Rough Draw//day//EN")
    calendar.add("version", "2.0")
    for job in jobs:
        if job.start is None:
            continue
        for t in job.touches:
            at = moment(job.start + t.at.value, UTC).replace(microsecond=0)
            event = Event()
            event.add("uid", f"{job.key}-{t.kind}@rough-draw")
            event.add("dtstamp", moment(job.start, UTC).replace(microsecond=0))
            event.add("dtstart", at)
            event.add("dtend", at + timedelta(seconds=max(60.0, t.hands)))
            event.add("summary", say(message("calendar-summary", step=t.title, job=job.title)))
            early, late = (moment(job.start + x).strftime("%H:%M") for x in (t.at.low, t.at.high))
            told = {"early": early, "late": late, "pump": name_of(job.pump)}
            event.add("description", say(message("calendar-description", **told)))
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", say(t.title))
            alarm.add("trigger", timedelta(minutes=-2))
            event.add_component(alarm)
            calendar.add_component(event)
    body: bytes = calendar.to_ical()
    return body
