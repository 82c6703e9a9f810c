"""What a frame of a dry run came out as, and why: exposure part by part, faults of forgotten steps, looks, histogram.

    came out = log2(light gathered / light needed) - on purpose          [stops, + brighter]
             = timing + filters + reading + decided + light

Each part is what changes when one thing after another is put as it was meant: the time as aimed at, the filters as
reckoned, the meter as it should have read; what is left beside purpose and correction is the light's own doing. They
add up exactly, film included. A forgotten step shows where it would:

    leak    log2(1 + n 2^(D - 13)) through n ways in, D stops on the lens, once it reaches a tenth of a stop
    shake   strap in wind; a finger on a frame of 1/15 to 8 s, or holding bulb; a stabiliser from 1 s on
    focus   not locked behind two stops or more: it hunts
    corner, cross, cast   by the rig's own findings and the filters' hidden shift

Source: moving_light/integral.py, stacks/rules.py, run/checklist.py; the thresholds are ours. Limits: one light over
the picture, a histogram of its tones with half a stop of spread. Verdict: computed on made-up light; faults are class.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime
from enum import StrEnum
from statistics import NormalDist
from typing import Annotated
from uuid import UUID

from ...camera.reading import Given, aperture, iso
from ...exposure.calculation import STRAY_LIGHT_STOPS
from ...log.frame import Defect
from ...log.review import FINDINGS
from ...motion.looks import Rendering, looks_at
from ...moving_light.integral import film_gathered, gathered
from ...run.checklist import WINDY_M_S, Armed, arm
from ...run.checklist import CheckLine as ListLine
from ...scales.ladders import LONGEST_SECONDS, SHORTEST_SECONDS
from ...scales.spoken import stops_shown, tenths_in_words
from ...stacks.rules import On, Rig, stack_findings
from ...wire.marks import Between, Size
from ...words.refusal import Refusal
from .scenario import MOST_FILTERS, Framing, Part, Scenario, aim_of, hidden_stops, looks_of
from .world import FilterOn, labelled_stops, light_path_from, scene_light, true_stops

LEAK_SEEN_STOPS = 0.1
CAST_SEEN_MIRED = 25.0
HUNTS_FROM_STOPS = 2.0
FINGER_FROM_SECONDS, FINGER_TO_SECONDS = 1 / 15, 8.0
STABILISER_FROM_SECONDS = 1.0
UNEVEN = {
    "rims_clip": Defect.CORNER,
    "rims_unknown": Defect.CORNER,
    "uneven": Defect.CROSS,
    "past_clean_end": Defect.CROSS,
}
GREY = 0.18
TONE_SPREAD_STOPS = 0.5
BINS = 32
_BELL = NormalDist()
NEAR_STOPS = 1 / 6
"""A part of an error smaller than this is nobody's mistake: a dial has no finer mark."""

Seconds = Annotated[float, Between(SHORTEST_SECONDS, LONGEST_SECONDS, "s")]
Stops = Annotated[float, Between(-20, 20, "stops")]


@dataclass(frozen=True, slots=True)
class ShotGlass:
    """A filter of the frame as it was reckoned [stops]; ``in_reading`` where the meter saw through it."""

    id: UUID
    stops: Annotated[float, Between(0, 30, "stops")]
    in_reading: bool = False

    @property
    def on(self) -> FilterOn:
        """The filter as it sits on the lens."""
        return FilterOn(self.id, self.stops)


class Purpose(StrEnum):
    """What a frame of a dry run was taken for."""

    FRAME = "frame"
    FIRST_LOOK = "first_look"
    """A trial or a rehearsal: neither its length nor its looks are judged."""
    DARK = "dark"


