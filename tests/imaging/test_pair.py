"""Frame pairs against the reference image test, the tables of cast, and frames by the simulated camera."""

from __future__ import annotations

import io
import re
from datetime import UTC, datetime

import numpy as np
import pytest
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from jackstaff_core.filters.white_balance import MIRED_A_STOP, white_balance_said
from jackstaff_core.words.refusal import Refusal
from jackstaff_imaging.frame import Taken, photograph
from jackstaff_imaging.light import Bytes, encoded
from jackstaff_imaging.pair import exposure_value, measure, measure_bracket
from jackstaff_imaging.photo import opened, pixels

TRUE = (10.0, 10.0, 10.0)


def ramp(offsets: tuple[float, float, float] = (0, 0, 0), stops: float = 0.0) -> Bytes:
    """A linear ramp of 0.06 to 0.40 across 96 x 144, each channel ``offsets`` brighter."""
    level = np.broadcast_to(np.linspace(0.06, 0.40, 144), (96, 144))
    return encoded(np.stack([level * 2 ** (offset + stops) for offset in offsets], axis=-1).astype(np.float32))


@pytest.mark.parametrize(
    ("offsets", "over", "measured", "valid"),
    [
        ((0, 0, 0), 0.0, (10, 10, 10), 96),
        ((0.3, 0, -0.35), 0.0, (9.7, 10, 10.35), 96),
        ((0.3, 0, -0.35), 0.4, (9.7, 10, 10.35), 96),
        ((-0.6, -0.5, -0.7), 0.0, (10.6, 10.5, 10.7), 96),
        ((0, 0, 0), 1.0, (10, 10, 10), 96),
        ((0, 0, 0), 2.0, (10, 10, 10), 48),
    ],
)
def test_the_reference_image(
    offsets: tuple[float, float, float], over: float, measured: tuple[float, ...], valid: int
) -> None:
    found = measure(ramp(), ramp(offsets, over), 10 + over, 8, 12)
    assert found.stops == pytest.approx(measured, abs=0.002)
    assert found.valid_blocks == pytest.approx(valid, abs=4)
    assert (found.refused is not None) == (abs(over + offsets[1]) > 0.5)


@pytest.mark.parametrize(
    ("strengths", "rg", "bg", "mired"),
    [((9.7, 10, 10.3), 0.3, -0.3, 42), ((10.2, 10, 9.9), -0.2, 0.1, -21), ((10, 10, 10), 0, 0, 0)],
)
def test_cast_and_white_balance(strengths: tuple[float, ...], rg: float, bg: float, mired: float) -> None:
    offsets = tuple(10 - each for each in strengths)
    cast = measure(ramp(), ramp(offsets), 10.0).cast  # type: ignore[arg-type]
    assert [cast.rg, cast.bg] == pytest.approx([rg, bg], abs=0.01)
    assert cast.mired == pytest.approx(mired, abs=1.5)


@pytest.mark.parametrize("cast", [(-0.15, 0.15), (0.2, -0.1), (0.4, -0.4)])
def test_the_advice_applied_to_the_picture_leaves_it_neutral(cast: tuple[float, float]) -> None:
    """Set to another kelvin the camera weights red against blue the other way: measured again, nothing is left."""
    red, blue = cast
    filtered = ramp((red, 0.0, blue))
    shift = measure(ramp(), filtered, 10.0).cast.mired
    told = str(white_balance_said(shift))
    came_out, way = ("blue", "warmer") if red < blue else ("warm", "cooler")
    assert f"comes out {came_out}" in told
    assert f"mired {way}" in told
    # Warmer is more red and less blue, by the stops that so many mired are; the middle of both stays where it was.
    by = float(re.findall(r"about (\d+) mired", told)[0]) / MIRED_A_STOP / 2 * (1 if way == "warmer" else -1)
    again = measure(ramp(), ramp((red + by, 0.0, blue - by)), 10.0).cast
    assert again.rg - again.bg == pytest.approx(0, abs=0.02)
    assert white_balance_said(again.mired) is None


def test_corner_falloff_is_seen_and_lens_falloff_cancels() -> None:
    y, x = np.mgrid[-1:1:400j, -1:1:600j]
    far = (x**2 + y**2) / 2
    # A block near the corner lies at about 0.77 of the way, squared 0.6.
    scene = 0.25 * 2 ** (-0.8 * far)
    bare = encoded(np.repeat(scene[..., None], 3, axis=2).astype(np.float32))
    filtered = encoded(np.repeat((scene * 2 ** (-1.0 * far**2))[..., None], 3, axis=2).astype(np.float32))
    found = measure(bare, filtered, 10.0)
    assert found.corner_falloff == pytest.approx(0.60, abs=0.03)
    assert measure(bare, bare, 10.0).corner_falloff == pytest.approx(0, abs=1e-9)


def test_what_must_be_shot_again_is_said() -> None:
    dark = measure(ramp(stops=-8), ramp(stops=-8), 10)
    assert dark.refused is not None
    assert "neither too dark nor too bright" in dark.refused
    drifted = measure(ramp(), ramp(), 10, after=ramp(stops=0.3))
    assert drifted.refused is not None
    assert "The light moved by 0.3 stop" in drifted.refused
    # Bare, filtered, bare: steady drift of a tenth cancels.
    steady = measure(ramp(stops=-0.05), ramp(), 10, after=ramp(stops=0.05))
    assert steady.refused is None
    assert steady.stops == pytest.approx(TRUE, abs=0.01)
    assert 0.05 <= steady.sure_within < 0.1


def curved(linear: np.ndarray) -> Bytes:
    """As a camera with a strong S-curve would write it."""
    codes = encoded(linear).astype(np.float64) / 255
    bent = codes + 0.6 * codes * (1 - codes) * (codes - 0.5) * 2
    return np.asarray(np.clip(bent, 0, 1) * 255 + 0.5, dtype=np.uint8)


