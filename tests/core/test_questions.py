"""Test the one table of questions: what is left out, what is answered, what no JSON may break."""

from __future__ import annotations

import dataclasses
import json
import typing
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.questions import QUESTIONS, ask
from jackstaff_core.wire.reader import is_described, parted, parts, read
from jackstaff_core.wire.schema import Schemas
from jackstaff_core.words.refusal import Refusals

DEFAULTS: dict[str, dict[str, Any]] = {
    "readout": {"step": "third", "dial_limit": 30},
    "density": {},
    "scales": {"step": "third", "dial_limit": 30},
    "exposure": {
        "stack": [], "settings": {"aperture": None, "iso": None}, "scale": "exact", "dial_limit": 30,
        "purpose_stops": 0, "monochrome": False,
    },
    "steer": {
        "stops": 0, "stack": [], "settings": {"aperture": None, "iso": None}, "dial_limit": 30, "wished_stops": 0,
    },
    "stacks": {"must": [], "sharp_to": "11", "on": [], "wished_stops": 0, "order": "glass"},
    "rig": {"step_rings": []},
    "usable": {},
    "reach": {"widest": "5.6", "sharp_to": "11", "isos": ["100"], "wished": []},
    "graduated": {"sky_share": 0.5, "horizon": "flat", "owned": [], "step": "third", "lead_stops": 1},
    "trade": {"sensor_width_mm": 36, "sensor_height_mm": 24},
    "flash": {},
    "video": {},
    "trial": {},
    "measured": {"step": "third"},
    "looks": {"wants": [], "own": []},
    "looks/at": {"wants": []},
    "light/rate": {"looks": []},
    "light/look": {},
    "light/phone": {"through_stops": 0, "glass": []},
    "together": {},
    "looks/described": {},
    "light": {"step_seconds": 60, "sky": "clear", "scene": "sky_lit", "readings": [], "skies": []},
    "outing/coordinates": {},
    "outing/days": {"days": 14, "sky": "clear", "scene": "sky_lit", "waters": [], "matter": "date"},
    "outing/wait": {"step_seconds": 60, "sky": "clear", "scene": "sky_lit", "readings": [], "skies": []},
    "outing/swaps": {
        "step_seconds": 60, "sky": "clear", "scene": "sky_lit", "readings": [], "skies": [], "sharp_to": "11",
        "on": [],
    },
    "outing/tide": {"walk_minutes": 0, "margin_minutes": 15, "marks": [], "crossings": []},
    "outing/budget": {"handling_seconds": 30, "noise_reduction": False, "draw_w": 3, "celsius": 10},
    "outing/frames": {"handling_seconds": 30, "noise_reduction": False},
    "outing/plausible": {"sky": "clear", "scene": "sky_lit", "readings": [], "skies": []},
    "outing/sky": {},
    "outing/fillable": {"step_seconds": 60, "sky": "clear", "scene": "sky_lit", "readings": [], "skies": []},
    "outing/pack": {
        "glass": [], "densest_stops": 0, "dial_limit": 30, "draw_w": 3, "noise_reduction": False, "dark": False,
        "tide": False, "hazards": [], "wet": False, "plates": 0,
    },
    "run/lateness": {"delay_seconds": 0, "readings": [], "looks": []},
    "run/close": {
        "delay_seconds": 0, "ev_points": [], "readings": [], "tracked": False, "bias_stops": 0,
        "rate_from_readings": False, "looks": [],
    },
    "run/arm": {"glass": [], "upright": False, "open_since_seconds": 0, "releases": 0, "burst": 0},
    "run/series": {
        "count": 3, "spacing_stops": 1, "dial_limit": 30, "step": "third", "noise_reduction": False,
        "handling_seconds": 5,
    },
    "calibration": {"prior_sd": 0.2, "noise_sd": 0.2, "session_sd": 0.15, "robust": False},
    "log/again": {"late_stops": 0, "longer_stops": 0, "earlier_stops": 0},
    "log/reviewed": {"light_stops": 0, "step": "third", "sensor_height_mm": 24, "glass": []},
    "log/evidence": {},
    "log/learnt": {},
    "practice/next": {"remembered": [], "mistakes": []},
    "practice/drill": {"glass": [], "mistakes": []},
    "practice/grade": {"glass": [], "mistakes": [], "box": 1},
    "practice/scenarios": {},
    "practice/begin": {},
    "practice/meter": {"through": []},
    "practice/frame": {"through_before": []},
    "practice/hint": {"metered": False, "taken": False},
    "practice/replay": {"shots": [], "looked": []},
    "fieldcard": {"fastest": 0.001, "slowest": 1, "dial_limit": 30, "step": "third"},
}  # fmt: skip
"""What is taken where nothing is said; whoever leaves a field out relies on these."""


@pytest.mark.parametrize("name", QUESTIONS)
def test_what_is_left_out_is_taken_as_it_always_was(name: str) -> None:
    shapes = Schemas()
    asked = shapes.input(QUESTIONS[name].question_type)["$ref"].removeprefix(shapes.ref)
    properties = shapes.made[asked]["properties"]
    taken = {field: shape["default"] for field, shape in properties.items() if "default" in shape}
    assert taken == DEFAULTS[name]


def test_every_question_is_in_the_table_and_every_type_is_frozen() -> None:
    assert QUESTIONS.keys() == DEFAULTS.keys()
    for question in QUESTIONS.values():
        for kind in (question.question_type, question.answer_type):
            assert dataclasses.is_dataclass(kind)
            assert kind.__dataclass_params__.frozen  # type: ignore[attr-defined]


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
