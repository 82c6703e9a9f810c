"""What a phone that watches the scene sees: the drawn mole under moving light, with what disturbs a phone outside.

Each frame is linear light scaled by 2^stops, clipped and coded by sRGB as a camera with its exposure held would do it,
with a code of noise. Disturbances are drawn from the seed: flicker, people who walk past, jolts after which the phone
swings back, knocks after which it looks elsewhere, drops on the lens. The light itself is given, and so is known.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

import numpy as np

from .light import Bytes, Picture, decoded, encoded
from .noise import rough
from .scene import Exposed, draw

COLUMNS, ROWS = 16, 12
MIDDLE = 0.10
"""What the scene's median is coded from at 0 stops [share of white]: room for three stops up, four down."""
CLIPPED_CODE, CLIPPED_SHARE = 250, 0.02


@dataclass(frozen=True, slots=True)
class Disturbed:
    """How much goes wrong: sd of the flicker [stops], and how many of each in an hour."""

    flicker: float = 0.02
    passers: float = 30.0
    jolts: float = 20.0
    knocks: float = 2.0
    drops: float = 4.0


CALM = Disturbed(0.005, 0, 0, 0, 0)


class WatchedScene:
    """Frames of a made-up scene; ``light`` is the truth [stops] by second."""

    def __init__(
        self,
        light: Callable[[float], float],
        seed: int,
        disturbed: Disturbed = CALM,
        size: tuple[int, int] = (320, 240),
        span: tuple[float, float] = (-1800, 3600),
    ) -> None:
        self.light, self.seed, self.disturbed, self.size = light, seed, disturbed, size
        drawn = draw(Exposed(0.03), 320, 240, seed)
        # A border to swing over.
        wide = np.pad(drawn, ((40, 40), (40, 40), (0, 0)), mode="reflect")
        self._wide: Picture = wide * np.float32(MIDDLE / float(np.median(drawn)))
        self._cloud = rough(seed + 5, 80, 80, 3.0)
        dice = random.Random(f"watched {seed}")  # noqa: S311
        self._passers = list(_happenings(dice, disturbed.passers, span, (3, 12)))
        self._jolts = list(_happenings(dice, disturbed.jolts, span, (0.5, 4)))
        self._knocks = sorted(second for second, _, _ in _happenings(dice, disturbed.knocks, span, (1, 1)))
        self._drops = sorted(second for second, _, _ in _happenings(dice, disturbed.drops, span, (1, 1)))

    def linear(self, second: float) -> Picture:
        """Return the scene's light as it falls on the phone, before it is coded."""
        right, down = self._aim(second)
        picture = self._wide[40 + down : 280 + down, 40 + right : 360 + right]
        step_y, step_x = 240 // self.size[1], 320 // self.size[0]
        picture = picture[::step_y, ::step_x]
        rng = np.random.default_rng((self.seed, round((second + 10_000) * 10)))
        gain = 2.0 ** (self.light(second) + rng.normal(0, self.disturbed.flicker))
        return np.asarray(picture * np.float32(gain) * self._shade(second, picture.shape), dtype=np.float32)

    def frame(self, second: float) -> Bytes:
        """Return the same as codes, with a code of noise."""
        codes = encoded(self.linear(second)).astype(np.int16)
        rng = np.random.default_rng((self.seed, round((second + 10_000) * 10), 1))
        noisy = codes + rng.integers(-1, 2, codes.shape, dtype=np.int16)
        return np.asarray(np.clip(noisy, 0, 255), dtype=np.uint8)

    def _aim(self, second: float) -> tuple[int, int]:
        knocked = random.Random(f"{self.seed} {sum(knock <= second for knock in self._knocks)}")  # noqa: S311
        right, down = (
            (0, 0) if second < (self._knocks or [1e9])[0] else (knocked.randint(-30, 30), knocked.randint(-25, 25))
        )
        for start, lasts, which in self._jolts:
            if start <= second < start + lasts:
                swung = random.Random(f"{self.seed} {which} {second:.0f}")  # noqa: S311
                right, down = right + swung.randint(-30, 30), down + swung.randint(-25, 25)
        return max(-40, min(40, right)), max(-40, min(40, down))

    def _shade(self, second: float, shape: tuple[int, ...]) -> Picture:
        height, width = shape[:2]
        # Clouds move over the scene: uneven light whose middle stays.
        moved = np.roll(self._cloud, round(second / 20), axis=1)
        grown = np.kron(moved, np.ones((height // 80 + 1, width // 80 + 1)))[:height, :width]
        shade = np.exp2(0.1 * (grown - grown.mean()))
        for start, lasts, which in self._passers:
            if start <= second < start + lasts:
                at = int((second - start) / lasts * width * 1.2 - width * 0.1) if which % 2 else (which * 37) % width
                shade[height // 4 :, max(0, at - width // 12) : max(0, at + width // 12)] *= 0.15
        for place in range(sum(drop <= second for drop in self._drops)):
            y, x = (place * 53 + 17) % height, (place * 71 + 29) % width
            shade[max(0, y - height // 16) : y + height // 16, max(0, x - width // 16) : x + width // 16] *= 0.6
        return np.asarray(shade[..., None], dtype=np.float32)


def _happenings(
    dice: random.Random, an_hour: float, span: tuple[float, float], lasts: tuple[float, float]
) -> Iterator[tuple[float, float, int]]:
    at, which = span[0], 0
    while an_hour > 0:
        at, which = at + dice.expovariate(an_hour / 3600), which + 1
        if at > span[1]:
            return
        yield at, dice.uniform(*lasts), which


def cells(codes: Bytes, columns: int = COLUMNS, rows: int = ROWS) -> list[float | None]:
    """Return the grid that a look is asked with: mean linear luminance of each cell, None where it is clipped.

    The page measures its own pictures the same way; a test holds the two together.
    """
    height, width = codes.shape[0] // rows, codes.shape[1] // columns
    cut = codes[: height * rows, : width * columns]
    luminance = decoded(cut) @ np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)
    clipped = (cut.max(axis=2) >= CLIPPED_CODE).reshape(rows, height, columns, width).mean(axis=(1, 3))
    means = luminance.reshape(rows, height, columns, width).mean(axis=(1, 3))
    return [
        None if share > CLIPPED_SHARE else float(mean)
        for mean, share in zip(means.ravel(), clipped.ravel(), strict=True)
    ]


def y4m(frames: Iterable[Bytes], per_second: int = 5) -> Iterator[bytes]:
    """Yield an uncompressed video (YUV4MPEG2, 4:2:0, BT.601 in studio range) piece by piece.

    As fake cameras play it.
    """
    begun = False
    for codes in frames:
        if not begun:
            height, width = codes.shape[:2]
            yield f"YUV4MPEG2 W{width} H{height} F{per_second}:1 Ip A1:1 C420jpeg\n".encode()
            begun = True
        r, g, b = (codes[..., part].astype(np.float32) for part in range(3))
        luma = 0.299 * r + 0.587 * g + 0.114 * b
        blue, red = ((part - luma) * scale * 224 / 255 + 128 for part, scale in ((b, 0.564), (r, 0.713)))
        luma = luma * 219 / 255 + 16
        halved = [plane.reshape(plane.shape[0] // 2, 2, -1, 2).mean(axis=(1, 3)) for plane in (blue, red)]
        yield b"FRAME\n" + b"".join(
            np.clip(plane + 0.5, 0, 255).astype(np.uint8).tobytes() for plane in (luma, *halved)
        )
