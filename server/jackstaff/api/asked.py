"""What every question is made of: bounded texts, strict numbers, readings and settings."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from zoneinfo import available_timezones

from pydantic import AfterValidator, AwareDatetime, BaseModel, BeforeValidator, ConfigDict, Field

from jackstaff_core.density import MOST_STOPS
from jackstaff_core.exposure import GlassGiven
from jackstaff_core.film import GAINER_EXPONENT, Additive, FilmLaw, Power, Table
from jackstaff_core.reading import ReadingGiven, SettingsGiven
from jackstaff_core.scales import LONGEST_DIAL, SHORTEST_DIAL, Step

Number = Annotated[float, Field(strict=True)]
Flag = Annotated[bool, Field(strict=True)]
Text = Annotated[str, Field(min_length=1, max_length=120)]
Dial = Annotated[str, Field(min_length=1, max_length=24)] | Number


def _written_out(value: object) -> object:
    if isinstance(value, (int, float)):
        raise ValueError("an instant is written out, like 2027-04-17T04:30:00Z")
    return value


def of_our_times(value: datetime) -> datetime:
    """The same instant, or a refusal: calendars end, and adding to their ends overflows."""
    if not FIRST_YEAR <= value.year <= LAST_YEAR:
        raise ValueError(f"an instant lies between the years {FIRST_YEAR} and {LAST_YEAR}")
    return value


FIRST_YEAR, LAST_YEAR = 1900, 2200
Instant = Annotated[AwareDatetime, BeforeValidator(_written_out), AfterValidator(of_our_times)]
"""An instant with its zone; a number of seconds is not taken for one. Calendars end, so it is of our times."""


class Unfit(ValueError):
    """A value no field of its kind can take, in a sentence of its own; ``instead`` is what to do."""

    def __init__(self, problem: str, instead: str) -> None:
        super().__init__(problem)
        self.instead = instead


def _known_zone(name: str) -> str:
    if name not in available_timezones() - _NO_PLACE_S_ZONE:
        raise Unfit(f"{name} is no time zone.", "Give an IANA zone such as Europe/Oslo.")
    return name


_NO_PLACE_S_ZONE = {"localtime", "posixrules", "Factory"}
"""Files beside the zones that no browser knows as one."""
Zone = Annotated[str, Field(min_length=1, max_length=60), AfterValidator(_known_zone)]
DialLimit = Annotated[float, Field(ge=SHORTEST_DIAL, le=LONGEST_DIAL)]


class Asked(BaseModel):
    """A question: unknown fields are refused, so that no slip of the pen is ignored, and so is what is no number."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class ReadingAsked(Asked):
    shutter: Dial | None = None
    aperture: Dial | None = None
    iso: Dial | None = None
    ev100: Number | None = None
    step: Step = Step.THIRD

    def given(self) -> ReadingGiven:
        """As the core takes it."""
        return ReadingGiven(**dict(self))


class SettingsAsked(Asked):
    aperture: Dial | None = None
    iso: Dial | None = None

    def given(self) -> SettingsGiven:
        """As the core takes them."""
        return SettingsGiven(**dict(self))


class GlassAsked(Asked):
    stops: Annotated[Number, Field(ge=0, le=MOST_STOPS)] | None = None
    label: Text | None = None
    offset: Number | None = None
    offset_sd: Number | None = None
    in_reading: bool = False

    def given(self) -> GlassGiven:
        """As the core takes it."""
        return GlassGiven(**dict(self))


class PowerAsked(Asked):
    law: Literal["power"]
    p: Number
    from_seconds: Number = 1.0

    def given(self) -> FilmLaw:
        """As the core takes it."""
        return Power(self.p, self.from_seconds)


class AdditiveAsked(Asked):
    law: Literal["additive"]
    a: Number
    b: Number = GAINER_EXPONENT

    def given(self) -> FilmLaw:
        """As the core takes it."""
        return Additive(self.a, self.b)


class TableAsked(Asked):
    law: Literal["table"]
    points: Annotated[list[Annotated[list[Number], Field(min_length=2, max_length=2)]], Field(max_length=60)]

    def given(self) -> FilmLaw:
        """As the core takes it."""
        return Table(tuple((metered, corrected) for metered, corrected in self.points))


FilmAsked = Annotated[PowerAsked | AdditiveAsked | TableAsked, Field(discriminator="law")]
