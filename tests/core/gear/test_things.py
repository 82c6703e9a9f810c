"""Test core/gear/things.py."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from jackstaff_core.gear.things import Body, Film, Glass, isos_of, merge_glasses, sharp_to, strength, usable_at
from jackstaff_core.wire.facts import read_thing
from jackstaff_core.words.refusal import Refusal, Refusals

KEY = "0f8fad5b-d9cb-469f-a165-70867728950e"


@pytest.mark.parametrize(
    ("facts", "taken"),
    [
        # A label alone, its usual tolerance and a stated one; a measured one at half its give or take.
        ({"stops": 10}, (10, None, 0.17, 10, 10)),
        ({"stops": 10, "tolerance": 0.66}, (10, None, 0.33, 10, 10)),
        ({"stops": 9, "offset": 0.3, "give_or_take": 0.2}, (9, 0.3, 0.1, 9.3, 9.3)),
        # A range at its middle, known to half its spread; graduated glass adds nothing.
        ({"kind": "variable", "stops": 2, "stops_max": 5}, (3.5, 0.0, 1.5, 2, 5)),
        ({"kind": "polariser", "stops": 1.3, "stops_max": 1.7}, (1.5, 0.0, 0.2, 1.3, 1.7)),
        ({"kind": "graduated", "stops": 2}, (0, None, 0, 0, 0)),
    ],
)
def test_how_the_sum_takes_a_glass(facts: dict[str, object], taken: tuple[float | None, ...]) -> None:
    found = strength(read_thing(Glass, facts))
    assert (found.stops, found.offset, found.offset_sd, found.low, found.high) == pytest.approx(taken)


def test_filters_that_stay_together_are_known_as_well_as_all_of_them() -> None:
    slot = read_thing(Glass, {"stops": 9, "offset": 0.3, "give_or_take": 0.2, "mount": "plate", "clear_mm": 90})
    ring = read_thing(Glass, {"stops": 4, "rim_depth_mm": 4, "clear_mm": 72})
    pair = merge_glasses((slot, ring))
    # 9.3 known to 0.1, 4 by its label to 0.17: 13.3 known to 0.2, both 95 % and half of it.
    found = strength(pair)
    assert (found.stops, found.offset) == pytest.approx((13, 0.3))
    assert found.offset_sd == pytest.approx(math.hypot(0.1, 0.17))
    assert (pair.mount, pair.clear_mm, pair.rim_depth_mm) == ("plate", 72, None)
    assert strength(merge_glasses((ring, ring))).offset_sd == pytest.approx(math.hypot(0.17, 0.17))
    assert merge_glasses((slot, read_thing(Glass, {"kind": "polariser", "stops": 1.5}))).kind == "combined"
    wrong = [(slot,), (slot, replace(pair, members=(KEY, KEY[::-1]))), (slot, read_thing(Glass, {"kind": "graduated"}))]
    for given_ in wrong:
        with pytest.raises(Refusal):
            merge_glasses(given_)


@pytest.mark.parametrize(
    ("facts", "turned_sd"),
    [
        ({"kind": "variable", "stops": 2, "stops_max": 5}, 0.25),
        ({"kind": "variable", "stops": 2, "stops_max": 5, "tolerance": 1}, 0.5),
        ({"kind": "variable", "stops": 2, "stops_max": 5, "offset": 0.1, "give_or_take": 0.8}, 0.4),
        ({"kind": "solid", "stops": 6}, 0.0),
    ],
)
def test_a_ring_that_is_said_to_be_turned_is_known_better_than_its_range(
    facts: dict[str, object], turned_sd: float
) -> None:
    found = strength(read_thing(Glass, facts))
    assert found.turned_sd == pytest.approx(turned_sd)
    assert found.kind != "variable" or found.offset_sd == pytest.approx(1.5)


def test_what_a_body_offers() -> None:
    assert isos_of(Body(iso_lowest=64, iso_highest=500)) == ("64", "125", "250", "500")
    assert isos_of(Body(iso_lowest=100, iso_highest=100)) == ("100",)
    assert sharp_to(Body(pitch_um=4.35)) == pytest.approx(11.53, abs=0.01)
    variable = Glass(kind="variable", stops=2, stops_max=5, usable_end=((24, 4.0), (50, 4.8)))
    assert [usable_at(variable, focal) for focal in (24, 28, 45, 200)] == [4.0, 4.0, 4.8, None]


def test_a_film_is_entered_as_time_or_as_aperture() -> None:
    rows = [[1, 1 / 3], [10, 1], [100, 2]]
    by_aperture = read_thing(Film, {"law": "table", "given_as": "aperture", "points": rows}).as_law()
    # Data sheet rows as aperture stops: 30 s asks 129.8 s, misread as time it would be 83.5 s.
    assert by_aperture.corrected(30) == pytest.approx(129.802, rel=1e-5)
    with pytest.raises(Refusals) as refused:
        read_thing(Film, {"law": "table", "points": [[1, 1], [1, 2]]})
    assert refused.value.all[0].field == "points.1"
