"""What pictures leave behind and what capped frames say: laws over levels, sizes, specks and glow."""

from __future__ import annotations

import base64
import io
import math
import random
import statistics
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from PIL import Image

from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.log.evidence import GlassKnown, weigh_log
from jackstaff_core.log.finished_frame import FinishedFrame, UsedGlass
from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.motion.subjects import Camera, Subject
from jackstaff_imaging.beforeafter import Side, card
from jackstaff_imaging.capped import LEAK_LINEAR, leak, specks
from jackstaff_imaging.digest import BIN_STOPS, BINS, MOST_SMALL_BYTES, SMALL, digest
from jackstaff_imaging.frame import Taken, photograph
from jackstaff_imaging.headroom import headroom
from jackstaff_imaging.light import Bytes, Picture, decoded, encoded
from jackstaff_imaging.photo import opened, pixels, strips
from jackstaff_imaging.scene import draw, exposed

DAWN = datetime(2027, 4, 17, 4, 30, tzinfo=UTC)


def level(linear: float, size: tuple[int, int] = (96, 144)) -> Bytes:
    return encoded(np.full((*size, 3), linear, dtype=np.float32))


@given(st.floats(0.004, 0.95), st.floats(-1.5, 1.5))
@settings(max_examples=50)
def test_a_shift_in_light_is_a_shift_of_the_median(linear: float, stops: float) -> None:
    moved = linear * 2**stops
    as_it_was, shifted = (digest(Image.fromarray(level(at)), level(at)) for at in (linear, min(moved, 1.0)))
    # A code is a step: a quarter of a stop at worst this far down, a hundredth in the lights.
    assert as_it_was.median_stops - shifted.median_stops == pytest.approx(math.log2(min(moved, 1.0) / linear), abs=0.25)
    for shares in (as_it_was.red, as_it_was.green, as_it_was.blue):
        assert len(shares) == BINS
        assert sum(shares) == pytest.approx(1, abs=1e-4)
    assert as_it_was.green.index(max(as_it_was.green)) == pytest.approx(-math.log2(linear) / BIN_STOPS, abs=1.6)


def test_clipped_and_black_are_counted_by_channel() -> None:
    pixels = level(0.2)
    pixels[:24] = 0
    pixels[72:, :, 0] = 255
    found = digest(Image.fromarray(pixels), pixels)
    assert found.clipped == pytest.approx((0.25, 0, 0), abs=0.01)
    assert found.black == pytest.approx(0.25, abs=0.01)


@pytest.mark.parametrize(("size", "turned"), [((1200, 800), 1), ((1200, 800), 6), ((300, 200), 1)])
def test_the_small_copy_is_small_and_upright(size: tuple[int, int], turned: int) -> None:
    dice = np.random.default_rng(1)
    pixels = dice.integers(0, 255, (size[1], size[0], 3), dtype=np.uint8)
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x0112] = turned
    Image.fromarray(pixels).save(out, "JPEG", exif=exif)
    image = Image.open(out)
    small = base64.b64decode(digest(image, pixels).small)
    # Noise is the worst a JPEG can hold; it is kept coarser rather than larger.
    assert len(small) <= 2 * MOST_SMALL_BYTES
    with Image.open(io.BytesIO(small)) as copy:
        wide, high = copy.size
        assert max(wide, high) == min(SMALL, max(size))
        assert (high > wide) == (turned == 6)
        assert copy.getexif() == {}


SOLIDS = (GlassKnown("nine", "Slot ND 9", 9.0), GlassKnown("four", "Slot ND 4", 4.0))


@pytest.fixture(scope="module")
def scene() -> Picture:
    drawn = draw(exposed(LooksQuestion(Camera(24.0), (Subject("sea", {"height_m": 0.6}),)), 60.0), 240, 160, 7)
    return np.asarray(drawn[::2, ::2] * 0.6, dtype=np.float32)


def middle(codes: Bytes) -> float:
    """The middle of the greens [stops]."""
    return float(np.log2(decoded(np.asarray(np.median(codes[..., 1]), dtype=np.uint8))))