@dataclass(frozen=True, kw_only=True, slots=True)
class Shot:
    """A frame as it was taken.

    ``metered_seconds`` is what the metering's light asked for in its sum, correction and
    purpose in it; ``aimed_seconds`` what the light asked for in the end. ``prepared`` are the lines of the list that
    were done, by their codes.
    """

    framing: Annotated[int, Between(0, 3)]
    opened_at: datetime
    seconds: Seconds
    aimed_seconds: Seconds
    metered_seconds: Seconds
    metered_at: datetime | None = None
    aperture: Given
    iso: Given
    stack: Annotated[tuple[ShotGlass, ...], Size(0, MOST_FILTERS)] = ()
    correction_stops: Stops = 0.0
    purpose_stops: Stops = 0.0
    decided_stops: Stops = 0.0
    prepared: Annotated[tuple[Annotated[str, Size(1, 24)], ...], Size(0, 12)] = ()
    purpose: Purpose = Purpose.FRAME


class ErrorSource(StrEnum):
    """Where a part of the error comes from."""

    TIMING = "timing"
    FILTERS = "filters"
    READING = "reading"
    DECIDED = "decided"
    LIGHT = "light"


@dataclass(frozen=True, slots=True)
class ErrorPart:
    """A part of how the frame came out [stops, + brighter]."""

    cause: ErrorSource
    stops: float
    text: str


class FaultCode(StrEnum):
    """What can spoil a frame."""

    LEAK = "leak"
    SHAKE = "shake"
    FOCUS = "focus"
    CORNER = "corner"
    CROSS = "cross"
    CAST = "cast"
    CLIPPED = "clipped"

    @property
    def spoils(self) -> bool:
        """Whether the frame is lost by it; the others are mended in the edit."""
        return self not in (FaultCode.CAST, FaultCode.CLIPPED)


@dataclass(frozen=True, slots=True)
class Fault:
    """What one sees in the picture; ``step`` is the line of the list that would have caught it."""

    code: FaultCode
    text: str
    cure: str
    step: str | None = None
    stops: float | None = None


@dataclass(frozen=True, slots=True)
class DrawnTone:
    """A part of the picture as it came out: linear brightness, 1 where it is white."""

    part: Part
    share: float
    brightness: float


@dataclass(frozen=True, slots=True)
class Developed:
    """How a frame came out. ``window_stops`` is how far its time lies outside the wished looks (+ too long), 0 inside.

    ``histogram`` are shares of the picture from black to white; ``busy_seconds`` how long the camera stays dead after.
    """

    error_stops: float
    parts: tuple[ErrorPart, ...]
    window_stops: float
    faults: tuple[Fault, ...]
    renderings: tuple[Rendering, ...]
    tones: tuple[DrawnTone, ...]
    histogram: tuple[float, ...]
    clipped_share: float
    cast_mired: float
    busy_seconds: float
    text: str


@dataclass(frozen=True, slots=True)
class DevelopQuestion:
    """A frame just taken; ``through_before`` are the filters that a frame was seen through already."""

    scenario: Scenario
    shot: Shot
    through_before: Annotated[tuple[UUID, ...], Size(0, MOST_FILTERS)] = ()


def develop(question: DevelopQuestion) -> Developed:
    """Work out what the frame came out as.

    Raises
    ------
    Refusal
        A picture or filter that the scenario has not, or marks that are none.
    """
    scenario, shot = question.scenario, question.shot
    framing = scenario.framing(shot.framing)
    error_stops, parts = _error(scenario, framing, shot)
    cast = (
        0.0
        if scenario.film
        else sum(hidden_stops(scenario, scenario.filter(each.id)).cast_mired for each in shot.stack)
    )
    _, clipped = histogram_of(framing, error_stops + shot.purpose_stops)
    faults = () if shot.purpose is Purpose.DARK else tuple(_faults(question, framing, cast, clipped))
    window = window_stops(scenario, framing, shot.seconds) if shot.purpose is Purpose.FRAME else 0.0
    busy = shot.seconds if scenario.body.noise_reduction != "off" and shot.seconds >= 1 else 0.0
    renderings = looks_at(looks_of(scenario, framing), shot.seconds)
    drawn = drawn_frame(framing, error_stops + shot.purpose_stops, faults, cast)
    return replace(
        drawn,
        error_stops=error_stops,
        parts=parts,
        window_stops=window,
        renderings=renderings,
        busy_seconds=busy,
        text=_error_in_words(error_stops),
    )