def test_a_bracket_sees_through_the_tone_curve() -> None:
    level = np.broadcast_to(np.linspace(0.08, 0.32, 144), (96, 144))[..., None].repeat(3, axis=2)
    bare_value = 3.0
    bares = [(curved((level * 2**apart).astype(np.float32)), bare_value + apart) for apart in (-1, -2 / 3, -1 / 3, 0)]
    bares += [(curved((level * 2**apart).astype(np.float32)), bare_value + apart) for apart in (1 / 3, 2 / 3, 1)]
    # A glass of 9.72, 10.05 and 10.41 stops, shot half a stop too dark.
    true = np.array([9.72, 10.05, 10.41])
    filtered = curved((level * 2 ** (10.05 - 0.5 - true)).astype(np.float32))
    found = measure_bracket(bares, filtered, bare_value + 10.05 - 0.5, 8, 12)
    assert found.refused is None
    assert found.stops == pytest.approx(true, abs=0.02)
    alone = measure(bares[3][0], filtered, 10.05 - 0.5, 8, 12)
    assert abs(alone.stops[1] - 10.05) > 0.05
    # Outside the bracket nothing is guessed.
    far = measure_bracket(bares[3:5], curved((level * 2**-1.5).astype(np.float32)), bare_value + 10)
    assert far.refused is not None


def shot(stops: float, seconds: float, f_number: float = 8.0, iso: float = 100) -> bytes:
    level = np.broadcast_to(np.linspace(0.08, 0.35, 240), (160, 240))
    scene = np.repeat(level[..., None], 3, axis=2).astype(np.float32)
    return photograph(
        scene, stops, Taken(datetime(2027, 4, 17, 4, 30, tzinfo=UTC), seconds, f_number, iso, "Simulated")
    )


def test_settings_come_out_of_exif_as_exact_marks() -> None:
    image, said = opened("bare", io.BytesIO(shot(0.0, 1 / 60)))
    assert said.seconds == pytest.approx(1 / 64)
    assert (said.f_number, said.iso) == (8.0, 100.0)
    assert (said.aperture, said.speed, said.utc_offset_minutes) == ("8", "100", 0)
    # A dial's f/5.6 is 4 times the root of 2 and stays f/5.6; so does ISO 125.
    five, speed = (opened("bare", io.BytesIO(shot(0.0, 1.0, 5.6, 125)))[1] for _ in range(2))
    assert (five.aperture, speed.speed) == ("5.6", "125")
    assert five.f_number == pytest.approx(4 * 2**0.5)
    assert str(said.taken_at) == "2027-04-17 04:30:00"
    assert said.body == "Simulated"
    # Bulb is literal, and APEX, exact already, wins where it agrees.
    assert opened("bare", io.BytesIO(shot(0.0, 240.0)))[1].seconds == 240
    out = io.BytesIO()
    exif = image.getexif()
    exif.get_ifd(0x8769)[0x9201] = IFDRational(5_950_000, 1_000_000)
    exif.get_ifd(0x8769)[0x9011] = "-03:30"
    Image.new("RGB", (64, 64)).save(out, "JPEG", exif=exif)
    later = opened("bare", out)[1]
    assert later.seconds == pytest.approx(2**-5.95)
    assert later.utc_offset_minutes == -210
    bare, filtered = pixels("bare", image), pixels("filtered", opened("filtered", io.BytesIO(shot(-0.2, 16.0)))[0])
    more = exposure_value(16.0, 8.0, 100) - exposure_value(1 / 64, 8.0, 100)
    assert measure(bare, filtered, more).stops[1] == pytest.approx(10.2, abs=0.03)


def bomb() -> bytes:
    """A JPEG header that claims 60000 x 60000 pixels."""
    content = bytearray(shot(0.0, 1.0))
    at = content.index(b"\xff\xc0")
    content[at + 5 : at + 9] = (60_000).to_bytes(2, "big") * 2
    return bytes(content)


@pytest.mark.parametrize(
    "content",
    [b"", b"GIF89a", b"\x89PNG\r\n\x1a\n", b"\xff\xd8\xff", bomb(), b"<svg/>", shot(0, 1)[:300]],
    ids=range(7),
)
def test_what_is_no_sound_jpeg_is_refused_in_words(content: bytes) -> None:
    with pytest.raises(Refusal) as refusal:
        pixels("bare", opened("bare", io.BytesIO(content))[0])
    assert refusal.value.field == "bare"
    assert refusal.value.problem.endswith(".")


def test_a_picture_of_hundreds_of_scans_or_of_filler_is_refused_before_it_is_decoded() -> None:
    sound = shot(0.0, 1.0)
    start = sound.index(b"\xff\xda")
    scan = sound[start:-2]
    opened("file", io.BytesIO(sound))
    opened("file", io.BytesIO(sound[:start] + b"\xff" * 4000 + sound[start:]))
    for bad in (sound[:-2] + scan * 120 + sound[-2:], sound[:start] + b"\xff" * 5000 + sound[start:]):
        with pytest.raises(Refusal, match="no camera does"):
            opened("file", io.BytesIO(bad))


def test_a_picture_that_breaks_off_is_refused_and_broken_exif_is_none() -> None:
    whole = shot(0.0, 1.0)
    with pytest.raises(Refusal, match="breaks off"):
        pixels("bare", opened("bare", io.BytesIO(whole[: len(whole) // 2]))[0])
    broken = whole.replace(b"Exif\x00\x00MM", b"Exif\x00\x00XX").replace(b"Exif\x00\x00II", b"Exif\x00\x00XX")
    assert opened("bare", io.BytesIO(broken))[1].seconds is None
