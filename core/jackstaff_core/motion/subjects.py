"""Things that move, made ready before a camera: a measure that grows (or fades) with time, and its named classes.

Models, sources, limits and verdicts are those of water, cloud, foliage, people and trails.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from typing import Any

from ..scales.spoken import time_in_words
from ..words.advice import Advice, Severity
from ..words.refusal import Refusal, within
from . import cloud, foliage, people, stillness, trails, water


@dataclass(frozen=True, slots=True)
class Camera:
    """Lens and sensor [mm, µm]; how far up it points and towards which bearing [deg]."""

    focal_mm: float
    sensor_width_mm: float = 36.0
    pitch_um: float = 4.35
    elevation_deg: float = 0.0
    bearing_deg: float = 0.0

    def __post_init__(self) -> None:
        within("camera.focal_mm", self.focal_mm, 1, 3000, "mm")
        within("camera.sensor_width_mm", self.sensor_width_mm, 3, 300, "mm")
        within("camera.pitch_um", self.pitch_um, 0.5, 50, "µm")
        within("camera.elevation_deg", self.elevation_deg, -90, 89, "degrees")
        within("camera.bearing_deg", self.bearing_deg, -360, 720, "degrees")


@dataclass(frozen=True, slots=True)
class Subject:
    """Something that moves: its kind and what is known of it (fields by kind)."""

    kind: str
    facts: dict[str, Any] = field(default_factory=dict)
    id: str | None = None

    @classmethod
    def from_json(cls, given: dict[str, Any]) -> Subject:
        """Return its kind and id, and beside them whatever is known of it; which facts a kind takes is seen later."""
        kind, name = given.get("kind"), given.get("id")
        if not isinstance(kind, str) or not 1 <= len(kind) <= 120:
            raise Refusal("kind", "A subject has no kind.", f"Give one of {', '.join(_KINDS)}.")
        if name is not None and (not isinstance(name, str) or not 1 <= len(name) <= 120):
            raise Refusal("id", "A subject's id is a text.", "Give up to 120 letters.")
        return cls(kind, {each: value for each, value in given.items() if each not in ("kind", "id")}, name)

    def to_json(self) -> dict[str, Any]:
        """As :meth:`from_json` reads it."""
        return {"kind": self.kind, **({} if self.id is None else {"id": self.id}), **self.facts}

    @staticmethod
    def json_schema() -> dict[str, Any]:
        """Return its shape on the wire."""
        text = {"type": "string", "minLength": 1, "maxLength": 120}
        return {
            "type": "object",
            "properties": {"kind": text, "id": {"anyOf": [text, {"type": "null"}]}},
            "required": ["kind"],
            "additionalProperties": True,
        }


@dataclass(frozen=True, slots=True)
class Moving:
    """A subject made ready: its measure over time, and when the measure is reached [s] (infinite for never)."""

    kind: str
    status: str
    classes: tuple[tuple[str, float], ...]
    measure: Callable[[float], float]
    reached: Callable[[float], float]
    effect: Callable[[float], dict[str, float | None]]
    words: Callable[[str, dict[str, float | None]], str]
    advice: tuple[Advice, ...] = ()
    falls: bool = False


def subject_motion(where: str, subject: Subject, camera: Camera) -> Moving:
    """Return a subject before a camera.

    Raises
    ------
    Refusal
        An unknown kind, an unknown fact, or a fact out of bounds; the field starts with ``where``.
    """
    if subject.kind not in _KINDS:
        raise Refusal(
            f"{where}.kind", f"'{subject.kind}' is nothing that is known.", f"Give one of: {', '.join(_KINDS)}."
        )
    make, known = _KINDS[subject.kind]
    for name in subject.facts:
        if name not in known:
            raise Refusal(f"{where}.{name}", f"'{name}' is no fact of {subject.kind}.", f"Use: {', '.join(known)}.")
    try:
        return make(_Facts(subject.facts), camera)
    except Refusal as refusal:
        raise refusal.under(where) from None


class _Facts:
    """Reads a subject's facts with their bounds."""

    def __init__(self, facts: dict[str, Any]) -> None:
        self._facts = facts

    def number(self, name: str, low: float, high: float, unit: str, default: float | None = None) -> float:
        value = self._facts.get(name, default)
        if value is None:
            raise Refusal(
                name, f"{name} is missing.", f"Give a number from {low:g} to {high:g} {unit}.".replace(" .", ".")
            )
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise Refusal(name, f"{name} is not a number.", f"Give a number from {low:g} to {high:g}.")
        return within(name, float(value), low, high, unit)

    def maybe(self, name: str, low: float, high: float, unit: str) -> float | None:
        return self.number(name, low, high, unit) if self._facts.get(name) is not None else None

    def word(self, name: str) -> str | None:
        value = self._facts.get(name)
        if value is not None and not isinstance(value, str):
            raise Refusal(name, f"{name} is not a word.", "Give it in quotes.")
        return value


