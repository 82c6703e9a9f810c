"""An outing as a calendar file, and outings out of one (iCalendar, RFC 5545)."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta, tzinfo
from typing import Annotated
from uuid import NAMESPACE_URL, uuid5

import icalendar

from jackstaff_core.outing.plan import check_one_line
from jackstaff_core.wire.marks import Between, Checked, Size
from jackstaff_core.wire.reader import FIRST_YEAR, LAST_YEAR
from jackstaff_core.words.refusal import Refusal, within

MOST_ENTRIES = 500
MOST_LETTERS = 200
LONGEST = timedelta(days=7)
MOST_ZONE_RULES = 50
_RULE_PARTS = {"FREQ", "BYMONTH", "BYDAY", "BYMONTHDAY", "UNTIL", "WKST"}
"""What a change of clocks is told by: once a year, on one day."""


@dataclass(frozen=True, slots=True)
class Entry:
    """One line of the calendar, in UTC; ``alarm_minutes`` before its start, None for no alarm."""

    title: Annotated[str, Size(1, MOST_LETTERS), Checked(check_one_line)]
    start: datetime
    end: datetime
    note: Annotated[str, Size(0, 2000)] = ""
    latitude: Annotated[float, Between(-90, 90, "degrees")] | None = None
    longitude: Annotated[float, Between(-180, 180, "degrees")] | None = None
    alarm_minutes: Annotated[int, Between(0, 1440, "min")] | None = None


def write(name: str, entries: list[Entry], written_at: datetime) -> bytes:
    """Return a calendar file; the same entry keeps its identity from one export to the next.

    Raises
    ------
    Refusal
        An entry that ends before it starts, or lasts over 7 days.
    """
    calendar = icalendar.Calendar()
    calendar.add("prodid", "-//Jackstaff//Outing//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    met: Counter[str] = Counter()
    for place, entry in enumerate(entries):
        if not timedelta(0) <= entry.end - entry.start <= LONGEST:
            problem = "This entry ends before it starts." if entry.end < entry.start else "This lasts over 7 days."
            raise Refusal(f"entries.{place}.end", problem, "Give an end within 7 days of the start.")
        event = icalendar.Event()
        # The second entry of a title (blue hour comes twice a day) is another entry.
        turn = f":{met[entry.title]}" if met[entry.title] else ""
        met[entry.title] += 1
        event.add("uid", f"{uuid5(NAMESPACE_URL, f'jackstaff:{name}:{entry.title}{turn}')}@jackstaff")
        event.add("dtstamp", written_at.astimezone(UTC))
        event.add("dtstart", entry.start.astimezone(UTC))
        event.add("dtend", entry.end.astimezone(UTC))
        event.add("summary", entry.title)
        if entry.note:
            event.add("description", entry.note)
        if entry.latitude is not None and entry.longitude is not None:
            event.add("geo", (entry.latitude, entry.longitude))
        if entry.alarm_minutes is not None:
            alarm = icalendar.Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", entry.title)
            alarm.add("trigger", timedelta(minutes=-entry.alarm_minutes))
            event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def read(text: str, zone: tzinfo = UTC) -> list[Entry]:
    """Return the dated entries of a calendar file, earliest first; times without a zone are by the clocks of ``zone``.

    Raises
    ------
    Refusal
        Not a calendar, no entry in it, too many, or an entry whose time cannot be read; nothing is taken.
    """
    _whole(text)
    try:
        calendar = icalendar.Calendar.from_ical(text)
    except Exception as fault:  # the library raises many kinds; all mean the same to a person
        reason = str(fault).splitlines()[0][:80] if str(fault) else type(fault).__name__
        raise Refusal(
            "text", f"The file is not a sound calendar: {reason}.", "Export it again, as iCalendar (.ics)."
        ) from None
    if calendar.name != "VCALENDAR":
        raise Refusal("text", "The file is not a calendar.", "Give a file that begins with BEGIN:VCALENDAR.")
    events = calendar.walk("VEVENT")
    if not events:
        raise Refusal("text", "There is no entry in this calendar.", "Give one with at least one event.")
    if len(events) > MOST_ENTRIES:
        raise Refusal("text", f"{len(events)} entries are too many.", f"Give at most {MOST_ENTRIES}.")
    return sorted((_entry(place, event, zone) for place, event in enumerate(events)), key=lambda entry: entry.start)


def _whole(text: str) -> None:
    """Check that a file is whole and its zones change their clocks as clocks do.

    The library forgives a file that was broken off, and half a plan must not be taken for a whole one. It also counts
    out every change of clocks by a zone's rules.
    """
    open_: list[str] = []
    rules = 0
    for number, line in enumerate(_unfolded(text), 1):
        what, _, name = line.strip().upper().partition(":")
        if what.partition(";")[0] in {"RRULE", "RDATE"} and "VTIMEZONE" in open_:
            rules += 1
            if rules > MOST_ZONE_RULES or not _yearly(what, name):
                raise Refusal(
                    "text", "A time zone of this calendar changes its clocks oddly.", "Export it again, with UTC times."
                )
        if what == "BEGIN":
            open_.append(name)
        elif what == "END" and (not open_ or open_.pop() != name):
            raise Refusal("text", f"Line {number} ends {name or 'something'} that is not open.", "Export it again.")
    if open_:
        raise Refusal("text", f"The file breaks off inside {open_[-1]}.", "Export it again, whole.")


def _unfolded(text: str) -> list[str]:
    """Return the content lines: one that begins with white space goes on with the line before it."""
    return text.replace("\r\n", "\n").replace("\n ", "").replace("\n\t", "").splitlines()


def _yearly(what: str, rule: str) -> bool:
    """Return whether a zone's rule names at most a change a year; a list of dates is as long as the file."""
    if what.startswith("RDATE"):
        return True
    parts = dict(part.partition("=")[::2] for part in rule.split(";") if part)
    return parts.get("FREQ") == "YEARLY" and parts.keys() <= _RULE_PARTS and "," not in parts.get("BYMONTH", "")


