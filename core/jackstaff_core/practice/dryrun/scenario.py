"""A dry run's scenario as an open file: a place, a stretch of time, a sky by seed, gear, and pictures to take there.

    {"format": "jackstaff-dry-run", "version": 1, "id": "dawn-mole", "name": "Dawn at the mole", ...}

What the learner does not know is drawn from the seed: how far each filter is off its label, and how much it shifts
colour. One seed makes one outing, on the server and in a browser alike.

    offset = clip(N(0, strength_sd), +-2.5 strength_sd)  [stops]      cast = N(0, 5 stops)  [mired], from six stops on

Source: ours; spreads of strength after what filters are sold to (a third of a stop). Limits: an hour; one light for the
whole scene, framings lie a fixed number of stops beside it. Verdict: class.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from enum import StrEnum
from typing import Annotated, Any, Literal, TypeVar
from uuid import UUID
from zoneinfo import ZoneInfo

from ...camera.reciprocity import LawGiven
from ...gear import kitfile
from ...gear.kitfile import Item
from ...gear.things import Body, Film, Glass, Holder, Lens, Release, Support
from ...motion.looks import Aim, LooksQuestion, Subjects, Wants, looks
from ...motion.subjects import Camera
from ...outing.plan import Height, Latitude, Longitude, Minutes, Outing, OwnWater, OwnWeather, Zone, check_hazards
from ...outing.tide import Water, WayBack, leave_by
from ...scales.ladders import Step, on_dial
from ...sky.cover import Sky
from ...sky.forecast import Scene
from ...sky.made_up import AFTER_SECONDS, MadeUpSky, SkyKind, made_up_sky
from ...wire.marks import Between, Checked, Matches, Size
from ...wire.schema import Schemas
from ...words.refusal import Refusal

FORMAT, VERSION = "jackstaff-dry-run", 1
MOST_FRAMINGS, MOST_THINGS, MOST_TONES = 4, 24, 12
MOST_FILTERS = 8
SHORTEST_MINUTES, LONGEST_MINUTES = 10.0, AFTER_SECONDS / 60
CAST_FROM_STOPS = 6.0
_CAST_SD_PER_STOP = 5.0
_MOST_SDS = 2.5

Thing = TypeVar("Thing")
Seed = Annotated[int, Between(0, 2**31)]
Words = Annotated[str, Size(1, 400)]
Name = Annotated[str, Size(1, 60)]


class Part(StrEnum):
    """What a drawn picture is made of."""

    SKY = "sky"
    SUN = "sun"
    LAND = "land"
    WATER = "water"
    GROUND = "ground"
    LAMP = "lamp"
    PEOPLE = "people"
    LEAVES = "leaves"


@dataclass(frozen=True, slots=True)
class Tone:
    """A part of the picture: the share of it, and how bright it is beside middle grey [stops]."""

    part: Part
    share: Annotated[float, Between(0, 1, above=True)]
    stops: Annotated[float, Between(-8, 8, "stops")]


@dataclass(frozen=True, slots=True)
class Framing:
    """A picture to take: what moves in it, how it is wished, where the camera looks, and its tones.

    ``offset_stops`` is its light beside that of the scene.
    """

    name: Name
    drawn: Literal["mole", "tarn", "falls", "square"]
    subjects: Annotated[Subjects, Size(1, 4)]
    wants: Annotated[Wants, Size(1, 4)]
    tones: Annotated[tuple[Tone, ...], Size(2, MOST_TONES)]
    focal_mm: Annotated[float, Between(8, 600, "mm")]
    bearing_deg: Annotated[float, Between(0, 360, "degrees")] = 0.0
    elevation_deg: Annotated[float, Between(-45, 45, "degrees")] = 0.0
    offset_stops: Annotated[float, Between(-6, 6, "stops")] = 0.0


def check_format(name: str) -> None:
    """Nothing for a dry run's file.

    Raises
    ------
    Refusal
        It is some other file.
    """
    if name != FORMAT:
        raise Refusal("", f"This is no dry run: its format is {name}.", f'Give a file whose format is "{FORMAT}".')


def check_version(number: int) -> None:
    """Nothing for a version that is read here.

    Raises
    ------
    Refusal
        It is a later one.
    """
    if number != VERSION:
        raise Refusal("", f"Its version is {number}.", f"This program reads version {VERSION}.")


def check_gear_suffices(kit: tuple[Item, ...]) -> None:
    """Check that the gear can take a picture.

    Raises
    ------
    Refusal
        No body, no lens, or more filters than a bag for an hour.
    """
    for sort in ("body", "lens"):
        if not any(item.sort == sort for item in kit):
            raise Refusal("", f"There is no {sort} in it.", f"Put one {sort} into the kit.")
    if sum(item.sort == "glass" for item in kit) > MOST_FILTERS:
        raise Refusal("", f"More than {MOST_FILTERS} filters are too many.", "Leave some at home.")
    if len({item.id for item in kit}) < len(kit):
        raise Refusal("", "Two things have the same id.", "Give each its own.")


@dataclass(frozen=True, kw_only=True, slots=True)
class Scenario:
    """Light, sky and water of an outing.

    ``ev100`` is the scene's light at the start, ``sky`` how it goes on, ``outlook`` and ``scene`` what a forecast knows
    of it. Clock times of the waters are the place's own.
    """

    format: Annotated[str, Size(1, 60), Checked(check_format)] = FORMAT
    version: Annotated[int, Checked(check_version)] = VERSION
    id: Annotated[str, Matches(r"[a-z0-9-]{1,40}", "Give small letters, digits and hyphens, like dawn-mole.")]
    name: Name
    story: Words
    teaches: Words
    place: Name
    latitude: Latitude
    longitude: Longitude
    zone: Zone
    starts_at: datetime
    minutes: Annotated[float, Between(SHORTEST_MINUTES, LONGEST_MINUTES, "minutes")]
    sky: SkyKind
    seed: Seed
    ev100: Annotated[float, Between(-6, 18, "EV")]
    outlook: Sky = Sky.CLEAR
    scene: Scene = Scene.SKY_LIT
    weather: OwnWeather = field(default_factory=OwnWeather)
    waters: Annotated[tuple[OwnWater, ...], Size(0, 8)] = ()
    floods_at_m: Height | None = None
    walk_minutes: Minutes = 15.0
    margin_minutes: Minutes = 15.0
    hazards: Annotated[tuple[str, ...], Size(0, 30), Checked(check_hazards)] = ()
    kit: Annotated[tuple[Item, ...], Size(2, MOST_THINGS), Checked(check_gear_suffices)]
    framings: Annotated[tuple[Framing, ...], Size(1, MOST_FRAMINGS)]
    strength_sd: Annotated[float, Between(0, 1, "stops")] = 0.25
    flicker_stops: Annotated[float, Between(0, 0.5, "stops")] = 0.05
    handling_minutes: Annotated[float, Between(0.5, 10, "minutes")] = 3.0

    def __post_init__(self) -> None:
        if self.starts_at.tzinfo is None:
            raise Refusal("starts_at", "The start has no time zone.", "Write it like 2027-04-17T06:05:00+02:00.")
        # Between two times of one zone Python counts by the clock on the wall, which jumps twice a year.
        object.__setattr__(self, "starts_at", self.starts_at.astimezone(UTC))
        for place, framing in enumerate(self.framings):
            where = f"framings.{place}"
            # A plain sum of floats is rounded otherwise from one Python to the next.
            total = math.fsum(tone.share for tone in framing.tones)
            if abs(total - 1) > 0.02:
                raise Refusal(f"{where}.tones", f"The shares of the tones make {total:.2f}.", "Let them make 1.")
            try:
                found = aim_of(self, framing)
            except Refusal as refusal:
                raise refusal.under(where) from None
            if found is None:
                raise Refusal(
                    f"{where}.wants", "No time gives these looks together.", "Wish for looks that one frame can have."
                )
        if self.waters or self.floods_at_m is not None:
            self.leave_by()

    def leave_by(self) -> datetime:
        """Return when to turn back: the tide's own time where it comes into the outing, else the end of it.

        Raises
        ------
        Refusal
            Waters that are none, or heights out of bounds.
        """
        end = self.starts_at + timedelta(minutes=self.minutes)
        if self.floods_at_m is None or not self.waters:
            return end
        found = leave_by(
            tuple(Water(self.at_clock(water.time), water.height_m, water.kind) for water in self.waters),
            self.floods_at_m,
            self.walk_minutes,
            self.margin_minutes,
            self.starts_at,
        )
        if found.state is WayBack.FLOODED:
            return self.starts_at
        return end if found.at is None else min(end, max(found.at, self.starts_at))

    def at_clock(self, clock: str) -> datetime:
        """Return the instant nearest to the start that the place's clock calls so."""
        hours, minutes = (int(part) for part in clock.split(":"))
        there = self.starts_at.astimezone(ZoneInfo(self.zone))
        at = there.replace(hour=hours, minute=minutes, second=0, microsecond=0)
        days = ((at + timedelta(days=day)).astimezone(UTC) for day in (-1, 0, 1))
        return min(days, key=lambda each: abs(each - self.starts_at))

    def second(self, at: datetime) -> float:
        """Return the seconds from the start of the dry run to ``at``, negative before it [s]."""
        return (at - self.starts_at).total_seconds()

    @property
    def body(self) -> Body:
        """The first body of the kit; one of usual facts where it holds none."""
        return self._first(Body) or Body()

    @property
    def lens(self) -> Lens:
        """The first lens of the kit; one of usual facts where it holds none."""
        return self._first(Lens) or Lens()

    @property
    def holder(self) -> Holder | None:
        """The first holder of the kit."""
        return self._first(Holder)

    @property
    def release(self) -> Release | None:
        """The first release of the kit."""
        return self._first(Release)

    @property
    def support(self) -> Support | None:
        """The first support of the kit."""
        return self._first(Support)

    @property
    def film(self) -> Film | None:
        """What is in a body that takes film."""
        return self._first(Film) if self.body.film else None

    @property
    def law(self) -> LawGiven | None:
        """The film's reciprocity law, None for a sensor."""
        return self.film.as_law() if self.film else None

    @property
    def step(self) -> Step:
        """How finely the body's dials are divided."""
        return Step(self.body.step)

    def bulb(self, seconds: float) -> bool:
        """Return whether a time [s] lies past this body's dial and is to be held open by bulb."""
        return on_dial(seconds, self.body.dial_limit_s, self.step) is None

    @property
    def filters(self) -> tuple[Item, ...]:
        """The filters of the kit, in its order."""
        return tuple(item for item in self.kit if item.sort == "glass")

    def filter(self, key: UUID) -> Item:
        """Return a filter of the kit.

        Raises
        ------
        Refusal
            It is not there.
        """
        for item in self.filters:
            if item.id == key:
                return item
        raise Refusal("stack", "A filter that is not in this dry run's kit.", "Take one of its kit.")

    def framing(self, place: int) -> Framing:
        """Return the picture at a place of the list.

        Raises
        ------
        Refusal
            There is none.
        """
        if not 0 <= place < len(self.framings):
            raise Refusal("framing", "There is no such picture in this dry run.", "Take one of its list.")
        return self.framings[place]

    def outing(self, key: UUID) -> Outing:
        """Return the outing as the screens keep it."""
        zone = ZoneInfo(self.zone)
        start, end = (
            (self.starts_at.astimezone(UTC) + timedelta(minutes=more)).astimezone(zone) for more in (0, self.minutes)
        )
        return Outing(
            id=key,
            name=self.name,
            latitude=self.latitude,
            longitude=self.longitude,
            zone=self.zone,
            date=start.date(),
            arrive=f"{start:%H:%M}",
            turn_back=f"{end:%H:%M}",
            sky=self.outlook,
            scene=self.scene,
            ridge=None,
            readings=(),
            waters=self.waters,
            floods_at_m=self.floods_at_m,
            walk_minutes=self.walk_minutes,
            margin_minutes=self.margin_minutes,
            weather=self.weather,
            hazards=self.hazards,
            packed=(),
            archived=False,
            changed_at=self.starts_at,
        )

    def _first(self, kind: type[Thing]) -> Thing | None:
        return next((item.thing for item in self.kit if isinstance(item.thing, kind)), None)