@pytest.mark.parametrize("hidden", [0.3, 1.8])
def test_hidden_glass_errors_are_read_out_of_drawn_frames(scene: Picture, hidden: float) -> None:
    """Frames by the simulated camera, each judged by its own tones against a right one, over 200 seeds."""
    right = middle(encoded(scene))
    inside, errors = 0, []
    for seed in range(200):
        dice = random.Random(f"{hidden} {seed}")
        habit, frames = dice.gauss(0, 0.1), []
        for number, stack in enumerate(["nine", "nine", "nine four", "nine", "four", ""]):
            dark = (hidden if "nine" in stack else 0.0) + habit + dice.gauss(0, 0.1)
            taken = Taken(DAWN, 60.0, 8.0, 64, "Simulated camera")
            image, _ = opened("frame", io.BytesIO(photograph(scene, -dark, taken)))
            error_stops = middle(pixels("frame", image)) - right
            frames.append(
                FinishedFrame(
                    id=str(number),
                    opened_at=DAWN + timedelta(minutes=number),
                    seconds=60.0,
                    aimed_seconds=60.0,
                    planned_seconds=60.0,
                    glass=tuple(UsedGlass(key, key, GlassKind.SOLID, 9.0) for key in stack.split()),
                    error_stops=error_stops,
                )
            )
        nine = next(glass for glass in weigh_log(frames, SOLIDS).glass if glass.id == "nine")
        inside += abs(nine.mean - hidden) <= 2 * nine.sd
        errors.append(abs(nine.mean - hidden))
    assert inside / 200 >= 0.90
    assert statistics.median(errors) < 0.1