def _water(period: float) -> Moving:
    return Moving(
        kind="water",
        status="class",
        classes=water.CLASSES,
        measure=lambda seconds: seconds / period,
        reached=lambda waves: waves * period,
        effect=lambda seconds: {"residual_texture": water.residual_texture(seconds, period)},
        words=lambda look, _: _WATER_WORDS.get(look, look),
    )


_WATER_WORDS = {
    "crisp": "every drop stands",
    "texture": "the shape of the waves stays",
    "veil": "drawn out, with some texture left",
    "mirror": "smooth as a mirror",
    "fog": "like fog over stones",
}


def _sea(facts: _Facts, camera: Camera) -> Moving:
    height = facts.number("height_m", 0.01, 20, "m")
    return _water(water.sea_period(height, facts.maybe("period_s", 0.3, 30, "s")))


def _river(facts: _Facts, camera: Camera) -> Moving:
    flow = facts.number("flow_m_s", 0.02, 15, "m/s")
    period = water.river_period(facts.number("texture_m", 0.01, 10, "m"), flow)
    return _water(period) if flow < water.FALLS_FROM_M_S else replace(_water(period), classes=water.FALLS)


def sky_of(subject: Subject, camera: Camera) -> cloud.CloudLayer:
    """Return the cloud of a subject before a camera.

    Raises
    ------
    Refusal
        A fact out of bounds.
    """
    return _sky(_Facts(subject.facts), camera)


def _sky(facts: _Facts, camera: Camera) -> cloud.CloudLayer:
    height_class = facts.word("class")
    if height_class is not None and height_class not in cloud.HEIGHTS:
        raise Refusal("class", f"'{height_class}' is no height class.", f"Give one of: {', '.join(cloud.HEIGHTS)}.")
    height = facts.number("height_m", 50, 20_000, "m", cloud.HEIGHTS[height_class or "middle"])
    return cloud.CloudLayer(
        height,
        facts.number("wind_m_s", 0, 100, "m/s"),
        facts.number("wind_from_deg", -360, 720, "degrees", 270.0),
        cloud.cloud_elevation(camera.elevation_deg, camera.focal_mm, camera.sensor_width_mm),
        camera.bearing_deg,
        camera.focal_mm,
        camera.sensor_width_mm,
    )


def _cloud(facts: _Facts, camera: Camera) -> Moving:
    sky = _sky(facts, camera)
    cover = facts.word("cover")
    if cover is not None and cover not in cloud.COVERS:
        raise Refusal("cover", f"'{cover}' is no share of the sky.", f"Give one of: {', '.join(cloud.COVERS)}.")
    return Moving(
        kind="cloud",
        status="estimate",
        classes=cloud.CLASSES,
        measure=lambda seconds: cloud.streak_share(sky, seconds),
        reached=lambda share: cloud.seconds_for(sky, share),
        effect=lambda seconds: {"streak_share": finite_or_none(cloud.streak_share(sky, seconds))},
        words=_cloud_in_words,
        advice=tuple(_cloud_advice(sky, cover)),
    )


def _cloud_in_words(look: str, effect: dict[str, float | None]) -> str:
    share = effect["streak_share"]
    if look == "still":
        return "will not visibly move"
    if share is None or share > 1:
        return f"{look}, drawn right across the frame"
    return f"{look}, about {_percent(share)} of the frame"


