"""An exposure sum in one call, for the tests of the sum and of what stands on it."""

from __future__ import annotations

from dataclasses import replace

from jackstaff_core.camera.reading import ReadingGiven
from jackstaff_core.exposure.calculation import Exposure, ExposureQuestion, expose
from jackstaff_core.filters.on_lens import GlassGiven

READING = ReadingGiven("1/40", "9", "64")


def ask(*stops: float, reading: ReadingGiven = READING, **more: object) -> Exposure:
    """The exposure through solid glass of these labelled stops."""
    glass = tuple(GlassGiven(stops=each) for each in stops)
    return expose(replace(ExposureQuestion(reading, glass), **more))  # type: ignore[arg-type]