def loss_score(developed: Developed) -> float:
    """Return the stops off, stops outside the looks, and two for each fault that spoils."""
    spoiled = sum(fault.code.spoils for fault in developed.faults)
    return abs(developed.error_stops) + abs(developed.window_stops) + 2 * spoiled


def drawn_frame(framing: Framing, stops: float, faults: tuple[Fault, ...], cast_mired: float) -> Developed:
    """Return a picture so many stops above its tones, with these faults, as it is drawn; nothing is said of a shot.

    Parameters
    ----------
    framing : Framing
        The picture that is framed.
    stops : float
        Above the picture's own tones.
    faults : tuple[Fault, ...]
        Drawn into it.
    cast_mired : float
        + warmer.
    """
    histogram, clipped = histogram_of(framing, stops)
    tones = tuple(
        DrawnTone(tone.part, tone.share, min(1.0, GREY * math.exp2(tone.stops + stops))) for tone in framing.tones
    )
    text = _error_in_words(stops)
    return Developed(stops, (), 0.0, faults, (), tones, histogram, clipped, cast_mired, 0.0, text)


def needed_seconds(scenario: Scenario, framing: Framing, shot: Shot) -> float:
    """Return the time that the light at the opening asks for, through what is really on, before film."""
    return _bare(scenario, shot) * math.exp2(
        sum(true_stops(scenario, each.on) for each in shot.stack)
        - scene_light(scenario, framing, scenario.second(shot.opened_at))
    )


def _bare(scenario: Scenario, shot: Shot) -> float:
    """N^2/(S/100): the time at EV 0."""
    f_number = aperture("aperture", shot.aperture, scenario.step).exact
    return f_number**2 / (iso("iso", shot.iso, scenario.step).exact / 100)


def _error(scenario: Scenario, framing: Framing, shot: Shot) -> tuple[float, tuple[ErrorPart, ...]]:
    opened = scenario.second(shot.opened_at)
    path = light_path_from(scenario, framing, opened, max(shot.seconds, shot.aimed_seconds))
    law = scenario.law

    def exposed(seconds: float, needed: float) -> float:
        share = film_gathered(path, needed, law, seconds) if law else gathered(path, 0.0, seconds) / needed
        return math.log2(share)

    needed = needed_seconds(scenario, framing, shot)
    if not 1e-15 < needed < 1e18:
        raise Refusal("shot", "Such a frame is darker or brighter than any light.", "Check filters, aperture and ISO.")
    off = sum(each.stops - true_stops(scenario, each.on) for each in shot.stack if not each.in_reading)
    misread = _misread(scenario, framing, shot)
    real, aimed = exposed(shot.seconds, needed), exposed(shot.aimed_seconds, needed)
    reckoned = exposed(shot.aimed_seconds, needed * math.exp2(off))
    as_read = exposed(shot.aimed_seconds, needed * math.exp2(off - misread))
    error_stops = real - shot.purpose_stops
    sizes = {
        ErrorSource.TIMING: real - aimed,
        ErrorSource.FILTERS: aimed - reckoned + shot.correction_stops,
        ErrorSource.READING: reckoned - as_read,
        ErrorSource.DECIDED: shot.decided_stops,
        ErrorSource.LIGHT: as_read - shot.correction_stops - shot.purpose_stops - shot.decided_stops,
    }
    return error_stops, tuple(ErrorPart(cause, stops, _part_in_words(cause, stops)) for cause, stops in sizes.items())


