"""JSON to the core's types and back: every refusal with its place, every answer alike on server and worker."""

from __future__ import annotations

import dataclasses
import json
import math
import typing
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum
from typing import Annotated, Any, Literal
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.reading import Given
from jackstaff_core.camera.reciprocity import LawGiven, Power
from jackstaff_core.gear.sorts import Glass
from jackstaff_core.questions import QUESTIONS, ask
from jackstaff_core.wire.marks import Between, Checked, Inline, Matches, Named, Size, Was
from jackstaff_core.wire.reader import is_described, parted, parts, plain, read
from jackstaff_core.wire.schema import Schemas
from jackstaff_core.words.refusal import Refusal, Refusals


class Tone(StrEnum):
    LOW = "low"
    HIGH = "high"


def _even(count: int) -> None:
    if count % 2:
        raise Refusal("", "It is odd.", "Give an even one.")


@dataclass(frozen=True, slots=True)
class Spot:
    north: Annotated[float, Between(-90, 90, "degrees")]

    def __post_init__(self) -> None:
        if self.north == 13:
            raise Refusal("north", "Nobody goes there.", "Go elsewhere.")


@dataclass(frozen=True, slots=True)
class Asked:
    spot: Annotated[Spot, Inline()]
    count: Annotated[int, Between(0, 8), Checked(_even)]
    at: datetime
    kind: Annotated[Tone, Named("float")] = Tone.LOW
    dial: Given | None = None
    above: Annotated[float, Between(0, 5, "s", above=True)] | None = None
    words: Annotated[tuple[Annotated[str, Size(1, 3)], ...], Size(0, 2)] = ()
    pair: tuple[float, float] | None = None
    day: date | None = None
    key: UUID | None = None
    side: Literal["left", "right"] | None = None
    clock: Annotated[str, Matches(r"\d\d:\d\d", "Give hours and minutes.")] | None = None
    film: LawGiven | None = None
    glass: Glass | None = None
    codes: frozenset[Tone] = frozenset()
    by_name: float | dict[str, float] | None = None
    flag: bool = False
    colour: Annotated[str | None, Size(1, 5), Was("hue")] = None


SOUND: dict[str, Any] = {"north": 58.0, "count": 4, "at": "2027-04-17T06:31:40+02:00"}


