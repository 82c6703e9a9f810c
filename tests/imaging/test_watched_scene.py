"""A phone's looks at videos whose light is known: drift recovered, doubt honest, the fake camera's file whole."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from jackstaff_core.moving_light.fusion import Fused, Looked, fuse_light
from jackstaff_core.moving_light.watching import Eye, LookQuestion, Sight, look
from jackstaff_core.sky.made_up import SkyKind, made_up_sky
from jackstaff_imaging.watched_scene import CALM, COLUMNS, ROWS, Disturbed, WatchedScene, cells, y4m

SMALL = (160, 120)


def watched(
    light: Callable[[float], float], seed: int, disturbed: Disturbed, every: float = 5
) -> tuple[Fused, set[Sight]]:
    """Ten minutes of looks through the drawn scene, and what they say together."""
    scene = WatchedScene(light, seed, disturbed, SMALL)
    eye: Eye | None = None
    looks: list[Looked] = []
    sights = set()
    for turn in range(int(600 / every) + 1):
        second = turn * every
        seen = look(LookQuestion(tuple(cells(scene.frame(second))), COLUMNS, True, before=eye))
        eye = seen.eye
        sights.add(seen.sight)
        if seen.stops is not None and seen.sd is not None:
            looks.append(Looked(second, seen.stops, seen.sd, seen.part))
    return fuse_light(0, looks, now=600), sights


@pytest.mark.parametrize("stops", [-4.0, -1.0, 0.0, 2.0, 4.0])
def test_drift_of_up_to_four_stops_in_ten_minutes_is_recovered_within_a_tenth(stops: float) -> None:
    found, _ = watched(lambda second: stops * second / 600, 1, CALM)
    assert found.stops == pytest.approx(stops, abs=0.1)
    assert max(abs(knot.stops - stops * knot.at_seconds / 600) for knot in found.knots) < 0.1
    assert not found.steps


def test_the_doubt_is_honest_over_skies_and_disturbances() -> None:
    inside = count = 0
    sights: set[Sight] = set()
    for seed, kind in enumerate(
        (SkyKind.DAWN, SkyKind.BROKEN_CLOUD, SkyKind.THIN_CLOUD, SkyKind.LAMPS, SkyKind.SHOWERS)
    ):
        sky = made_up_sky(kind, seed)
        found, seen = watched(sky.at, seed, Disturbed(jolts=60))
        sights |= seen
        inside += sum(abs(knot.stops - sky.at(knot.at_seconds)) <= 2 * knot.sd for knot in found.knots[1:])
        count += len(found.knots) - 1
    assert inside >= 0.95 * count
    assert Sight.MOVED in sights


def test_a_cell_is_the_mean_linear_light_of_its_pixels_and_none_where_they_clip() -> None:
    codes = np.full((ROWS * 10, COLUMNS * 10, 3), 188, dtype=np.uint8)
    codes[:10, :10] = 255
    codes[:10, 10:15] = 0
    seen = cells(codes)
    assert seen[0] is None
    # sRGB 188 is half of white (IEC 61966-2-1), and half of the second cell is black.
    assert seen[1] == pytest.approx(0.25, abs=0.002)
    assert seen[2] == pytest.approx(0.5, abs=0.004)


def test_a_video_is_one_head_and_whole_frames() -> None:
    scene = WatchedScene(lambda _: 0.0, 1, CALM, SMALL)
    parts = list(y4m((scene.frame(second) for second in range(3)), 5))
    assert parts[0] == b"YUV4MPEG2 W160 H120 F5:1 Ip A1:1 C420jpeg\n"
    assert [len(part) for part in parts[1:]] == [6 + 160 * 120 * 3 // 2] * 3
    luma = np.frombuffer(parts[1][6 : 6 + 160 * 120], dtype=np.uint8).reshape(120, 160)
    # Studio range: black is 16, white 235.
    assert np.abs((luma - 16.0) * 255 / 219 - scene.frame(0)[..., 1].astype(float)).mean() < 12