def _misread(scenario: Scenario, framing: Framing, shot: Shot) -> float:
    """Return how much brighter than it was the sum took the light of the metering to be [stops].

    0 where nobody metered.
    """
    if shot.metered_at is None:
        return 0.0
    sum_stops = math.log2(shot.metered_seconds) - shot.correction_stops - shot.purpose_stops
    reckoned = sum(true_stops(scenario, each.on) if each.in_reading else each.stops for each in shot.stack)
    read = math.log2(_bare(scenario, shot)) + reckoned - sum_stops
    return read - scene_light(scenario, framing, scenario.second(shot.metered_at))


_WHY = {
    ErrorSource.TIMING: ("The shutter was open too long", "The shutter closed too early"),
    ErrorSource.FILTERS: ("The filters are lighter than reckoned", "The filters are denser than reckoned"),
    ErrorSource.READING: ("The light was read as darker than it was", "The light was read as brighter than it was"),
    ErrorSource.DECIDED: ("A longer time was chosen", "A shorter time was chosen"),
    ErrorSource.LIGHT: ("The light rose more than was allowed for", "The light fell more than was allowed for"),
}


def _part_in_words(cause: ErrorSource, stops: float) -> str:
    return f"{_WHY[cause][stops < 0]}: {tenths_in_words(stops)} {'brighter' if stops > 0 else 'darker'}."


def _error_in_words(stops: float) -> str:
    count = round(abs(stops) * 3)
    return "Right." if count == 0 else f"{stops_shown(count)} too {'bright' if stops > 0 else 'dark'}."


def window_stops(scenario: Scenario, framing: Framing, seconds: float) -> float:
    """Return how far a time lies outside what the wished looks allow [stops]; 0 inside, + too long.

    Parameters
    ----------
    scenario : Scenario
        The dry run.
    framing : Framing
        The picture that is framed.
    seconds : float
        Exposure [s].
    """
    aim = aim_of(scenario, framing)
    if aim is None:
        return 0.0
    if seconds < aim.from_seconds:
        return math.log2(seconds / aim.from_seconds)
    return max(0.0, math.log2(seconds / aim.to_seconds)) if aim.to_seconds else 0.0


def hands_checklist(scenario: Scenario, framing: Framing, shot: Shot) -> tuple[ListLine, ...]:
    """Return what hands do before this frame: the lines that the list of the screens has too."""
    return arm(
        Armed(
            shot.seconds,
            scenario.bulb(shot.seconds),
            _on(scenario, shot),
            body=scenario.body,
            lens=scenario.lens,
            holder=scenario.holder,
            support=scenario.support,
            release=scenario.release,
            wind_m_s=scenario.weather.wind_m_s,
            focal_mm=framing.focal_mm,
            iso=shot.iso,
            releases=1,
        )
    ).lines


def _on(scenario: Scenario, shot: Shot) -> tuple[On, ...]:
    items = [(scenario.filter(each.id), each) for each in shot.stack]
    return tuple(On(item.name, item.thing, labelled_stops(item, each.on), each.in_reading) for item, each in items)


def _faults(question: DevelopQuestion, framing: Framing, cast: float, clipped: float) -> Iterator[Fault]:
    scenario, shot = question.scenario, question.shot
    forgotten = {line.code for line in hands_checklist(scenario, framing, shot)} - set(shot.prepared)
    dense = sum(true_stops(scenario, each.on) for each in shot.stack)
    yield from _leak(scenario, shot, forgotten, dense)
    yield from _shake(scenario, shot, forgotten)
    if "focus" in forgotten and dense >= HUNTS_FROM_STOPS:
        yield Fault(FaultCode.FOCUS, "Out of focus: it hunted behind the filter.", "Focus bare, then lock it.", "focus")
    yield from _uneven(scenario, framing, shot)
    if abs(cast) >= CAST_SEEN_MIRED and not {each.id for each in shot.stack} <= set(question.through_before):
        way = "warmer" if cast > 0 else "colder"
        yield _of(Defect.CAST, f"The picture is {abs(cast):.0f} mired {way} through these filters.", None, None)
    if clipped >= 0.1 and not scenario.film:
        yield _of(Defect.CLIPPED, f"{100 * clipped:.0f} % of the picture is white without detail.", None, None)


