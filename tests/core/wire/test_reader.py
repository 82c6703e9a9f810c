"""Test core/wire/reader.py."""

from __future__ import annotations

import json
import math
from datetime import timedelta
from typing import Any

import pytest

from jackstaff_core.camera.reciprocity import Power
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.words.refusal import Refusal, Refusals
from tests.core.wire.given_wire import Asked, Spot, Tone

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
