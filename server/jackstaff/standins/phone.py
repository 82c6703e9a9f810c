"""A simulated phone that looks at a made-up sky, and the protocol that another one could implement.

What it hands over is a picture as its camera would, with the exposure held; the page measures it as it measures a real
one. It holds no state: the same sky, seed and second give the same picture.
"""

from __future__ import annotations

import io
from functools import lru_cache
from typing import Protocol

from PIL import Image

from jackstaff_core.sky.made_up import AFTER_SECONDS, BEFORE_SECONDS, SkyKind, made_up_sky
from jackstaff_core.words.refusal import within
from jackstaff_imaging.watched_scene import Disturbed, WatchedScene

SIZE = (160, 120)
EXPOSURE_SECONDS, ISO = 1 / 100, 100.0


class Phone(Protocol):
    """What a watching phone does."""

    def see(self, second: float) -> bytes:
        """Return a picture of the scene."""
        ...


class SimulatedPhone:
    """The stand-in that ships; ``second`` counts from the sky's own instant 0."""

    def __init__(self, kind: SkyKind, seed: int) -> None:
        self.kind, self.seed = kind, seed

    def see(self, second: float) -> bytes:
        """Return a PNG, whose codes are those of the camera.

        Raises
        ------
        Refusal
            A second outside the made-up sky.
        """
        within("second", second, -BEFORE_SECONDS, AFTER_SECONDS, "s")
        out = io.BytesIO()
        Image.fromarray(_scene(self.kind, self.seed).frame(second)).save(out, "PNG", compress_level=1)
        return out.getvalue()


@lru_cache(maxsize=4)
def _scene(kind: SkyKind, seed: int) -> WatchedScene:
    return WatchedScene(made_up_sky(kind, seed).at, seed, Disturbed(), SIZE)