def _cloud_advice(sky: cloud.CloudLayer, cover: str | None) -> Iterator[Advice]:
    if cover is not None:
        yield Advice("cloud_cover", Severity.NOTE, cloud.COVERS[cover], {"cover": cover})
    at_four_minutes = cloud.streak_share(sky, cloud.LONG_SECONDS)
    bearing, best = cloud.best_bearing(sky, cloud.LONG_SECONDS)
    if at_four_minutes < cloud.CLASSES[0][1]:
        yield Advice(
            "cloud_stays_still",
            Severity.NOTE,
            "This cloud will not visibly move in four minutes.",
            {"streak_share": at_four_minutes},
        )
    else:
        shows, draws = (cloud.seconds_for(sky, cloud.CLASSES[at][1]) for at in (0, 1))
        drawn = f", and draws streaks from about {time_in_words(draws)}" if math.isfinite(draws) else ""
        yield Advice(
            "cloud_moves",
            Severity.NOTE,
            f"This cloud visibly moves from about {time_in_words(shows)}{drawn}.",
            {"shows_seconds": shows, **({"streaks_seconds": draws} if drawn else {})},
        )
    if best > 2.5 * at_four_minutes and best > cloud.CLASSES[0][1]:
        shown = (
            "much more" if math.isinf(best) or at_four_minutes == 0 else f"{best / at_four_minutes:.0f} times as much"
        )
        yield Advice(
            "turn_the_camera",
            Severity.NOTE,
            f"Turned to {bearing:.0f}° the same cloud shows {shown} motion.",
            {"bearing_deg": bearing},
        )


def _leaves(facts: _Facts, camera: Camera) -> Moving:
    amplitude, period = foliage.sway(
        facts.word("class"), facts.maybe("amplitude_m", 0.0001, 5, "m"), facts.maybe("period_s", 0.05, 30, "s")
    )
    distance = facts.number("distance_m", 0.1, 10_000, "m", 5.0)
    width = camera.sensor_width_mm

    def blur(seconds: float) -> float:
        return foliage.blur_mm(seconds, amplitude, period, distance, camera.focal_mm)

    sharp = foliage.seconds_for(width * foliage.CLASSES[0][1], amplitude, period, distance, camera.focal_mm)
    return Moving(
        kind="leaves",
        status="estimate",
        classes=foliage.CLASSES,
        measure=lambda seconds: blur(seconds) / width,
        reached=lambda share: foliage.seconds_for(share * width, amplitude, period, distance, camera.focal_mm),
        effect=lambda seconds: {
            "blur_share": blur(seconds) / width,
            "blur_px": blur(seconds) * 1000 / camera.pitch_um,
        },
        words=lambda look, _: look,
        advice=(_leaves_apart(sharp),) if sharp < 0.5 else (),
    )


def _leaves_apart(sharp: float) -> Advice:
    return Advice(
        "leaves_need_their_own_frame",
        Severity.NOTE,
        f"Leaves stay sharp up to about {time_in_words(sharp)} only:"
        " shoot them in a frame of their own, at higher ISO.",
        {"seconds": sharp},
    )


def _people(facts: _Facts, camera: Camera) -> Moving:
    walkers = people.Walkers(
        facts.number("width_m", 0.05, 20, "m", 0.45),
        facts.number("speed_m_s", 0.05, 60, "m/s", 1.4),
        facts.number("across", 0.02, 1, "of the speed", 1.0),
        facts.number("standing", 0, 10_000, "people", 0.0),
        facts.number("stay_s", 1, 86_400, "s", 60.0),
    )

    def effect(seconds: float) -> dict[str, float | None]:
        found: dict[str, float | None] = {
            "body_contrast": people.body_contrast(walkers, seconds),
            "feet_contrast": people.feet_contrast(seconds),
        }
        if walkers.standing:
            found["standing_ghosts"] = people.standing_ghosts(walkers, seconds)
            found["worst_seconds"] = people.worst_seconds(walkers)
        return found

    return _passing("people", "walkers gone", walkers, effect, _people_in_words, tuple(_people_advice(walkers)))