def _of(defect: Defect, text: str, step: str | None, stops: float | None) -> Fault:
    return Fault(FaultCode(defect.value), text, FINDINGS[defect].cure, step, stops)


def _leak(scenario: Scenario, shot: Shot, forgotten: set[str], dense: float) -> Iterator[Fault]:
    plates = any(scenario.filter(each.id).thing.mount == "plate" for each in shot.stack)
    ways = [step for step, open_ in (("glass", plates), ("eyepiece", True)) if open_ and step in forgotten]
    stops = math.log2(1 + len(ways) * math.exp2(min(dense - STRAY_LIGHT_STOPS, 40)))
    if ways and stops >= LEAK_SEEN_STOPS:
        where = " and ".join({"glass": "a gap at the plates", "eyepiece": "the eyepiece"}[step] for step in ways)
        yield _of(Defect.LEAK, f"A streak of stray light, {tenths_in_words(stops)}, by {where}.", ways[0], stops)


def _shake(scenario: Scenario, shot: Shot, forgotten: set[str]) -> Iterator[Fault]:
    seconds, wind = shot.seconds, scenario.weather.wind_m_s or 0.0
    bulb = scenario.bulb(seconds)
    if "tripod" in forgotten and wind >= WINDY_M_S and seconds >= FINGER_FROM_SECONDS:
        yield _of(Defect.SHAKE, f"Shaken: wind of {wind:.0f} m/s pulled at the strap.", "tripod", None)
    if "remote" in forgotten and (bulb or FINGER_FROM_SECONDS <= seconds <= FINGER_TO_SECONDS):
        how = "a finger held the shutter open" if bulb else "a finger pressed the shutter"
        yield _of(Defect.SHAKE, f"Shaken: {how}.", "remote", None)
    if "camera" in forgotten and seconds >= STABILISER_FROM_SECONDS:
        yield _of(Defect.SHAKE, "Smeared: the stabiliser was left on and wandered.", "camera", None)


def _uneven(scenario: Scenario, framing: Framing, shot: Shot) -> Iterator[Fault]:
    rig = Rig(_on(scenario, shot), scenario.body, scenario.lens, scenario.holder, framing.focal_mm)
    for finding in stack_findings(rig):
        defect = UNEVEN.get(finding.code)
        if defect is Defect.CORNER:
            yield _of(defect, "The corners are dark: the rims reach into the picture.", None, None)
        elif defect is Defect.CROSS:
            spread = finding.values.get("spread_stops")
            stops = float(spread) if spread is not None else None
            yield _of(defect, "Dark bands cross the picture: the ring is turned too far for this lens.", None, stops)


def histogram_of(framing: Framing, stops: float) -> tuple[tuple[float, ...], float]:
    """Return shares of the picture by brightness as a screen shows it (sRGB), black to white.

    The share that is white comes with them.

    Each tone is a bell of half a stop around its own; the last bin holds what ran full.

    Parameters
    ----------
    framing : Framing
        The picture that is framed.
    stops : float
        Above the picture's own tones.
    """
    edges = [_stops_at(place / BINS) for place in range(1, BINS)]
    found = [0.0] * BINS
    clipped = 0.0
    for tone in framing.tones:
        middle = tone.stops + stops
        below = [_BELL.cdf((edge - middle) / TONE_SPREAD_STOPS) for edge in edges]
        for place in range(BINS):
            low = below[place - 1] if place else 0.0
            high = below[place] if place < BINS - 1 else 1.0
            found[place] += tone.share * (high - low)
        clipped += tone.share * (1 - _BELL.cdf((math.log2(1 / GREY) - middle) / TONE_SPREAD_STOPS))
    return tuple(found), clipped


def _stops_at(code: float) -> float:
    """Return the stops beside middle grey of an sRGB code value (IEC 61966-2-1)."""
    linear = code / 12.92 if code <= 0.04045 else ((code + 0.055) / 1.055) ** 2.4
    return math.log2(linear / GREY)
