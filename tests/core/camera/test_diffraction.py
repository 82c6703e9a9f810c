"""Test core/camera/diffraction.py."""

from __future__ import annotations

from jackstaff_core.camera.diffraction import HARD_PIXELS, SOFT_PIXELS, f_number_for, fwhm_pixels
from tests.core.tables import facts, near


@facts("diffraction")
def test_diffraction(row: dict[str, str]) -> None:
    f_number, pitch = float(row["f_number"]), float(row["pitch"])
    assert fwhm_pixels(f_number, pitch) == near(row["fwhm"], 5)


def test_soft_and_hard_limits_of_a_pitch() -> None:
    assert [f_number_for(pixels, 4.35) for pixels in (SOFT_PIXELS, HARD_PIXELS)] == [
        near("11.5293", 5),
        near("15.3724", 5),
    ]