def looks_of(scenario: Scenario, framing: Framing) -> LooksQuestion:
    """Return what moves in a picture, before this body."""
    body = scenario.body
    camera = Camera(framing.focal_mm, body.sensor_width_mm, body.pitch_um, framing.elevation_deg, framing.bearing_deg)
    return LooksQuestion(camera, framing.subjects, framing.wants)


def aim_of(scenario: Scenario, framing: Framing) -> Aim | None:
    """Return the times that give every wish of a picture; None where none does."""
    return looks(looks_of(scenario, framing)).aim


@dataclass(frozen=True, slots=True)
class Hidden:
    """What a filter really does beside its label: denser by so much [stops], warmer by so much [mired]."""

    stops: float
    cast_mired: float


def hidden_stops(scenario: Scenario, item: Item) -> Hidden:
    """Return how far a filter of the kit is off, by the scenario's seed."""
    dice = random.Random(f"{scenario.seed} {item.id}")  # noqa: S311 (a lesson, no secret)
    glass: Glass = item.thing
    most = _MOST_SDS * scenario.strength_sd
    # A polariser hides less: what it takes is small.
    share = 0.4 if glass.kind == "polariser" else 1.0
    off = share * min(max(dice.gauss(0, scenario.strength_sd), -most), most)
    cast = dice.gauss(0, _CAST_SD_PER_STOP * glass.stops) if glass.stops >= CAST_FROM_STOPS else 0.0
    return Hidden(off, cast)


def sky_of(scenario: Scenario) -> MadeUpSky:
    """Return how the light goes."""
    return made_up_sky(scenario.sky, scenario.seed)


def schema() -> dict[str, Any]:
    """Return the JSON Schema of a dry run's file."""
    made = Schemas("#/$defs/")
    made.document(Scenario)
    kit = kitfile.schema()["properties"]["items"]["items"]
    whole = made.made.pop("ScenarioDoc")
    whole["properties"]["format"]["const"] = FORMAT
    whole["properties"]["version"]["const"] = VERSION
    whole["properties"]["kit"]["items"] = kit
    shapes = {name: shape for name, shape in made.made.items() if name != "ItemDoc"}
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **whole,
        "title": "Jackstaff dry run",
        "additionalProperties": False,
        "$defs": shapes,
    }
