"""Test core/stacks/rules.py."""

from __future__ import annotations

import pytest

from jackstaff_core.gear.things import Accessory, Body, Glass, Holder, Lens
from jackstaff_core.stacks.rules import On, Rig, stack_findings, usable_end

PLATE_1 = On("Slot ND 1", Glass(stops=1, mount="plate", size_mm=100), 1)
PLATE_4 = On("Slot ND 4", Glass(stops=4, mount="plate", size_mm=100), 4)
PLATE_9 = On("Slot ND 9", Glass(stops=9, mount="plate", size_mm=100, gasket=True), 9)
PLATE_80 = On("Slot ND 3", Glass(stops=3, mount="plate", size_mm=80), 3)
RING = On("Ring ND 6", Glass(stops=6, size_mm=77, rim_depth_mm=5, clear_mm=78), 6)
RING_67 = On("Ring ND 3", Glass(stops=3, size_mm=67), 3)
RING_76 = On("Ring ND 2", Glass(stops=2, size_mm=76), 2)
RING_82 = On("Ring ND 8", Glass(stops=8, size_mm=82), 8)
POL = On("Clip-on pol", Glass(kind="polariser", stops=1.3, stops_max=1.7, mount="clip"), 1.5)
VND = On("Ring VND", Glass(kind="variable", stops=2, stops_max=5), 4.9)
GRAD = On("Soft grad", Glass(kind="graduated", stops=2, mount="plate", size_mm=100), 0)
PRIME = Lens(thread_mm=77)
SEEN = Lens(thread_mm=77, clear_from_mm=16, clear_rims_mm=15, clear_opening_mm=78)
HOLDER = Holder(rings_mm=(77,))


