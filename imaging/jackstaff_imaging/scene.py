"""The Vardsund mole at first light, drawn for any exposure time. A drawing from the core's numbers, not a promise.

Everything is painted in linear light, and movement only ever averages, so the level stays the same at every time.
Seeded: the same seed, size and time give the same picture. Limits: 200 to 2400 pixels wide, one subject of a kind.
"""

from __future__ import annotations

import io
from dataclasses import dataclass, replace

import numpy as np
from PIL import Image

from jackstaff_core.motion.cloud import travel
from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.motion.subjects import sky_of, subject_motion
from jackstaff_core.words.refusal import within

from .figures import Figures
from .light import Picture, encoded
from .noise import Field, drawn_out, rough

HORIZON = 0.47
"""Height of the horizon as a share of the picture."""
MOST_PIXELS_WIDE = 2400
_BUILT_FOR = 960
"""Sizes below are for a picture this wide and grow with it."""


@dataclass(frozen=True, slots=True)
class Exposed:
    """What a time does to the scene: the core's numbers, with stillness where a subject is not there.

    ``streak`` is the cloud's way right and up in frame widths; ``waves`` the waves averaged; ``sway`` the blur of
    grass in frame widths; walkers' speed [m/s] and number standing.
    """

    seconds: float
    streak: tuple[float, float] = (0.0, 0.0)
    waves: float = 0.0
    sway: float = 0.0
    walkers_m_s: float | None = None
    standing: float = 0.0
    stay_s: float = 60.0
    lamp_m_s: float | None = None


def exposed(question: LooksQuestion, seconds: float) -> Exposed:
    """Return the numbers of a time, by the same models as the windows.

    Vehicles and whoever holds still are told in words alone: the drawn mole has none.

    Raises
    ------
    Refusal
        A subject that cannot be, or a time outside 1/32000 s to 24 h.
    """
    found = Exposed(within("seconds", seconds, 2**-15, 86_400, "s"))
    for place, subject in enumerate(question.subjects):
        first = subject_motion(f"subjects.{place}", subject, question.camera)
        facts = subject.facts
        match subject.kind:
            case "sea" | "river":
                found = replace(found, waves=first.measure(seconds))
            case "leaves":
                found = replace(found, sway=first.measure(seconds))
            case "people" | "crowd":
                found = replace(
                    found,
                    walkers_m_s=float(facts.get("speed_m_s", 1.4)) * float(facts.get("across", 1.0)),
                    standing=float(facts.get("standing", 0.0)),
                    stay_s=float(facts.get("stay_s", 60.0)),
                )
            case "lamps":
                found = replace(found, lamp_m_s=float(facts.get("speed_m_s", 14.0)))
            case "cloud":
                found = replace(found, streak=_way(*travel(sky_of(subject, question.camera), seconds)))
    return found


def _way(right: float, up: float) -> tuple[float, float]:
    """Past a few frame widths nothing is left to draw out."""
    return float(np.clip(right, -4, 4)), float(np.clip(up, -4, 4))


def draw(what: Exposed, width: int = 960, height: int = 640, seed: int = 7) -> Picture:
    """Paint the scene in linear light, height x width x 3."""
    within("width", width, 200, MOST_PIXELS_WIDE, "pixels")
    within("height", height, 100, MOST_PIXELS_WIDE, "pixels")
    scale = width / _BUILT_FOR
    horizon = round(height * HORIZON)
    sky = _sky(what, width, horizon, seed)
    picture = np.empty((height, width, 3), dtype=np.float32)
    picture[:horizon] = sky
    picture[horizon:] = _sea(what, sky, width, height - horizon, seed)
    figures = Figures(width, height, horizon, scale, seed)
    figures.mole(picture, what.waves)
    if what.walkers_m_s is not None:
        figures.people(picture, what.seconds, what.walkers_m_s, what.standing, what.stay_s)
    figures.lamps(picture, what.seconds, what.lamp_m_s)
    figures.bank(picture, what.sway, what.seconds)
    return picture


def jpeg(picture: Picture, quality: int = 88) -> bytes:
    """Return an 8-bit JPEG of a picture."""
    out = io.BytesIO()
    Image.fromarray(encoded(picture)).save(out, "JPEG", quality=quality)
    return out.getvalue()


_ZENITH = np.array([0.10, 0.17, 0.30], dtype=np.float32)
_MIDDLE = np.array([0.32, 0.36, 0.44], dtype=np.float32)
_GLOW = np.array([0.88, 0.56, 0.33], dtype=np.float32)
_CLOUD_LIT = np.array([0.74, 0.52, 0.44], dtype=np.float32)
_CLOUD_DARK = np.array([0.16, 0.18, 0.23], dtype=np.float32)


