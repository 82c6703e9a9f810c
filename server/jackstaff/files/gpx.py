"""Places out of a GPX file and into one.

Waypoints, route points and the ends of tracks are places one might photograph from. The text goes through a parser
that knows no entities first; then only what is asked for is taken, each number checked.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated, Literal
from xml.etree.ElementTree import ParseError

import gpxpy
import gpxpy.gpx
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from jackstaff_core.outing.plan import check_one_line
from jackstaff_core.wire.marks import Between, Checked, Size
from jackstaff_core.words.refusal import Refusal, within

MOST_PLACES = 500
MOST_LETTERS = 60
_NOT_IN_XML = str.maketrans("\ufffe\uffff", "  ")
"""What XML cannot hold even as a number (1.0, section 2.2), beside the control characters that no name has."""


@dataclass(frozen=True, slots=True)
class Spot:
    """A named place; ``sort`` is waypoint, route or track."""

    name: Annotated[str, Size(1, MOST_LETTERS), Checked(check_one_line)]
    latitude: Annotated[float, Between(-90, 90, "degrees")]
    longitude: Annotated[float, Between(-180, 180, "degrees")]
    sort: Literal["waypoint", "route", "track"] = "waypoint"


def read(text: str) -> list[Spot]:
    """Return every place of a GPX file, in its order.

    Raises
    ------
    Refusal
        Not XML, entities in it, not GPX, no place in it, too many, or a coordinate that is none; nothing is taken.
    """
    try:
        root = fromstring(text.encode(), forbid_dtd=True)
    except DefusedXmlException:
        raise Refusal(
            "text", "The file defines entities, which a GPX file has no use for.", "Export the places again."
        ) from None
    except (ParseError, ValueError, LookupError) as fault:
        at = f" (line {fault.position[0]})" if isinstance(fault, ParseError) else ""
        raise Refusal("text", f"The file is not sound XML{at}.", "Export the places again, as GPX.") from None
    if root.tag.rpartition("}")[2] != "gpx":
        raise Refusal("text", "The file is XML, but not GPX.", "Give a file that begins with <gpx>.")
    try:
        document = gpxpy.parse(text)
    except Exception as fault:  # the library raises many kinds; all mean the same to a person
        raise Refusal("text", f"The GPX cannot be read: {_said(fault)}.", "Export the places again.") from None
    spots = list(_spots(document))
    if not spots:
        raise Refusal("text", "There is no place in this file.", "Give a file with a waypoint, a route or a track.")
    if len(spots) > MOST_PLACES:
        raise Refusal("text", f"{len(spots)} places are too many.", f"Give a file with at most {MOST_PLACES}.")
    for place, spot in enumerate(spots):
        within(f"places.{place}.latitude", spot.latitude, -90, 90, "degrees")
        within(f"places.{place}.longitude", spot.longitude, -180, 180, "degrees")
    return spots


def _said(fault: Exception) -> str:
    """Return the library's own words, on one line and without what XML it quotes."""
    return str(fault).splitlines()[0][:80].rstrip(".") if str(fault) else type(fault).__name__


def _spots(document: gpxpy.gpx.GPX) -> Iterator[Spot]:
    for number, point in enumerate(document.waypoints, 1):
        yield Spot(_name(point.name, f"Waypoint {number}"), point.latitude, point.longitude, "waypoint")
    for number, route in enumerate(document.routes, 1):
        for step, stop in enumerate(route.points, 1):
            yield Spot(_name(stop.name, f"Route {number}, point {step}"), stop.latitude, stop.longitude, "route")
    for number, track in enumerate(document.tracks, 1):
        points = [step for segment in track.segments for step in segment.points]
        ends = (("start", points[:1]), ("end", points[-1:] if len(points) > 1 else []))
        for which, end in ends:
            for last in end:
                title = f"{_name(track.name, f'Track {number}')}, {which}"
                yield Spot(_name(title, title), last.latitude, last.longitude, "track")


def _name(given: str | None, otherwise: str) -> str:
    return " ".join((given or otherwise).split())[:MOST_LETTERS] or otherwise


def write(spots: list[Spot]) -> str:
    """Return a GPX 1.1 file with a waypoint for each place."""
    document = gpxpy.gpx.GPX()
    document.creator = "Jackstaff"
    for spot in spots:
        document.waypoints.append(
            gpxpy.gpx.GPXWaypoint(
                latitude=spot.latitude, longitude=spot.longitude, name=spot.name.translate(_NOT_IN_XML)
            )
        )
    return document.to_xml(version="1.1")
