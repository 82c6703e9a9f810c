"""What the API's own questions are made of: bounded texts, strict numbers, instants of our times."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime, BaseModel, BeforeValidator, ConfigDict, Field

from jackstaff_core.outing.plan import check_one_line
from jackstaff_core.scales.ladders import LONGEST_DIAL, SHORTEST_DIAL
from jackstaff_core.wire.reader import FIRST_YEAR, LAST_YEAR
from jackstaff_core.words.refusal import Refusal

Number = Annotated[float, Field(strict=True)]
Flag = Annotated[bool, Field(strict=True)]
Text = Annotated[str, Field(min_length=1, max_length=120)]
Dial = Annotated[str, Field(min_length=1, max_length=24)] | Number


def _written_out(value: object) -> object:
    if isinstance(value, (int, float)):
        raise ValueError("an instant is written out, like 2027-04-17T04:30:00Z")
    return value


def of_our_times(value: datetime) -> datetime:
    """Return the same instant, or a refusal: calendars end, and adding to their ends overflows."""
    if not FIRST_YEAR <= value.year <= LAST_YEAR:
        raise ValueError(f"an instant lies between the years {FIRST_YEAR} and {LAST_YEAR}")
    return value


def _in_one_line(text: str) -> str:
    """Return the same text, or a refusal: no file format carries the control characters of a name."""
    try:
        check_one_line(text)
    except Refusal as refusal:
        raise ValueError(refusal.problem) from None
    return text


Name = Annotated[str, AfterValidator(_in_one_line)]
"""What something is called, in one line."""
Instant = Annotated[AwareDatetime, BeforeValidator(_written_out), AfterValidator(of_our_times)]
"""An instant with its zone; a number of seconds is not taken for one. Calendars end, so it is of our times."""


DialLimit = Annotated[float, Field(ge=SHORTEST_DIAL, le=LONGEST_DIAL)]


class Input(BaseModel):
    """A question: unknown fields are refused, so that no slip of the pen is ignored, and so is what is no number."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)
