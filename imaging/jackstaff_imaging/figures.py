"""What stands and walks in the scene: the mole and its iron light, people, lamps, grass on the bank."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from PIL import Image, ImageDraw

from .light import Picture

Mask = NDArray[np.float32]
Paint = Callable[[ImageDraw.ImageDraw, float], None]

_STONE_TOP = np.array([0.135, 0.125, 0.120], dtype=np.float32)
_STONE_SIDE = np.array([0.042, 0.042, 0.046], dtype=np.float32)
_IRON = np.array([0.020, 0.021, 0.024], dtype=np.float32)
_LAMP = np.array([1.0, 0.72, 0.38], dtype=np.float32)
_BANK = np.array([0.030, 0.033, 0.026], dtype=np.float32)
_BLADES = np.array([0.085, 0.090, 0.045], dtype=np.float32)
_MIST = np.array([0.52, 0.50, 0.50], dtype=np.float32)
_FINE = 3
WALKERS = 5


class Figures:
    """Paints onto a picture of a given size; ``horizon`` is its row, ``scale`` 1 at 960 pixels."""

    def __init__(self, width: int, height: int, horizon: int, scale: float, seed: int) -> None:
        self.width, self.height, self.horizon, self.scale = width, height, horizon, scale
        self.rng = np.random.default_rng(seed + 2)
        # The mole runs from the right edge, near, to its tip, far.
        self.tip = (0.47 * width, horizon + 0.030 * height)
        self.root = (1.02 * width, horizon + 0.150 * height)

    def _cover(self, paint: Paint) -> Mask:
        canvas = Image.new("L", (self.width * _FINE, self.height * _FINE), 0)
        paint(ImageDraw.Draw(canvas), _FINE)
        return np.asarray(np.asarray(canvas.reduce(_FINE)) / 255, dtype=np.float32)

    def _lay(self, picture: Picture, cover: Mask, colour: NDArray[np.float32] | Picture) -> None:
        rows = np.flatnonzero(cover.any(axis=1))
        if len(rows) == 0:
            return
        part = slice(rows[0], rows[-1] + 1)
        alpha = cover[part, :, None]
        picture[part] += (colour - picture[part]) * alpha

    def _fill(self, picture: Picture, corners: list[tuple[float, float]], colour: NDArray[np.float32]) -> None:
        self._lay(picture, self._cover(lambda pen, fine: pen.polygon(_fine(corners, fine), fill=255)), colour)

    def _on_mole(self, along: float) -> tuple[float, float, float]:
        """Return a place on the walkway, 0 at the tip and 1 at the root: x, y, and pixels a metre there."""
        x = self.tip[0] + (self.root[0] - self.tip[0]) * along
        y = self.tip[1] + (self.root[1] - self.tip[1]) * along**1.25
        return x, y, (9 + 15 * along) * self.scale

    def mole(self, picture: Picture, waves: float) -> None:
        """Draw the stone causeway with its iron light, its shadow in the water and the foam along it."""
        steps = [self._on_mole(step / 24) for step in range(25)]
        deck = [(x, y) for x, y, _ in steps]
        kerb = [(x, y + 0.55 * metre) for x, y, metre in steps]
        foot = [(x - 0.3 * metre, y + 2.5 * metre) for x, y, metre in steps]
        water = [(x - 0.4 * metre, y + 7.5 * metre) for x, y, metre in steps]
        shadow = self._cover(lambda pen, fine: pen.polygon(_fine(foot + water[::-1], fine), fill=170))
        self._lay(picture, _soft(shadow, round(4 * self.scale)), _STONE_SIDE * 1.2)
        self._fill(picture, kerb + foot[::-1], _STONE_SIDE)
        self._fill(picture, deck + kerb[::-1], _STONE_TOP)
        self._lay(picture, self._cover(lambda pen, fine: self._joints(pen, fine, steps)), _IRON)
        self._lay(picture, self._cover(lambda pen, fine: self._stones(pen, fine, foot)), _STONE_SIDE * 0.8)
        self._foam(picture, foot, waves)
        self._tower(picture)

    def _joints(self, pen: ImageDraw.ImageDraw, fine: float, steps: list[tuple[float, float, float]]) -> None:
        for row in range(1, 4):
            course = [(x - 0.1 * row, y + (0.55 + 0.5 * row) * metre) for x, y, metre in steps]
            pen.line(_fine(course, fine), fill=110, width=max(1, round(fine * self.scale)))
        for x, y, metre in (self._on_mole(place) for place in np.linspace(0.02, 0.98, 30) ** 1.4):
            pen.line(
                _fine([(x, y + 0.55 * metre), (x - 0.2 * metre, y + 2.3 * metre)], fine),
                fill=80,
                width=max(1, round(fine * self.scale)),
            )

    def _stones(self, pen: ImageDraw.ImageDraw, fine: float, foot: list[tuple[float, float]]) -> None:
        rng = np.random.default_rng(11)
        for x, y in foot:
            for _ in range(3):
                size = rng.uniform(3, 9) * self.scale
                left, top = x + rng.normal(0, 12) * self.scale, y + rng.uniform(-3, 3) * self.scale
                corners = [
                    (left + math.cos(turn) * size * rng.uniform(0.7, 1.2), top + math.sin(turn) * size * 0.55)
                    for turn in np.linspace(0, 2 * math.pi, 7)[:-1]
                ]
                pen.polygon(_fine(corners, fine), fill=255)

    def _foam(self, picture: Picture, foot: list[tuple[float, float]], waves: float) -> None:
        """White water along the stones: torn when frozen, an even mist when drawn out; as much light either way."""
        line = [(x, y + 3 * self.scale) for x, y in foot]
        cover = self._cover(lambda pen, fine: pen.line(_fine(line, fine), fill=255, width=round(9 * fine * self.scale)))
        mist = _soft(cover, round(7 * self.scale)) * 0.34
        torn = np.clip(np.random.default_rng(5).normal(1, 1.3, mist.shape), 0, 3).astype(np.float32)
        frozen = 1 / (1 + waves / 0.4)
        self._lay(picture, np.clip(mist * (1 + (torn - 1) * frozen), 0, 1), _MIST)

    def _tower(self, picture: Picture) -> None:
        x, y, metre = self._on_mole(0.035)
        high = 11 * metre

        def paint(pen: ImageDraw.ImageDraw, fine: float) -> None:
            def at(right: float, up: float) -> tuple[float, float]:
                return x + right * metre, y + 0.3 * metre - up * metre

            thin, thick = max(1, round(1.3 * fine * self.scale)), max(1, round(2.4 * fine * self.scale))
            for side in (-1, 1):
                pen.line(_fine([at(side * 1.6, 0), at(side * 0.62, 7.6)], fine), fill=255, width=thick)
            for low in np.linspace(0, 6.4, 5):
                half, upper = 1.6 - 0.98 * low / 7.6, 1.6 - 0.98 * (low + 1.5) / 7.6
                pen.line(_fine([at(-half, low), at(upper, low + 1.5)], fine), fill=255, width=thin)
                pen.line(_fine([at(half, low), at(-upper, low + 1.5)], fine), fill=255, width=thin)
            pen.rectangle(_fine([at(-1.15, 8.0), at(1.15, 7.5)], fine), fill=255)
            pen.rectangle(_fine([at(-0.6, 9.6), at(0.6, 8.0)], fine), outline=255, width=thin)
            pen.polygon(_fine([at(-0.85, 9.6), at(0.85, 9.6), at(0, 10.9)], fine), fill=255)
            pen.rectangle(_fine([at(-2.2, 0.3), at(2.2, -0.3)], fine), fill=255)

        self._lay(picture, self._cover(paint), _IRON)
        self._glow(picture, x, y - high * 0.79, 1.0, 2.6 * metre)

    def _glow(self, picture: Picture, x: float, y: float, strength: float, reach: float) -> None:
        """Draw a lamp: a bright point and the light around it."""
        radius = math.ceil(reach * 1.6)
        left, top = max(0, round(x) - radius), max(0, round(y) - radius)
        right, bottom = min(self.width, round(x) + radius), min(self.height, round(y) + radius)
        if left >= right or top >= bottom:
            return
        rows, columns = np.mgrid[top:bottom, left:right]
        away = np.hypot(columns - x, rows - y) / reach
        shine = strength * (np.exp(-((away * 5) ** 2)) + 0.10 * np.exp(-((away * 1.6) ** 2)))
        picture[top:bottom, left:right] += (shine[:, :, None] * _LAMP).astype(np.float32)

    def people(self, picture: Picture, seconds: float, speed: float, standing: float, stay: float) -> None:
        """Walkers drawn out along the mole, and whoever stands, for the share of the time they stay."""
        rng = np.random.default_rng(23)
        for walker in range(WALKERS):
            begun, way = rng.uniform(0.12, 0.95), 1 if walker % 2 else -1
            self._walker(picture, begun, way, seconds, speed)
        here = round(standing)
        arriving = rng.poisson(min(200.0, standing * seconds / stay))
        for person in range(min(60, here + arriving)):
            # Those there at the opening have been there a while; the others come during the exposure.
            left = rng.exponential(stay)
            start = 0.0 if person < here else rng.uniform(0, seconds)
            share = min(left, seconds - start) / seconds
            x, y, metre = self._on_mole(rng.uniform(0.1, 0.97))
            self._stamp(picture, x, y, metre, share)

    def _walker(self, picture: Picture, begun: float, way: int, seconds: float, speed: float) -> None:
        x, _, metre = self._on_mole(begun)
        length = speed * seconds * metre
        span = abs((self.root[0] if way > 0 else self.tip[0]) - x)
        copies = int(np.clip(min(length, span) / (1.2 * self.scale), 1, 160))
        in_frame = min(1.0, span / length) if length > 0 else 1.0
        for copy in range(copies):
            moved = x + way * min(length, span) * (copy + 0.5) / copies
            along = (moved - self.tip[0]) / (self.root[0] - self.tip[0])
            if 0 <= along <= 1:
                here, y, metre = self._on_mole(along)
                self._stamp(picture, here, y, metre, in_frame / copies)

    def _stamp(self, picture: Picture, x: float, y: float, metre: float, alpha: float) -> None:
        """One figure, feet at (x, y), as dark as the share of the time it stood there."""
        if alpha < 0.002:
            return
        figure = _figure(max(4, round(1.75 * metre)))
        high, wide = figure.shape
        top, left = round(y + 0.35 * metre) - high, round(x - wide / 2)
        if top < 0 or left < 0 or left + wide > self.width or top + high > self.height:
            return
        part = picture[top : top + high, left : left + wide]
        part += (_IRON - part) * (figure * alpha)[:, :, None]

    def lamps(self, picture: Picture, seconds: float, speed: float | None) -> None:
        """Lamps on the mole that stand, and one that is carried along it."""
        for along in (0.22, 0.42, 0.62, 0.82):
            x, y, metre = self._on_mole(along)
            post = self._cover_line(x, y, y - 3.2 * metre)
            self._lay(picture, post, _IRON)
            self._glow(picture, x, y - 3.2 * metre, 0.9, 0.9 * metre)
        if speed is None:
            return
        x, y, metre = self._on_mole(0.9)
        length = max(1.0, speed * seconds * metre)
        span = x - self.tip[0]
        dots = int(np.clip(min(length, span) / (2 * self.scale), 1, 400))
        # A lamp that moves leaves as much light in all, spread over its way.
        each = max(0.004, min(1.0, span / length) / dots * 3)
        for dot in range(dots):
            here = x - min(length, span) * (dot + 0.5) / dots
            moved, low, size = self._on_mole((here - self.tip[0]) / (self.root[0] - self.tip[0]))
            self._glow(picture, moved, low - 0.9 * size, min(0.8, each), 0.45 * size)

    def _cover_line(self, x: float, low: float, high: float) -> Mask:
        width = max(1, round(1.4 * self.scale * _FINE))
        return self._cover(lambda pen, fine: pen.line(_fine([(x, low), (x, high)], fine), fill=255, width=width))

    def bank(self, picture: Picture, sway: float, seconds: float) -> None:
        """Draw the near bank with grass that moves by ``sway`` frame widths at its tips."""
        shore = [
            (-0.01 * self.width, 0.83 * self.height),
            (0.12 * self.width, 0.825 * self.height),
            (0.25 * self.width, 0.87 * self.height),
            (0.40 * self.width, 0.93 * self.height),
            (0.52 * self.width, 1.01 * self.height),
            (-0.01 * self.width, 1.01 * self.height),
        ]
        self._fill(picture, shore, _BANK)
        phases = 1 if sway * self.width < 0.5 else 9
        swing = sway * self.width / 2
        total = np.zeros((self.height, self.width), dtype=np.float32)
        for phase in range(phases):
            lean = 0.0 if phases == 1 else swing * math.sin(math.pi * (phase / (phases - 1) - 0.5))
            total += self._cover(lambda pen, fine, lean=lean: self._blades(pen, fine, lean)) / phases  # type: ignore[misc]
        self._lay(picture, total, _BLADES)

    def _blades(self, pen: ImageDraw.ImageDraw, fine: float, lean: float) -> None:
        rng = np.random.default_rng(31)
        for _ in range(420):
            x = rng.uniform(-0.02, 0.50) * self.width
            ground = (0.835 + 0.16 * max(0.0, 2 * x / self.width) ** 1.4 + rng.uniform(0, 0.12)) * self.height
            high = rng.uniform(14, 46) * self.scale
            bend = rng.normal(6, 7) * self.scale + lean * rng.uniform(0.6, 1.2) * high / (40 * self.scale)
            blade = [(x, ground), (x + bend * 0.3, ground - high * 0.55), (x + bend, ground - high)]
            pen.line(_fine(blade, fine), fill=230, width=max(1, round(1.3 * fine * self.scale)))


def _fine(points: list[tuple[float, float]], fine: float) -> list[tuple[float, float]]:
    return [(x * fine, y * fine) for x, y in points]


def _soft(cover: Mask, pixels: int) -> Mask:
    """Smeared a little in both directions."""
    if pixels < 1:
        return cover
    for axis in (0, 1):
        room = [(pixels, pixels) if each == axis else (0, 0) for each in (0, 1)]
        sums = np.cumsum(np.pad(cover, room, mode="edge"), axis=axis)
        ahead, behind = [slice(None)] * 2, [slice(None)] * 2
        ahead[axis], behind[axis] = slice(2 * pixels, None), slice(None, -2 * pixels)
        cover = np.asarray((sums[tuple(ahead)] - sums[tuple(behind)]) / (2 * pixels), dtype=np.float32)
    return cover


_DRAWN: dict[int, Mask] = {}


def _figure(high: int) -> Mask:
    """Return the coverage of a standing figure ``high`` pixels tall."""
    if high not in _DRAWN:
        fine = 6
        wide = max(3, round(high * 0.42))
        canvas = Image.new("L", (wide * fine, high * fine), 0)
        pen = ImageDraw.Draw(canvas)
        w, h = wide * fine, high * fine
        pen.ellipse([w * 0.34, 0, w * 0.66, h * 0.17], fill=255)
        pen.polygon([(w * 0.22, h * 0.18), (w * 0.78, h * 0.18), (w * 0.72, h * 0.58), (w * 0.28, h * 0.58)], fill=255)
        pen.polygon([(w * 0.28, h * 0.55), (w * 0.50, h * 0.55), (w * 0.44, h), (w * 0.24, h)], fill=255)
        pen.polygon([(w * 0.50, h * 0.55), (w * 0.72, h * 0.55), (w * 0.80, h), (w * 0.60, h)], fill=255)
        _DRAWN[high] = np.asarray(np.asarray(canvas.reduce(fine)) / 255, dtype=np.float32)
    return _DRAWN[high]
