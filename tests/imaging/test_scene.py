"""The drawn scene: repeatable, of one level at every time, and its cloud as long as the number says."""

from __future__ import annotations

import io
import math

import numpy as np
import pytest
from numpy.typing import NDArray
from PIL import Image

from jackstaff_core.motion.cloud import streak_share
from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.motion.subjects import Camera, Subject, sky_of
from jackstaff_core.words.refusal import Refusal
from jackstaff_imaging.light import decoded, encoded
from jackstaff_imaging.noise import drawn_out, rough
from jackstaff_imaging.scene import HORIZON, Exposed, draw, exposed, jpeg

CAMERA = Camera(24.0, 36.0, 4.35, 15.0, 0.0)
CLOUD = Subject("cloud", {"class": "low", "wind_m_s": 8, "wind_from_deg": 270})
EVERYTHING = LooksQuestion(
    CAMERA,
    (
        CLOUD,
        Subject("sea", {"height_m": 0.6}),
        Subject("people", {"standing": 2}),
        Subject("leaves", {"class": "breeze", "distance_m": 3}),
        Subject("lamps", {}),
    ),
)
TIMES = (1 / 250, 1 / 15, 1.0, 8.0, 30.0, 240.0, 960.0)


def test_the_same_seed_draws_the_same_picture_and_another_does_not() -> None:
    what = exposed(EVERYTHING, 8.0)
    drawn, again, other = draw(what, 480, 320), draw(what, 480, 320), draw(what, 480, 320, seed=8)
    assert np.array_equal(drawn, again)
    assert not np.array_equal(drawn, other)
    assert jpeg(drawn) == jpeg(again)
    opened = Image.open(io.BytesIO(jpeg(drawn)))
    assert (opened.format, opened.size) == ("JPEG", (480, 320))


def test_the_level_stays_within_a_tenth_of_a_stop() -> None:
    levels = [math.log2(decoded(encoded(draw(exposed(EVERYTHING, time), 480, 320))).mean()) for time in TIMES]
    assert max(levels) - min(levels) < 0.1


def test_longer_is_calmer() -> None:
    relief = []
    for time in TIMES:
        water = draw(exposed(EVERYTHING, time), 480, 320)[250:310, 250:470].mean(axis=2)
        relief.append(float(water.std() / water.mean()))
    assert relief == sorted(relief, reverse=True)
    assert relief[-1] < relief[0] / 3


@pytest.mark.parametrize(("seconds", "width"), [(10.0, 960), (20.0, 960), (45.0, 960), (30.0, 640)])
def test_the_streak_in_the_picture_is_as_long_as_the_number(seconds: float, width: int) -> None:
    question = LooksQuestion(CAMERA, (CLOUD,))
    share = streak_share(sky_of(CLOUD, CAMERA), seconds)
    # The open sky, above the top of the tower.
    rows = slice(0, round(width * 2 / 3 * HORIZON * 0.6))
    still, drawn = (
        draw(what, width, width * 2 // 3)[rows].mean(axis=2) for what in (Exposed(seconds), exposed(question, seconds))
    )
    assert _streak_length(still, drawn) == pytest.approx(share * width, rel=0.15)


def _streak_length(still: NDArray[np.float32], drawn: NDArray[np.float32]) -> float:
    """The box whose sinc best says what became of the still picture's detail along the rows."""
    window = np.hanning(still.shape[1])
    before, after = (
        np.sqrt((np.abs(np.fft.rfft((sky - sky.mean(axis=1, keepdims=True)) * window)) ** 2).mean(axis=0))
        for sky in (still, drawn)
    )
    fine = slice(4, still.shape[1] // 8)
    left, per_pixel = (after / before)[fine], np.fft.rfftfreq(still.shape[1])[fine]
    lengths = np.arange(4, still.shape[1] // 4)
    misfit = [float(((left - np.abs(np.sinc(per_pixel * length))) ** 2).mean()) for length in lengths]
    return float(lengths[int(np.argmin(misfit))])


def test_blur_keeps_the_mean_and_still_cloud_stays() -> None:
    field = rough(3, 64, 256, 2.5)
    assert drawn_out(field, 0.5, 0.2) is field
    blurred = drawn_out(field, 60, 0)
    assert blurred.mean() == pytest.approx(field.mean(), abs=1e-4)
    assert blurred.std() < field.std() * 0.8
    still = exposed(LooksQuestion(CAMERA, (Subject("cloud", {"wind_m_s": 0}),)), 900.0)
    assert still.streak == (0.0, 0.0)
    assert np.array_equal(draw(Exposed(1.0), 240, 160), draw(Exposed(60.0), 240, 160))


def test_encoding_goes_there_and_back() -> None:
    codes = np.arange(256, dtype=np.uint8)[None, :, None].repeat(3, axis=2)
    assert np.array_equal(encoded(decoded(codes)), codes)
    # Published values of the sRGB curve.
    for code, linear in ((10, 0.00303527), (118, 0.181164), (188, 0.502886), (245, 0.913099)):
        assert decoded(np.array([code], dtype=np.uint8))[0] == pytest.approx(linear, rel=1e-5)


def test_sizes_and_times_that_cannot_be_drawn() -> None:
    for size in ((100, 320), (480, 20), (9000, 320)):
        with pytest.raises(Refusal):
            draw(Exposed(1.0), *size)
    with pytest.raises(Refusal):
        exposed(EVERYTHING, -1.0)
