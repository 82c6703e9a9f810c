"""How long the drawn scene takes, and how that grows with its pixels."""

from __future__ import annotations

import statistics
import time

from bench.table import row
from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.motion.subjects import Camera, Subject
from jackstaff_imaging.scene import draw, exposed, jpeg

SCENE = LooksQuestion(
    Camera(24.0, elevation_deg=15.0),
    (
        Subject("sea", {"height_m": 0.6}),
        Subject("cloud", {"class": "low", "wind_m_s": 8}),
        Subject("people", {"standing": 2}),
        Subject("leaves", {"class": "breeze"}),
        Subject("lamps", {}),
    ),
)
WIDTH, WIDTHS = 960, (240, 480, 960, 1600)
STRIP = (1 / 250, 1 / 4, 4.0, 30.0, 240.0)


def drawn(seconds: float, width: int) -> float:
    begun = time.perf_counter()
    jpeg(draw(exposed(SCENE, seconds), width, width * 2 // 3))
    return time.perf_counter() - begun


def main() -> None:
    single = statistics.median(drawn(30.0, WIDTH) for _ in range(5))
    strip = sum(drawn(seconds, WIDTH) for seconds in STRIP)
    row(f"drawing {WIDTH}x{WIDTH * 2 // 3} / five times", f"{single:.2f} s / {strip:.2f} s", "1 s / 3 s")
    grown = [statistics.median(drawn(30.0, width) for _ in range(3)) for width in WIDTHS]
    row(
        f"drawing with {', '.join(f'{(width / WIDTH) ** 2:.2g}' for width in WIDTHS)} times the pixels (1 = 1)",
        ", ".join(f"{taken / single:.2f}" for taken in grown),
    )
