"""What glass and light do beside darkening: film, variables, rims, diffraction, leaks, focus, grads."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jackstaff_core.camera.diffraction import HARD_PIXELS, SOFT_PIXELS, f_number_for, fwhm_pixels
from jackstaff_core.camera.focus import circle_mm, depth, hyperfocal_m
from jackstaff_core.camera.reciprocity import Additive, Power, ReciprocityLaw, Table, from_aperture_corrections
from jackstaff_core.exposure.flash import stops_to_sync
from jackstaff_core.filters.polarisers import (
    Pair,
    angle_for,
    cross_setting,
    ray_to,
    spread,
    stops_per_degree,
    transmission,
    unevenness,
    usable_end,
    usable_for_spread,
)
from jackstaff_core.filters.rims import Rim, pupil_depth, widest_clear
from jackstaff_core.stacks.graduated import average_falls, wanted_stops
from jackstaff_core.words.refusal import Refusal

from .tables import facts, near

LAWS: dict[str, ReciprocityLaw] = {
    "power p=1.3, t1=1 s": Power(1.3),
    "power p=1.3, t1=0.1 s": Power(1.3, 0.1),
    "additive a=0.1 b=1.6": Additive(0.1, 1.6),
    "table": Table(((1, 1), (2, 2.5), (4, 6), (10, 18), (30, 70), (100, 320))),
}


@facts("film")
def test_reciprocity_laws(row: dict[str, str]) -> None:
    law, metered = LAWS[row["law"]], float(row["metered"])
    assert law.corrected(metered) == near(row["corrected"])
    assert math.log2(law.corrected(metered) / metered) == near(row["stops"])
    assert law.metered(metered) == near(row["inverse"])


@given(st.sampled_from(list(LAWS.values())), st.floats(0.01, 5000), st.floats(1.0001, 3))
def test_laws_rise_never_shorten_and_invert(law: ReciprocityLaw, metered: float, more: float) -> None:
    assert law.corrected(metered) >= metered * (1 - 1e-12)
    assert law.corrected(metered * more) > law.corrected(metered)
    assert law.metered(law.corrected(metered)) == pytest.approx(metered, rel=1e-9)


def test_data_sheets_that_say_open_up_are_no_time_tables() -> None:
    sheet = from_aperture_corrections([(1, 1 / 3), (10, 1), (100, 2)])
    assert [value for point in sheet.points for value in point] == pytest.approx(
        [0.793701, 1, 5, 10, 25, 100], rel=1e-6
    )
    assert [sheet.corrected(t) for t in (5, 10, 30, 60)] == [near(v) for v in ("10", "26.9573", "129.802", "349.912")]
    misread = Table(((1, 2 ** (1 / 3)), (10, 20), (100, 400)))
    assert [misread.corrected(t) for t in (5, 60)] == [near("8.70136"), near("205.792")]


@pytest.mark.parametrize(
    "law",
    [
        lambda: Power(0.9),
        lambda: Power(1.3, 0),
        lambda: Additive(-1),
        lambda: Additive(0.1, 0.5),
        lambda: Table(((1, 1),)),
        lambda: Table(((1, 0.5), (2, 3))),
        lambda: Table(((2, 3), (1, 4))),
        lambda: Table(((0, 1), (2, 3))),
        lambda: Table(((-1, 1), (2, 3))),
        lambda: Table(((1, math.inf), (2, math.inf))),
    ],
)
def test_unsound_laws_are_refused(law: type) -> None:
    with pytest.raises(Refusal):
        law()


@facts("variable_axis")
def test_variable_on_axis(row: dict[str, str]) -> None:
    stops = float(row["stops"])
    theta = angle_for(stops)
    assert theta == near(row["theta"])
    assert 90 - theta == near(row["from_crossed"], 5)
    assert stops_per_degree(stops) == near(row["per_degree"])
    # Light that leaks through crossed films makes a setting weaker: the same angle gives the fewer stops of the table.
    for leak, weaker in ((1e-4, row["leak_1e4"]), (1e-3, row["leak_1e3"])):
        assert angle_for(float(weaker), leak=leak) == pytest.approx(theta, abs=0.05)


@facts("variable_rays")
def test_variable_off_axis(row: dict[str, str]) -> None:
    focal, x, y, theta, bisector = (float(row[name]) for name in ("focal", "x", "y", "theta", "bisector"))
    outside = transmission(ray_to(x, y, focal, 1.0), theta, bisector, 0.0)
    inside = transmission(ray_to(x, y, focal), theta, bisector, 1e-4)
    assert outside == near(row["external"], 5)
    assert inside == near(row["film"], 5)


@facts("variable_usable")
def test_where_a_variable_becomes_uneven(row: dict[str, str]) -> None:
    pair = Pair(index=float(row["index"]))
    focal = float(row["focal"])
    found = cross_setting(focal, pair) if row["limit"] == "cross" else usable_end(float(row["limit"]), focal, pair)
    assert found == pytest.approx(float(row["stops"]), abs=0.01)


@pytest.mark.parametrize(
    ("stops", "focal", "spread"),
    [(6, 16, 3.8), (6, 24, 2.0), (6, 35, 1.06), (6, 50, 0.56), (4, 24, 0.83), (4, 85, 0.09)],
)
def test_what_one_sees_of_it(stops: float, focal: float, spread: float) -> None:
    found = unevenness(stops, focal)
    assert found.spread_5_95 == pytest.approx(spread, rel=0.12, abs=0.02)
    assert found.corner_to_corner > found.spread_5_95
    # The cross has come in at its own setting and stays in beyond it.
    cross = cross_setting(focal)
    assert [unevenness(cross + beside, focal).cross for beside in (-0.01, 0.0, 0.01)] == [False, True, True]


@pytest.mark.parametrize("focal", [16, 24, 50, 200])
@pytest.mark.parametrize("limit", [0.3, 1.0])
def test_how_far_one_turns_for_what_one_puts_up_with(limit: float, focal: float) -> None:
    end = usable_for_spread(limit, focal, Pair())
    assert spread(end, focal, Pair()) <= limit
    assert end <= cross_setting(focal)
    # To a twentieth of a stop: a little further and it shows, or the cross is there.
    assert end + 0.05 > cross_setting(focal) or spread(end + 0.05, focal, Pair()) > limit


RIMS: dict[str, tuple[list[Rim], float, float]] = {
    **{f"n={count} rims 5 mm": ([Rim(5, 78)] * count, 14.2, 21.633) for count in range(5)},
    "step-up": ([Rim(3, 78), *[Rim(5, 90)] * 3], 14.2, 21.633),
    "slim 3 mm x2": ([Rim(3, 78)] * 2, 14.2, 21.633),
    "APS-C": ([Rim(5, 63)] * 2, 25, 14.1),
}


@facts("rims")
def test_rims(row: dict[str, str]) -> None:
    rims, pupil, h = next(known for name, known in RIMS.items() if name in row["case"])
    h = math.hypot(36, 24) / 2 if h > 21 else h
    assert widest_clear(rims, pupil, h, None) == near(row["chief"], 5)
    assert widest_clear(rims, pupil, h, 11) == near(row["at_11"], 4)
    assert widest_clear(rims, pupil, h, 2.8) == near(row["at_28"], 4)


@facts("rims_observed")
def test_rims_after_one_observation(row: dict[str, str]) -> None:
    count, f_number = int(row["rims"]), None if row["f_number"] == "-" else float(row["f_number"])
    h = math.hypot(36, 24) / 2
    rims = [Rim(5, 78)] * count
    pupil = pupil_depth(float(row["observed"]), rims, h, f_number)
    assert pupil == near(row["pupil"], 5)
    assert widest_clear(rims, pupil, h, f_number) == pytest.approx(float(row["observed"]))
    assert widest_clear([*rims, Rim(5, 78)], pupil, h, f_number) == near(row["one_more"], 5)
    assert widest_clear([Rim(3, 78), *[Rim(5, 90)] * count], pupil, h, f_number) == near(row["stepped"], 4)


@facts("diffraction")
def test_diffraction(row: dict[str, str]) -> None:
    f_number, pitch = float(row["f_number"]), float(row["pitch"])
    assert fwhm_pixels(f_number, pitch) == near(row["fwhm"], 5)


def test_soft_and_hard_limits_of_a_pitch() -> None:
    assert [f_number_for(pixels, 4.35) for pixels in (SOFT_PIXELS, HARD_PIXELS)] == [
        near("11.5293", 5),
        near("15.3724", 5),
    ]


@facts("hyperfocal")
def test_hyperfocal(row: dict[str, str]) -> None:
    focal, f_number, circle = (float(row[name]) for name in ("focal", "f_number", "circle"))
    assert hyperfocal_m(focal, f_number, circle) == near(row["metres"], 5)
    assert depth(focal, f_number, circle, hyperfocal_m(focal, f_number, circle) * 1.001).far_m == math.inf


@facts("depth")
def test_depth(row: dict[str, str]) -> None:
    found = depth(*(float(row[name]) for name in ("focal", "f_number", "circle", "focus")))
    assert found.near_m == near(row["near"], 5)
    assert found.far_m == near(row["far"], 4)
    assert circle_mm(36, 24) == pytest.approx(0.03, abs=1e-5)


@facts("graduated")
def test_graduated(row: dict[str, str]) -> None:
    share, sky, glass = (float(row[name]) for name in ("share", "sky", "glass"))
    assert average_falls(share, sky, glass) == near(row["falls"])
    assert wanted_stops(sky) == max(0, sky - 1)


@pytest.mark.parametrize(
    ("wide", "sync", "stops"),
    [(1 / 4096, 1 / 256, 4), (1 / 16384, 1 / 256, 6), (1 / 512, 1 / 203.187, 1.33334), (1, 1 / 250, 0)],
)
def test_flash_in_the_sun(wide: float, sync: float, stops: float) -> None:
    assert stops_to_sync(wide, sync) == near(stops)