@pytest.mark.parametrize(
    ("change", "faults"),
    [
        ({"north": 91}, {"north": "91 degrees is outside what can be worked with."}),
        ({"north": 13}, {"north": "Nobody goes there."}),
        ({"north": None}, {"north": "'north' is not a number."}),
        ({"north": True}, {"north": "'north' is not a number."}),
        ({"north": 10**400}, {"north": "'north' is not a number."}),
        ({"count": 3}, {"count": "It is odd."}),
        ({"count": 9}, {"count": "'count' is out of bounds."}),
        ({"count": 4.0}, {"count": "'count' is not a whole number."}),
        ({"count": False}, {"count": "'count' is not a whole number."}),
        ({"at": "2027-04-17T06:31:40"}, {"at": "'at' has no zone."}),
        ({"at": 1_800_000_000}, {"at": "'at' is no instant."}),
        ({"at": "9999-12-31T23:59:59Z"}, {"at": "'at' lies too far away."}),
        ({"float": "middle"}, {"float": "'float' has an unknown value."}),
        ({"kind": "low"}, {"kind": "'kind' is not a part of this question."}),
        ({"dial": []}, {"dial": "'dial' is neither a dial mark nor a number."}),
        ({"dial": ""}, {"dial": "'dial' is too short or too long."}),
        ({"above": 0}, {"above": "'above' is not above 0."}),
        ({"words": ["a", "abcd"]}, {"words.1": "'words.1' is too short or too long."}),
        ({"words": ["a", "b", "c"]}, {"words": "'words' has 3 entries."}),
        ({"words": "ab"}, {"words": "'words' is not a list."}),
        ({"words": ["\0"]}, {"words.0": "'words.0' holds what is no letter."}),
        ({"words": ["\ud800"]}, {"words.0": "'words.0' holds what is no letter."}),
        ({"words": ["\x1b["]}, {"words.0": "'words.0' holds what is no letter."}),
        ({"pair": [1.0]}, {"pair": "'pair' has 1 entries."}),
        ({"pair": [1.0, "x"]}, {"pair.1": "'pair.1' is not a number."}),
        ({"day": "2027-02-30"}, {"day": "'day' is no date."}),
        ({"key": "nobody"}, {"key": "'key' is no key."}),
        ({"side": "up"}, {"side": "'side' has an unknown value."}),
        ({"clock": "6:5"}, {"clock": "'clock' is not written as it has to be."}),
        ({"film": {"p": 1.3}}, {"film.law": "'film.law' is missing."}),
        ({"film": {"law": "power", "p": 99}}, {"film.p": "99 as an exponent is outside what can be worked with."}),
        ({"film": {"law": "power", "p": 1.3, "q": 1}}, {"film.q": "'film.q' is not a part of this question."}),
        ({"glass": {"kind": "mirror"}}, {"glass.kind": None}),
        ({"codes": ["low", "none"]}, {"codes.1": "'codes.1' has an unknown value."}),
        ({"by_name": {"a": "b"}}, {"by_name.a": "'by_name.a' is not a number."}),
        ({"by_name": "x"}, {"by_name": "'by_name' is not a number."}),
        ({"flag": 1}, {"flag": "'flag' is not a yes or a no."}),
        ({"hue": "purple"}, {"colour": "'colour' is too short or too long."}),
        ({"hue": "red", "colour": "blue"}, {"hue": "'hue' is not a part of this question."}),
        # Everything that is wrong is said at once.
        ({"north": "x", "count": "y", "more": 1}, {"north": None, "count": None, "more": None}),
    ],
)
def test_whatever_is_wrong_is_refused_with_its_place(change: dict[str, Any], faults: dict[str, str | None]) -> None:
    with pytest.raises(Refusals) as refused:
        read(Asked, {**SOUND, **change})
    said = {refusal.field: refusal.problem for refusal in refused.value.all}
    assert said.keys() == faults.keys()
    assert all(problem is None or said[field] == problem for field, problem in faults.items())
    assert all(refusal.instead.endswith(".") for refusal in refused.value.all)


@pytest.mark.parametrize("whole", [None, [], "text", 3])
def test_what_is_no_object_is_no_question(whole: object) -> None:
    with pytest.raises(Refusals, match="is not an object"):
        read(Asked, whole)
    assert [each.field for each in refused_of({"count": 4})] == ["north", "at"]


def refused_of(given_: dict[str, Any]) -> tuple[Refusal, ...]:
    with pytest.raises(Refusals) as refused:
        read(Asked, given_)
    return refused.value.all


def test_what_is_written_reads_back() -> None:
    every = {
        **SOUND, "float": "high", "dial": "1/60", "above": 2, "words": ["ab"], "pair": [1, 2.5], "day": "2027-04-17",
        "key": "0f8fad5b-d9cb-469f-a165-70867728950e", "side": "left", "clock": "06:05", "codes": ["low", "high"],
        "film": {"law": "power", "p": 1.3, "from_seconds": 1.0}, "by_name": {"a": 1}, "flag": True,
    }  # fmt: skip
    asked = read(Asked, every)
    assert (asked.spot, asked.kind, asked.film) == (Spot(58.0), Tone.HIGH, Power(1.3))
    assert asked.at.utcoffset() == timedelta(0)
    written = plain(asked)
    assert json.loads(json.dumps(written)) == written
    assert read(Asked, written) == asked
    assert written["at"] == "2027-04-17T04:31:40Z"
    # What was written under an earlier day's name is read, and written under today's.
    assert plain(read(Asked, {**SOUND, "hue": "red"})) == plain(read(Asked, {**SOUND, "colour": "red"}))
    assert plain(read(Asked, SOUND), drop_none=True).keys() == {*SOUND, "float", "words", "codes", "flag"}
    assert plain(math.inf) is None


