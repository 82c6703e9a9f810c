"""The core as a house: what it may lean on, and what its questions take where nothing is said."""

from __future__ import annotations

import ast
import dataclasses
import re
import sys
from pathlib import Path
from typing import Any

import pytest

import jackstaff_core
from jackstaff_core.questions import QUESTIONS
from jackstaff_core.wire.schema import Schemas

CORE = Path(jackstaff_core.__file__).parent
SOURCES = sorted(CORE.rglob("*.py"))
MODULES = {path.relative_to(CORE).with_suffix("").as_posix(): path for path in SOURCES}
TABLE = (Path(__file__).parents[2] / "docs/models.md").read_text(encoding="utf-8")
ALLOWED = {"astral", "jackstaff_core"} | set(sys.stdlib_module_names)
NO_CLOCK = {"now", "today", "utcnow", "time", "monotonic", "perf_counter"}


@pytest.mark.parametrize("source", SOURCES, ids=lambda path: path.relative_to(CORE).as_posix())
def test_a_module_leans_on_the_standard_library_and_astral_alone_and_reads_no_clock(source: Path) -> None:
    tree = ast.parse(source.read_text(encoding="utf-8"))
    leant = {
        name.partition(".")[0]
        for node in ast.walk(tree)
        for name in (
            [alias.name for alias in node.names]
            if isinstance(node, ast.Import)
            else [node.module or ""]
            if isinstance(node, ast.ImportFrom) and node.level == 0
            else []
        )
    }
    assert leant <= ALLOWED
    asked = {
        node.func.attr
        for node in ast.walk(tree)
        if isinstance(node, ast.Call)
        and isinstance(node.func, ast.Attribute)
        and isinstance(node.func.value, ast.Name)
        and node.func.value.id in {"datetime", "date", "time"}
    }
    assert not asked & NO_CLOCK


MODELS = sorted(
    set(re.findall(r"`([\w/]+)\.py`", "\n".join(line for line in TABLE.splitlines() if line.startswith("| "))))
    & MODULES.keys()
)


@pytest.mark.parametrize("model", MODELS)
def test_a_model_says_where_it_comes_from_how_far_it_goes_and_what_it_is_worth(model: str) -> None:
    said = (ast.get_docstring(ast.parse(MODULES[model].read_text(encoding="utf-8"))) or "").lower()
    assert [word for word in ("source", "limits", "verdict") if word not in said] == []


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