def _passing(
    kind: str,
    passed: str,
    walkers: people.Walkers,
    effect: Callable[[float], dict[str, float | None]],
    words: Callable[[str, dict[str, float | None]], str],
    advice: tuple[Advice, ...],
) -> Moving:
    """Return what passes fades with the time.

    Where some stand about, ``passed`` names the times until they have gone too.
    """
    blurred, ghosts, gone = people.CLASSES
    empty = people.standing_gone(walkers)
    stay = empty > people.seconds_for(walkers, ghosts[1])
    # Just below the size that is a ghost: those who pass are gone there, and not yet those who stand.
    left = ghosts[1] * (1 - 1e-6)
    classes = (blurred, ghosts, (passed, left), gone) if stay else people.CLASSES

    def measure(seconds: float) -> float:
        passing = abs(people.body_contrast(walkers, seconds))
        return max(passing, left) if seconds < empty else passing

    def reached(contrast: float) -> float:
        if contrast == 0:
            return math.inf
        faded = people.seconds_for(walkers, contrast)
        return max(faded, empty) if contrast < ghosts[1] else faded

    return Moving(kind, "class", classes, measure, reached, effect, words, advice, falls=True)


_WALKER_WORDS = {"blurred": "walkers are blurred", "ghosts": "walkers are ghosts", "gone": "walkers are gone"}


def _people_in_words(_: str, effect: dict[str, float | None]) -> str:
    # Those who pass may have gone while those who stood about still show.
    passing = _passed(effect)
    words = _WALKER_WORDS[passing]
    if passing == "gone" and abs(effect["feet_contrast"] or 0) > people.CLASSES[1][1]:
        words += ", their planted feet still show"
    if ghosts := effect.get("standing_ghosts"):
        verb = "stays" if round(ghosts) == 1 else "stay"
        words += f", about {ghosts:.0f} standing {verb}" if ghosts >= 0.75 else ", hardly anybody standing stays"
    return words


def _passed(effect: dict[str, float | None]) -> str:
    """Return what has become of those who pass."""
    contrast = abs(effect["body_contrast"] or 0.0)
    return next(look for look, bound in people.CLASSES if contrast >= bound)


def _people_advice(walkers: people.Walkers) -> Iterator[Advice]:
    if walkers.standing:
        worst = people.worst_seconds(walkers)
        frames = people.median(walkers)
        yield Advice(
            "standing_people_stay",
            Severity.NOTE,
            f"People who stand leave ghosts, most of them at about {time_in_words(worst)};"
            " seated people and parked cars stay whatever the time."
            f" {frames.frames} shorter frames {time_in_words(frames.apart_seconds)} apart and their median"
            " empty the place.",
            {"worst_seconds": worst, "frames": frames.frames, "apart_seconds": frames.apart_seconds},
        )
    if walkers.across < 0.5:
        yield Advice(
            "walkers_along_the_view",
            Severity.NOTE,
            "People who walk towards you or away fade later than those who cross.",
            {"across": walkers.across},
        )


_STATES = ("moving", "queueing", "parked")
_QUEUE_STANDS_SECONDS = 30.0


def _vehicles(facts: _Facts, camera: Camera) -> Moving:
    """By day: a car is a walker five metres long; in a queue it stands about half a minute; parked it stays."""
    state = facts.word("state") or "moving"
    if state not in _STATES:
        raise Refusal("state", f"'{state}' is nothing that traffic does.", f"Give one of: {', '.join(_STATES)}.")
    queueing = state == "queueing"
    cars = people.Walkers(
        facts.number("length_m", 0.5, 100, "m", 4.5),
        facts.number("speed_m_s", 0.05, 100, "m/s", 3.0 if queueing else 14.0),
        1.0,
        facts.number("standing", 0, 10_000, "vehicles", 4.0) if queueing else 0.0,
        facts.number("stay_s", 1, 86_400, "s", _QUEUE_STANDS_SECONDS),
    )
    if state == "parked":
        return Moving(
            kind="vehicles",
            status="class",
            classes=(("there", 0.5), ("gone", 0.0)),
            measure=lambda seconds: -people.DARK,
            reached=lambda contrast: math.inf,
            effect=lambda seconds: {"body_contrast": people.DARK},
            words=lambda look, _: "parked vehicles stay whatever the time",
            falls=True,
        )

    def effect(seconds: float) -> dict[str, float | None]:
        found: dict[str, float | None] = {"body_contrast": people.body_contrast(cars, seconds)}
        if queueing:
            found["standing_ghosts"] = people.standing_ghosts(cars, seconds)
            found["worst_seconds"] = people.worst_seconds(cars)
        return found

    return _passing("vehicles", "moving ones gone", cars, effect, _vehicles_in_words, ())


