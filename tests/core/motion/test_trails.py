"""Test core/motion/trails.py."""

from __future__ import annotations

import pytest

from jackstaff_core.motion import people, trails, water
from tests.core.tables import near


@pytest.mark.parametrize(
    ("found", "value"),
    [
        (people.body_contrast(people.Walkers(), 1), -0.289286),
        (people.body_contrast(people.Walkers(), 4), -0.0723214),
        (people.body_contrast(people.Walkers(), 15), -0.0192857),
        (people.body_contrast(people.Walkers(), 60), -0.00482143),
        (people.feet_contrast(4), -0.146475),
        (people.feet_contrast(15), -0.03906),
        (people.feet_contrast(60), -0.009765),
        (people.veil(0.5, 0.45, 1.4), -0.144643),
        (people.veil_texture(0.5, 0.45, 1.4, 60), 0.0264081),
        (trails.trail_stops(0.2, 14, 30), -11.0362),
        (trails.star_pixels(0, 25, 20, 4.35), 8.38174),
        (trails.star_pixels(60, 240, 24, 4.35), 48.2788),
        (2 / trails.star_pixels(0, 1, 24, 4.35), 4.97112),
        # On the equator the corner of a 14 mm frame moves 1 + (21.633 / 14)^2 times as fast; the pole turns its own.
        (trails.longest_star_pixels(0, 1, 14, 4.35, 21.633) / trails.star_pixels(0, 1, 14, 4.35), 3.387687),
        (trails.longest_star_pixels(90, 1, 14, 4.35, 21.633) / trails.star_pixels(0, 1, 14, 4.35), 1.545214),
        (trails.height_above_low(1, 4), 0.250492),
        (trails.height_above_low(3.10515, 4), 2),
        (trails.height_above_low(5, 4), 3.63671),
        (trails.rise(3.10515, 480, 4), 0.134796),
        (trails.rise(0.25, 480, 4), 0.0215132),
        # Between a low and a high of one's own: 0.4 m at 0 h, 3.1 m at 6.5 h.
        (0.4 + trails.height_above_low(1, 2.7, 6.5), 0.554634),
        (0.4 + trails.height_above_low(3.25, 2.7, 6.5), 1.75),
        (0.4 + trails.height_above_low(5, 2.7, 6.5), 2.76049),
        (water.sea_period(0.64, None), 4.0),
        (water.sea_period(0.64, 8.0), 8.0),
        (water.river_period(0.3, 1.0), 0.3),
    ],
)
def test_other_vectors(found: float, value: float) -> None:
    assert found == near(value)
