"""Pictures as a camera would send them: a grey ramp, so many stops from right, with EXIF."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from jackstaff_imaging.frame import Taken, photograph

AT = datetime(2027, 4, 17, 4, 30, tzinfo=UTC)


def jpeg(stops: float = 0.0, seconds: float = 20.0, size: tuple[int, int] = (240, 160)) -> bytes:
    """The file's content."""
    level = np.broadcast_to(np.linspace(0.08, 0.35, size[0]), (size[1], size[0]))
    scene = np.repeat(level[..., None], 3, axis=2).astype(np.float32)
    return photograph(scene, stops, Taken(AT, seconds, 8.0, 100, "Full-frame body A"))


def file(content: bytes) -> SimpleUploadedFile:
    """The content as a form carries it."""
    return SimpleUploadedFile("frame.jpg", content)