def _entry(place: int, event: icalendar.cal.Component, zone: tzinfo) -> Entry:
    where = f"entries.{place}"
    # The library keeps a line it could not read as an error instead of raising it.
    if event.errors:
        what = ", ".join(sorted({str(name) for name, _ in event.errors if name})) or "a line"
        raise Refusal(where, f"Entry {place + 1} cannot be read ({what}).", "Mend or remove it, then try again.")
    start = _instant(f"{where}.start", event.get("dtstart"), zone)
    if start is None:
        raise Refusal(f"{where}.start", f"Entry {place + 1} has no start.", "Mend or remove it, then try again.")
    end = _instant(f"{where}.end", event.get("dtend"), zone)
    if end is None:
        length = event.get("duration")
        end = start + (length.dt if length is not None and isinstance(length.dt, timedelta) else timedelta(hours=1))
    if not timedelta(0) <= end - start <= LONGEST:
        raise Refusal(
            f"{where}.end", f"Entry {place + 1} ends before it starts or lasts over 7 days.", "Mend or remove it."
        )
    latitude, longitude = _geo(where, event.get("geo"))
    title = " ".join(str(event.get("summary", "")).split())[:MOST_LETTERS] or f"Entry {place + 1}"
    return Entry(title, start, end, str(event.get("description", ""))[:2000], latitude, longitude)


def _instant(field: str, value: object, zone: tzinfo) -> datetime | None:
    if value is None:
        return None
    at = getattr(value, "dt", None)
    if isinstance(at, datetime):
        found = at if at.tzinfo else at.replace(tzinfo=zone)
    elif isinstance(at, date):
        found = datetime(at.year, at.month, at.day, tzinfo=zone)
    else:
        raise Refusal(field, "This is no date or time.", "Mend or remove the entry.")
    if not FIRST_YEAR <= found.year <= LAST_YEAR:
        raise Refusal(
            field, f"The year {found.year} is out of reach.", f"Give a year from {FIRST_YEAR} to {LAST_YEAR}."
        )
    return found.astimezone(UTC)


def _geo(where: str, value: object) -> tuple[float | None, float | None]:
    latitude, longitude = getattr(value, "latitude", None), getattr(value, "longitude", None)
    if latitude is None or longitude is None or not math.isfinite(latitude * longitude):
        return None, None
    within(f"{where}.latitude", latitude, -90, 90, "degrees")
    within(f"{where}.longitude", longitude, -180, 180, "degrees")
    return float(latitude), float(longitude)