def codes(*glass: On, **rig: object) -> set[str]:
    return {each.code for each in stack_findings(Rig(glass, **rig))}  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("glass", "rig", "there", "not_there"),
    [
        ((PLATE_4, PLATE_9), {"holder": HOLDER}, {"gasket_first", "gaps"}, {"too_many_plates"}),
        ((PLATE_9, PLATE_4), {"holder": HOLDER}, {"gaps"}, {"gasket_first"}),
        ((PLATE_9, PLATE_4, PLATE_4), {"holder": HOLDER}, {"too_many_plates"}, set()),
        ((PLATE_9,), {}, {"no_holder"}, {"gaps"}),
        ((PLATE_9, PLATE_1), {"holder": HOLDER}, set(), {"gaps"}),
        ((PLATE_80,), {"holder": HOLDER}, {"plate_too_narrow"}, set()),
        ((PLATE_9,), {"holder": HOLDER}, set(), {"plate_too_narrow"}),
        ((PLATE_9,), {"holder": HOLDER, "lens": Lens(thread_mm=82)}, {"no_adapter_ring", "hood"}, set()),
        ((RING_67,), {"lens": PRIME}, {"thread_too_small"}, {"step_ring"}),
        ((RING_76,), {"lens": PRIME}, {"thread_too_small"}, {"step_ring"}),
        ((RING_76,), {"lens": Lens(thread_mm=75)}, {"step_ring"}, {"thread_too_small"}),
        ((RING_82,), {"lens": PRIME}, {"step_ring"}, {"thread_too_small"}),
        ((RING,), {"lens": PRIME}, {"hood"}, {"step_ring", "thread_too_small"}),
        ((RING,), {"lens": Lens(takes="none")}, {"lens_takes_no_glass"}, set()),
        ((GRAD, PLATE_9), {"holder": HOLDER}, {"graduated_outermost"}, set()),
        ((PLATE_9, GRAD), {"holder": HOLDER}, set(), {"graduated_outermost"}),
        ((POL, VND), {}, {"variable_on_polariser"}, {"two_polarisers"}),
        ((POL, POL), {}, {"two_polarisers"}, {"variable_on_polariser"}),
        # Metered through nine stops, or a polariser that may have been on already.
        ((On("Slot ND 9", PLATE_9.glass, 9, True),), {"body": Body()}, {"doubtful_reading"}, set()),
        ((On("Clip-on pol", POL.glass, 1.5, True),), {"body": Body()}, {"was_it_on"}, {"doubtful_reading"}),
        ((POL,), {}, {"was_it_on"}, set()),
        ((PLATE_9,), {"holder": HOLDER}, set(), {"was_it_on", "doubtful_reading"}),
        ((PLATE_9,), {"holder": HOLDER, "through_stops": 9.0}, {"doubtful_reading"}, set()),
        # Variable glass: uneven on a wide lens, clean on a long one, and the user's own frames decide before either.
        ((VND,), {"focal_mm": 16.0}, {"uneven"}, set()),
        ((VND,), {"focal_mm": 50.0}, set(), {"uneven"}),
        ((On("V", Glass(kind="variable", stops=2, stops_max=8, usable_end=((16, 6),)), 5),), {"focal_mm": 16.0}, set(),
         {"uneven", "past_clean_end"}),
        ((On("V", Glass(kind="variable", stops=2, stops_max=8, usable_end=((50, 4),)), 5),), {"focal_mm": 50.0},
         {"past_clean_end"}, {"uneven"}),
        # Rims: silent without an observation but for a question on a wide lens; judged with one.
        ((RING, RING), {"lens": PRIME, "focal_mm": 24.0}, {"rims_unknown"}, {"rims_clip"}),
        ((RING, RING), {"lens": PRIME, "focal_mm": 50.0}, set(), {"rims_unknown", "rims_clip"}),
        ((RING,) * 3, {"lens": SEEN, "focal_mm": 16.5, "body": Body()}, set(), {"rims_clip", "rims_unknown"}),
        ((RING,) * 4, {"lens": SEEN, "focal_mm": 17.0, "body": Body()}, {"rims_clip"}, set()),
        ((RING,), {"lens": Lens(thread_mm=77, shift_mm=8), "focal_mm": 24.0}, {"shift"}, set()),
        ((PLATE_9, PLATE_4, RING), {"body": Body(eyepiece="optical")}, {"eyepiece"}, set()),
        ((PLATE_9, PLATE_4, RING), {"body": Body(eyepiece="electronic")}, set(), {"eyepiece"}),
        ((), {"body": Body(), "f_number": 22.6}, {"diffraction"}, set()),
        ((), {"body": Body(), "f_number": 11.3}, set(), {"diffraction"}),
        ((GRAD,), {"holder": HOLDER, "lens": Lens(rotating_front=True)}, {"rotating_front"}, set()),
        ((), {"body": Body(), "lens": PRIME, "holder": HOLDER}, set(), {"hood", "no_holder"}),
    ],
)  # fmt: skip
def test_findings(glass: tuple[On, ...], rig: dict[str, object], there: set[str], not_there: set[str]) -> None:
    found = codes(*glass, **rig)
    assert there <= found
    assert not found & not_there


def test_findings_say_why_and_what_to_do() -> None:
    owned = stack_findings(Rig((RING_82,), lens=PRIME, step_rings=(Accessory(kind="step_ring", from_mm=77, to_mm=82),)))
    lent = stack_findings(Rig((RING_82,), lens=PRIME))
    assert "bring one" not in owned[0].text
    assert "bring one" in lent[0].text
    clip = next(
        finding for finding in stack_findings(Rig((RING,) * 4, lens=SEEN, focal_mm=17.0)) if finding.code == "rims_clip"
    )
    # Four rims after three were clear at 16 mm: 18.8 mm, as the vectors of the rims have it.
    assert clip.values["clear_mm"] == pytest.approx(18.77, abs=0.02)
    assert all(finding.text.count(".") >= 2 for finding in stack_findings(Rig((PLATE_4, PLATE_9), holder=HOLDER)))
    assert usable_end(VND.glass, 16.0) == pytest.approx(3.4, abs=0.4)
    assert usable_end(RING.glass, 16.0) is None