def test_a_schema_says_what_the_reader_holds_to() -> None:
    shapes = Schemas()
    assert shapes.input(Asked) == {"$ref": "#/components/schemas/AskedInput"}
    made = shapes.made["AskedInput"]
    assert made["required"] == ["north", "count", "at"]
    assert made["additionalProperties"] is False
    properties = made["properties"]
    assert properties["north"] == {"type": "number", "minimum": -90, "maximum": 90}
    assert properties["above"]["anyOf"][0] == {"type": "number", "exclusiveMinimum": 0, "maximum": 5}
    assert properties["words"]["items"] == {"type": "string", "minLength": 1, "maxLength": 3}
    assert properties["float"]["default"] == "low"
    assert properties["pair"]["anyOf"][0] | {"items": 0} == {"type": "array", "minItems": 2, "maxItems": 2, "items": 0}
    assert set(properties["film"]["anyOf"][0]["discriminator"]["mapping"]) == {"power", "additive", "table"}
    shapes.answer(Asked, drop_none=True)
    assert "dial" not in shapes.made["AskedAnswer"]["required"]


READING = {"shutter": "1/40", "aperture": "9", "iso": "64"}
SAMPLES: dict[str, dict[str, Any]] = {
    "exposure": {"reading": READING, "stack": [{"stops": 9}], "film": {"law": "power", "p": 1.3}},
    "steer": {"float": "aperture", "reading": READING, "stops": 6, "target_seconds": 2.0},
    "stacks": {"reading": READING, "glass": [{"id": "nine", "kind": "solid", "stops": 9}], "slots": 1,
               "target": {"seconds": 12.0}, "apertures": ["8", "11"], "isos": ["64"]},
    "outing/tide": {"waters": [{"at": "2027-04-17T00:00:00Z", "height_m": 0.4},
                               {"at": "2027-04-17T06:30:00Z", "height_m": 3.1}],
                    "at": "2027-04-17T02:00:00Z", "floods_at_m": 2.0, "marks": ["2027-04-17T03:00:00Z"]},
    "run/close": {"needed_seconds": 120.0, "opened_at": "2027-04-17T04:00:00Z", "now": "2027-04-17T04:01:00Z"},
}  # fmt: skip


@pytest.mark.parametrize("name", SAMPLES)
def test_every_answer_is_json_a_worker_can_hand_over(name: str) -> None:
    answer = ask(name, SAMPLES[name])
    assert json.loads(json.dumps(answer)) == answer
    with pytest.raises(Refusals):
        ask(name, {**SAMPLES[name], "surprise": 1})


def _renames(kind: Any) -> bool:
    """Whether JSON calls a field of an answer otherwise than Python does."""
    plain_kind, _ = parted(kind)
    if dataclasses.is_dataclass(plain_kind) and not is_described(plain_kind):
        return any(part.called != part.name or _renames(part.hint) for part in parts(plain_kind))
    return any(_renames(inner) for inner in typing.get_args(plain_kind))


@pytest.mark.parametrize("name", sorted(QUESTIONS))
def test_an_answer_whose_fields_json_calls_otherwise_is_written_by_the_core(name: str) -> None:
    question = QUESTIONS[name]
    assert question.documents or question.drop_none or not _renames(question.answer_type)


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=4),
    max_leaves=8,
)


@given(st.sampled_from(sorted(QUESTIONS)), st.data())
def test_no_json_breaks_a_reader(name: str, data: st.DataObject) -> None:
    asked = QUESTIONS[name].question_type
    names = st.sampled_from(_fields(asked)) | st.text(max_size=6)
    given_ = data.draw(JSON | st.dictionaries(names, JSON, max_size=6))
    try:
        read(asked, given_)
    except Refusals as refusals:
        sound = all(refusal.problem.endswith(".") and refusal.instead for refusal in refusals.all)
        assert sound


def _fields(asked: type) -> list[str]:
    shapes = Schemas()
    name = shapes.input(asked)["$ref"].removeprefix(shapes.ref)
    return sorted(shapes.made[name]["properties"])