def _vehicles_in_words(_: str, effect: dict[str, float | None]) -> str:
    ghosts = effect.get("standing_ghosts")
    fading = _passed(effect)
    if ghosts is None or ghosts < people.HALF_A_PERSON:
        return f"moving vehicles are {fading}"
    return f"about {max(1, ghosts):.0f} that queue stay as ghosts"


def _still_person(facts: _Facts, camera: Camera) -> Moving:
    sway, shift = stillness.moves(facts.word("pose"))
    distance = facts.number("distance_m", 0.3, 10_000, "m", 6.0)
    width = camera.sensor_width_mm

    def blur(seconds: float) -> float:
        return stillness.blur_mm(seconds, sway, shift, distance, camera.focal_mm) / width

    return Moving(
        kind="still_person",
        status="class",
        classes=foliage.CLASSES,
        measure=blur,
        reached=lambda share: stillness.seconds_for(share * width, sway, shift, distance, camera.focal_mm),
        effect=lambda seconds: {
            "blur_share": blur(seconds),
            "blur_px": blur(seconds) * width * 1000 / camera.pitch_um,
        },
        words=lambda look, _: {"sharp": "sharp, if they hold still"}.get(look, look),
        advice=(
            Advice(
                "count_for_the_still_one",
                Severity.NOTE,
                "Whoever holds still breathes out, looks at one point and is counted down aloud; sitting or leaning"
                " holds far longer than standing.",
            ),
        ),
    )


def _crowd(facts: _Facts, camera: Camera) -> Moving:
    rate = facts.number("rate_per_s", 0.001, 100, "people a second")
    width = facts.number("width_m", 0.05, 20, "m", 0.45)
    speed = facts.number("speed_m_s", 0.05, 60, "m/s", 1.4)
    veil = people.veil(rate, width, speed)
    even = (people.DARK * width / speed) ** 2 * rate

    return Moving(
        kind="crowd",
        status="class",
        classes=(("blurred", 0.1), ("ghosts", 0.02), ("even veil", 0.0)),
        measure=lambda seconds: people.veil_texture(rate, width, speed, seconds),
        reached=lambda texture: math.inf if texture == 0 else even / texture**2,
        effect=lambda seconds: {
            "veil": veil,
            "veil_texture": people.veil_texture(rate, width, speed, seconds),
        },
        words=lambda look, _: look,
        advice=(
            Advice(
                "crowd_veil_stays",
                Severity.NOTE,
                f"A crowd this dense leaves a veil of about {_percent(abs(veil))}; a longer time makes it more even,"
                " not fainter.",
                {"veil": veil},
            ),
        )
        if abs(veil) > people.CLASSES[1][1]
        else (),
        falls=True,
    )


def _lamps(facts: _Facts, camera: Camera) -> Moving:
    size = facts.number("size_m", 0.001, 10, "m", 0.2)
    speed = facts.number("speed_m_s", 0.01, 100, "m/s", 14.0)
    return Moving(
        kind="lamps",
        status="estimate",
        classes=trails.LAMPS,
        measure=lambda seconds: speed * seconds / size,
        reached=lambda lengths: lengths * size / speed,
        effect=lambda seconds: {"trail_stops": trails.trail_stops(size, speed, seconds)},
        words=lambda look, effect: (
            "dots"
            if look == "dots"
            else f"lines, about {-(effect['trail_stops'] or 0):.0f} stops dimmer than a lamp that stands"
        ),
    )