def capped(hot: int, glow: float = 0.0, noise: float = 0.0, side: int = 256) -> Bytes:
    dice = np.random.default_rng(hot)
    linear = np.full((side, side, 3), 0.0009, dtype=np.float32)
    linear += np.linspace(0, glow, side, dtype=np.float32)[:, None, None]
    linear += np.abs(dice.normal(0, noise, linear.shape)).astype(np.float32)
    # Each in a cell of its own: two that touch are one.
    cells = side // 4
    places = dice.permutation(cells * cells)[:hot]
    linear[places // cells * 4 + 1, places % cells * 4 + 1] = dice.uniform(0.1, 0.9, (hot, 1))
    return encoded(linear)


@given(st.integers(0, 120), st.floats(0, 0.006), st.floats(0, 0.0008))
@settings(max_examples=40)
def test_specks_are_counted_and_glow_and_noise_are_not(hot: int, glow: float, noise: float) -> None:
    found = specks([capped(hot, glow, noise)], 240.0)
    assert found.refused is None
    assert found.count == pytest.approx(hot, abs=2)
    assert (found.advised_from_seconds is None) == (found.count == 0)


@given(st.floats(1, 3600), st.floats(-10, 30), st.floats(-10, 30))
@settings(max_examples=30)
def test_the_advised_time_goes_with_time_and_warmth(seconds: float, then: float, later: float) -> None:
    frame = capped(60)
    plain, warm = (
        specks([frame], seconds).advised_from_seconds,
        specks([frame], seconds, then, later).advised_from_seconds,
    )
    assert plain
    assert warm
    # The same specks in twice the time: twice as long is free of them; seven degrees warmer halves it.
    assert specks([frame], 2 * seconds).advised_from_seconds == pytest.approx(2 * plain)
    assert math.log2(plain / warm) == pytest.approx((later - then) / 7, abs=1e-9)


@given(st.floats(2 * LEAK_LINEAR, 0.05))
@settings(max_examples=30)
def test_a_leak_is_what_the_open_eyepiece_adds(added: float) -> None:
    dark = np.full((160, 240, 3), 0.004, dtype=np.float32)
    opened = dark.copy()
    opened[:60, 160:] += added
    found = leak(encoded(dark), encoded(opened))
    assert found.leaks
    assert found.where == "top right"
    assert found.below_grey_stops == pytest.approx(math.log2(0.18 / added), abs=0.35)


@given(st.floats(0, LEAK_LINEAR / 2))
@settings(max_examples=30)
def test_what_is_far_below_a_leak_is_none(added: float) -> None:
    dark = np.full((160, 240, 3), 0.004, dtype=np.float32)
    opened = dark.copy()
    opened[:60, 160:] += added
    assert not leak(encoded(dark), encoded(opened)).leaks


def test_frames_that_are_not_dark_are_not_judged() -> None:
    assert "cap on" in str(specks([level(0.2)], 1.0).refused)
    assert "cap on" in str(leak(level(0.2), level(0.001)).refused)
    assert "cap on" in str(leak(level(0.001), level(0.2)).refused)
    # A few bright pixels are specks, not a scene.
    assert specks([capped(200)], 1.0).refused is None


@pytest.mark.parametrize("sizes", [((600, 400), (600, 400)), ((400, 600), (600, 400)), ((64, 64), (3000, 200))])
def test_the_card_holds_both_whatever_their_shape(sizes: tuple[tuple[int, int], tuple[int, int]]) -> None:
    colours = ((200, 0, 0), (0, 0, 200))
    left, right = (Image.new("RGB", size, colour) for size, colour in zip(sizes, colours, strict=True))
    long = "Vardsund mole at first light with a nine and a four " * 4
    content = card(Side(left, "Without filters", "1/40 f/9 ISO 64"), Side(right, "With filters", long), long)
    with Image.open(io.BytesIO(content)) as made:
        assert (made.format, made.size[0]) == ("PNG", 1600)
        shown = {colour for _, colour in made.convert("RGB").getcolors(2_000_000) or []}
        assert set(colours) <= shown
        # Long words are made smaller or cut, never run into the edge.
        edge = made.convert("RGB").crop((1556, 0, 1600, made.size[1]))
        assert len(edge.getcolors(10_000) or []) == 1


@example(-2.9921875, 0, 0.0)
@given(st.floats(-4.5, -0.2), st.integers(0, 2), st.floats(0, 0.0008))
@settings(max_examples=40)
def test_a_test_shot_may_go_as_far_to_the_right_as_is_told_and_not_a_third_further(
    brightest: float, channel: int, glints: float
) -> None:
    dice = np.random.default_rng(7)
    linear = np.full((120, 200, 3), 0.02, dtype=np.float32)
    sky = np.exp2(brightest) * dice.uniform(0.8, 1.0, (60, 200)).astype(np.float32)
    linear[:60] = (sky * 0.7)[..., None]
    linear[:60, :, channel] = sky
    places = dice.permutation(120 * 200)[: int(glints * 120 * 200)]
    linear[places // 200, places % 200] = 1.0
    found = headroom(encoded(linear))
    assert found.channel == ("red", "green", "blue")[channel]
    assert found.stops == pytest.approx(-brightest, abs=0.12)

    def burns(stops: float) -> bool:
        return bool((encoded(np.minimum(linear * np.float32(2**stops), 1.0)) >= 254).mean(axis=(0, 1)).max() > 0.001)

    assert not burns(found.thirds / 3 - 0.001)
    assert burns(found.thirds / 3 + 0.5) or found.thirds == 12
    # What is burnt is said, and nothing is promised.
    linear[:3] = 1.0
    over = headroom(encoded(linear))
    assert over.thirds == 0
    assert over.burnt[0] == pytest.approx(3 / 120, abs=0.001)
    assert "go darker" in over.text


def mosaic(planted: int, side: int = 640) -> NDArray[np.float64]:
    """What a capped sensor holds under its colour filters: ``planted`` hot photosites on a dark, noisy ground."""
    dice = np.random.default_rng(planted)
    raw = np.abs(dice.normal(0.0006, 0.0001, (side, side)))
    places = dice.permutation(side * side)[:planted]
    raw[places // side, places % side] = dice.uniform(0.08, 0.9, planted)
    return raw


def neighbours(raw: NDArray[np.float64]) -> dict[str, NDArray[np.float64]]:
    """Each photosite's neighbours, by the way to them."""
    padded = np.pad(raw, 1, mode="reflect")
    ways = {"n": (0, 1), "s": (2, 1), "w": (1, 0), "e": (1, 2), "nw": (0, 0), "ne": (0, 2), "sw": (2, 0), "se": (2, 2)}
    return {way: padded[y : y + raw.shape[0], x : x + raw.shape[1]] for way, (y, x) in ways.items()}


def demosaiced(raw: NDArray[np.float64], directed: bool) -> NDArray[np.float64]:
    """Red, green and blue of an RGGB mosaic: bilinear, or with green along the direction in which it changes less."""
    near = neighbours(raw)
    across, down = (near["w"] + near["e"]) / 2, (near["n"] + near["s"]) / 2
    corners = (near["nw"] + near["ne"] + near["sw"] + near["se"]) / 4
    green = (across + down) / 2
    if directed:
        sideways, upright = abs(near["w"] - near["e"]), abs(near["n"] - near["s"])
        green = np.where(sideways < upright, across, np.where(upright < sideways, down, green))
    y, x = np.indices(raw.shape) % 2
    red_row, red_column = y == 0, x == 0
    found = np.empty((*raw.shape, 3))
    is_green = red_row ^ red_column
    found[..., 1] = np.where(is_green, raw, green)
    at_red, at_blue = red_row & red_column, ~red_row & ~red_column
    for channel, own, other, row in ((0, at_red, at_blue, red_row), (2, at_blue, at_red, ~red_row)):
        found[..., channel] = np.where(own, raw, np.where(other, corners, np.where(row, across, down)))
    return found


@pytest.mark.parametrize("subsampling", ["4:4:4", "4:2:0"])
@pytest.mark.parametrize("directed", [False, True], ids=["bilinear", "edge-directed"])
@pytest.mark.parametrize("planted", [40, 400])
def test_a_hot_photosite_counts_once_whatever_the_camera_made_of_it(
    planted: int, directed: bool, subsampling: str
) -> None:
    picture = Image.fromarray(encoded(demosaiced(mosaic(planted), directed).astype(np.float32)))
    file = io.BytesIO()
    picture.save(file, "JPEG", quality=92, subsampling=subsampling)
    image, _ = opened("file", file)
    found = specks(strips("file", image), 240.0)
    assert found.count == pytest.approx(planted, rel=0.1)
    truly = 240.0 * 30 / (planted / 0.4096)
    assert found.advised_from_seconds == pytest.approx(truly, rel=1 / 3)
