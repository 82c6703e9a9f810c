"""Test core/outing/packing.py."""

from __future__ import annotations

from dataclasses import replace

import pytest

from jackstaff_core.outing.hazards import HAZARDS
from jackstaff_core.outing.packing import Plan, pack
from jackstaff_core.words.refusal import Refusal

FULL = Plan(
    body="Full-frame body A", lens="24 mm prime", support="Tripod", release="Wired remote", holder="Slot holder",
    glass=("Slot ND 10", "Slot ND 4"), densest_stops=14, longest_seconds=240, frames=41, battery_wh=14, celsius=-4,
    wind_m_s=9, dark=True, tide=True, noise_reduction=True, polariser="Clip-on pol", film="Fine-grain film",
    hazards=("tide", "alone", "ice", "edge"),
)  # fmt: skip


@pytest.mark.parametrize(
    ("plan", "there", "absent"),
    [
        (Plan(), {"body", "lens", "support"}, {"release", "tape", "cap", "head_torch", "gloves"}),
        (Plan(longest_seconds=31), {"release"}, {"tape"}),
        (Plan(longest_seconds=31, dial_limit=60.0), set(), {"release"}),
        (Plan(glass=("Slot ND 14",), densest_stops=14), {"glass_0", "tape", "cap", "hat"}, {"release"}),
        (Plan(celsius=5), {"gloves", "warm"}, {"ballast"}),
        (Plan(celsius=6), set(), {"gloves"}),
        (Plan(hazards=("traffic",)), {"reflective"}, {"stick"}),
        (FULL, {"film", "polariser", "holder", "ballast", "tide_table", "spikes", "boots", "head_torch"}, set()),
    ],
)
def test_the_pack_list_grows_from_the_plan(plan: Plan, there: set[str], absent: set[str]) -> None:
    lines = pack(plan)
    codes = [line.code for line in lines]
    assert len(set(codes)) == len(codes)
    assert there <= set(codes)
    assert not absent & set(codes)
    assert all(line.what and line.why.endswith(".") for line in lines)


def test_what_the_plan_needs_and_the_kit_lacks_is_missing_and_batteries_are_counted() -> None:
    lines = {line.code: line for line in pack(Plan(longest_seconds=60, body="Full-frame body A"))}
    assert {code for code, line in lines.items() if line.missing} == {"lens", "support", "release"}
    # 14 Wh at -4 degrees, 240 s with noise reduction at 3 W: 20 frames a battery, so 41 want three.
    batteries = next(line for line in pack(FULL) if line.code == "spare_battery")
    assert (batteries.what, batteries.why) == ("2 spare batteries", "41 frames want about 3 batteries.")
    for frames, what, why in (
        (20, "Spare battery", "Charged, and kept warm."),
        (21, "Spare battery", "21 frames want about 2 batteries."),
    ):
        batteries = next(line for line in pack(replace(FULL, frames=frames)) if line.code == "spare_battery")
        assert (batteries.what, batteries.why) == (what, why)
    with pytest.raises(Refusal, match="no hazard known"):
        pack(Plan(hazards=("dragons",)))
    codes = [hazard.code for hazard in HAZARDS]
    assert len(set(codes)) == len(codes)
    # Every hazard's things are in the list's own vocabulary.
    assert pack(Plan(hazards=tuple(codes)))


@pytest.mark.parametrize(
    ("plan", "what"),
    [
        (Plan(wet=True), {"rain_cover": "Rain cover", "cloths": "Several dry cloths"}),
        (Plan(hazards=("swell",)), {"rain_cover": "Rain cover"}),
        (Plan(), {"cloths": "Cloth and blower"}),
        (Plan(plates=2), {"gaps": "Light-tight tape"}),
        # 3 W for three hours are 9 Wh; of 7 Wh at 10 degrees 4.9 are there to be used: two batteries.
        (Plan(open_minutes=180, battery_wh=7.0, celsius=10), {"spare_battery": "Spare battery"}),
        (Plan(open_minutes=360, battery_wh=7.0, celsius=10), {"spare_battery": "3 spare batteries"}),
        # Ten Wh of twice 4.9: the reserve asks for a third.
        (Plan(open_minutes=200, battery_wh=7.0, celsius=10), {"spare_battery": "2 spare batteries"}),
    ],
)
def test_wet_places_stacked_plates_and_long_plans_have_their_things(plan: Plan, what: dict[str, str]) -> None:
    lines = {line.code: line for line in pack(plan)}
    for code, text in what.items():
        assert lines[code].what.startswith(text)
    assert ("rain_cover" in lines) == (plan.wet or bool(plan.hazards))
    assert ("gaps" in lines) == (plan.plates > 1)