def _sky(what: Exposed, width: int, horizon: int, seed: int) -> Picture:
    down = np.linspace(0, 1, horizon, dtype=np.float32)[:, None, None]
    across = np.linspace(0, 1, width, dtype=np.float32)[None, :, None]
    clear = _ZENITH * (1 - down) ** 1.3 + _MIDDLE * (1 - (1 - down) ** 1.3)
    sun = np.exp(-(((across - 0.27) / 0.34) ** 2) - ((1 - down) / 0.34) ** 2)
    clear = clear + (_GLOW - clear) * np.clip(sun * 1.05, 0, 1)
    cover = _cover(what, width, horizon, seed)[:, :, None]
    # Undersides near the glow are lit, the rest stands dark against it.
    lit = np.clip(sun * 1.3 + 0.25 * down, 0, 1)
    cloud = _CLOUD_DARK + (_CLOUD_LIT - _CLOUD_DARK) * lit
    return np.asarray(clear + (cloud - clear) * cover * 0.94, dtype=np.float32)


def _cover(what: Exposed, width: int, horizon: int, seed: int) -> Field:
    """Return how much cloud stands before the clear sky, 0 to 1, drawn out by its way over the frame."""
    wide = 2 ** (width * 2 - 1).bit_length()
    texture = rough(seed, 512, 1024, 2.7, 0.5)
    # Towards the horizon the same cloud is further away: smaller, flatter, closer together.
    far = 1 / (1.12 - np.linspace(0, 1, horizon))
    rows = (far * 120).astype(int) % 512
    columns = ((np.arange(wide)[None, :] * (0.55 + 0.30 * far[:, None])) * _BUILT_FOR / width).astype(int) % 1024
    shaped = texture[rows[:, None], columns]
    cover = np.clip((shaped + 0.05) / 1.15, 0, 1).astype(np.float32)
    cover = cover * cover * (3 - 2 * cover)
    right, up = what.streak
    return drawn_out(cover, -right * width, up * width)[:, :width]


def _sea(what: Exposed, sky: Picture, width: int, depth: int, seed: int) -> Picture:
    """Water: waves that average away, and the sky that then shows in it."""
    rows = np.linspace(0, 1, depth, dtype=np.float32)[:, None]
    mirror = sky[::-1]
    mirror = mirror[np.clip((rows[:, 0] * (len(mirror) - 1) * 0.92).astype(int), 0, len(mirror) - 1)]
    mirror = _vertically_smooth(mirror, 9) * (0.80 - 0.28 * rows[:, :, None])
    # Broken water sends back the mean of the sky above it, so its level is that of the mirror.
    broken = np.broadcast_to(mirror.mean(axis=1, keepdims=True), mirror.shape)
    texture = rough(seed + 1, 1024, 1024, 2.1, 0.8)
    distance = 1 / (rows + 0.045)
    columns = ((np.arange(width)[None, :] - width / 2) * distance * 0.13 * _BUILT_FOR / width).astype(int) % 1024
    lines = (distance * 190).astype(int) % 1024
    waves = texture[np.broadcast_to(lines, columns.shape), columns]
    steep = np.sign(waves) * np.abs(waves) ** 1.5
    # Crests go first, the swell under them last; far waves are already averaged inside a pixel.
    crests, swell = 1 / (1 + what.waves / 0.25), 1 / np.sqrt(1 + what.waves)
    near = np.clip(rows * 3.2, 0.06, 1)
    relief = (0.36 * steep * crests + 0.34 * _smooth_across(waves, 5) * swell) * near
    calm = float(np.clip(1 - 1.15 * swell, 0, 1))
    water = broken + (mirror - broken) * calm
    lively = np.clip(1 + relief, 0.12, 2.6)
    lively /= lively.mean()
    return np.asarray(water * lively[:, :, None], dtype=np.float32)


def _smooth_across(field: Field, pixels: int) -> Field:
    return drawn_out(field, pixels, 0)


def _vertically_smooth(picture: Picture, pixels: int) -> Picture:
    padded = np.pad(picture, ((pixels, pixels), (0, 0), (0, 0)), mode="edge")
    sums = np.cumsum(padded, axis=0, dtype=np.float32)
    return np.asarray((sums[2 * pixels :] - sums[: -2 * pixels]) / (2 * pixels), dtype=np.float32)