def _stars(facts: _Facts, camera: Camera) -> Moving:
    declination = facts.number("declination_deg", -90, 90, "degrees", 0.0)
    corner = math.hypot(camera.sensor_width_mm, camera.sensor_width_mm / trails.FRAME_SHAPE) / 2
    # The longest trail decides, and a wide lens draws it in a corner.
    a_second = trails.longest_star_pixels(declination, 1.0, camera.focal_mm, camera.pitch_um, corner)
    middle = trails.star_pixels(declination, 1.0, camera.focal_mm, camera.pitch_um)
    return Moving(
        kind="stars",
        status="estimate",
        classes=trails.STARS,
        measure=lambda seconds: a_second * seconds,
        reached=lambda pixels: pixels / a_second if a_second > 1e-9 else math.inf,
        effect=lambda seconds: {"trail_px": a_second * seconds},
        words=lambda look, effect: (
            f"{look}, in the corners too"
            if look == "points"
            else f"trails of about {_two(effect['trail_px'] or 0)} pixels in a corner,"
            f" {_two((effect['trail_px'] or 0) * middle / a_second)} in the middle"
        ),
    )


def _tide(facts: _Facts, camera: Camera) -> Moving:
    size = facts.number("range_m", 0.01, 20, "m")
    from_low = facts.number("hours_from_low", -14, 14, "h", 0.0)
    half = facts.number("hours_low_to_high", 2, 14, "h", trails.HALF_TIDE_HOURS)

    def moved(seconds: float) -> float:
        return abs(trails.rise(from_low, seconds, size, half))

    def reached(metres: float) -> float:
        # Up to the next turn of the tide the water moves one way, so the first crossing can be bisected.
        turn = (half - from_low % half) * 3600
        if moved(turn) < metres:
            return math.inf
        low, high = 0.0, turn
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if moved(middle) < metres else (low, middle)
        return high

    return Moving(
        kind="tide",
        status="estimate",
        classes=trails.TIDE,
        measure=moved,
        reached=reached,
        effect=lambda seconds: {"rise_m": trails.rise(from_low, seconds, size, half)},
        words=lambda look, effect: (
            "the waterline stays"
            if look == "still"
            else f"the waterline {'rises' if (effect['rise_m'] or 0) > 0 else 'falls'} by about"
            f" {_two(abs(effect['rise_m'] or 0) * 100)} cm"
        ),
    )


def _spin(facts: _Facts, camera: Camera) -> Moving:
    period = facts.number("period_s", 0.01, 86_400, "s")
    return Moving(
        kind="spin",
        status="computed",
        classes=trails.SPIN,
        measure=lambda seconds: seconds / period,
        reached=lambda turns: turns * period,
        effect=lambda seconds: {"turns": seconds / period},
        words=lambda look, effect: f"{look}, {_two(effect['turns'] or 0)} turns",
    )


_KINDS: dict[str, tuple[Callable[[_Facts, Camera], Moving], tuple[str, ...]]] = {
    "sea": (_sea, ("height_m", "period_s")),
    "river": (_river, ("texture_m", "flow_m_s")),
    "cloud": (_cloud, ("height_m", "class", "wind_m_s", "wind_from_deg", "cover")),
    "leaves": (_leaves, ("class", "amplitude_m", "period_s", "distance_m")),
    "people": (_people, ("width_m", "speed_m_s", "across", "standing", "stay_s")),
    "vehicles": (_vehicles, ("state", "length_m", "speed_m_s", "standing", "stay_s")),
    "still_person": (_still_person, ("pose", "distance_m")),
    "crowd": (_crowd, ("rate_per_s", "width_m", "speed_m_s")),
    "lamps": (_lamps, ("size_m", "speed_m_s")),
    "stars": (_stars, ("declination_deg",)),
    "tide": (_tide, ("range_m", "hours_from_low", "hours_low_to_high")),
    "spin": (_spin, ("period_s",)),
}
KINDS = tuple(_KINDS)


def finite_or_none(value: float) -> float | None:
    """Return none for what no number on the wire can say: infinite, or no number."""
    return value if math.isfinite(value) else None


def _percent(share: float) -> str:
    return f"{_two(share * 100)} %"


def _two(value: float) -> str:
    """Return two digits at most: no estimate here stands for more."""
    if value >= 10:
        digits = 2 - len(str(round(value)))
        return f"{round(value, digits):.0f}"
    return f"{value:.1f}" if value >= 1 else f"{value:.1g}"
