"""Large pictures: refused for what they are, and measured within a bound on memory."""

from __future__ import annotations

import io
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from jackstaff_core.words.refusal import Refusal
from jackstaff_imaging.photo import opened, pixels, strips

MOST_MB = 400
MEASURE = """
import sys
from jackstaff_imaging import capped, pair, photo
def read(at):
    return photo.opened("file", open(sys.argv[at], "rb"))[0]
match sys.argv[1]:
    case "leak":
        capped.leak(photo.pixels("file", read(2)), photo.pixels("file", read(2)))
    case "pair":
        frames = [photo.pixels("file", image) for image in [read(2), read(2), read(2)]]
        pair.measure(frames[0], frames[1], 0.0, after=frames[2])
    case "specks":
        capped.specks(photo.strips("file", read(2)), 60.0)
for line in open("/proc/self/status"):
    if line.startswith("VmHWM"):
        print(int(line.split()[1]) / 1000)
"""


def jpeg(mode: str, size: tuple[int, int], progressive: bool = False) -> bytes:
    out = io.BytesIO()
    Image.new(mode, size, 8).save(out, "JPEG", quality=80, progressive=progressive)
    return out.getvalue()


@pytest.mark.parametrize(
    ("work", "mode", "size"),
    [
        ("leak", "L", (9450, 9450)),
        ("leak", "RGB", (12_000, 9_990)),
        ("pair", "RGB", (6900, 6900)),
        ("specks", "RGB", (8_000, 7_990)),
    ],
)
def test_the_largest_pictures_are_measured_within_the_memory_said(
    tmp_path: Path, work: str, mode: str, size: tuple[int, int]
) -> None:
    (tmp_path / "a.jpg").write_bytes(jpeg(mode, size))
    asked = [sys.executable, "-c", MEASURE, work, str(tmp_path / "a.jpg")]
    env = {"PYTHONPATH": ":".join(sys.path), "OPENBLAS_NUM_THREADS": "1"}
    run = subprocess.run(asked, capture_output=True, text=True, env=env, check=True)
    assert float(run.stdout) < MOST_MB


@pytest.mark.parametrize(
    ("made", "said"),
    [
        (lambda: jpeg("L", (12_000, 10_100)), "12000 x 10100"),
        (lambda: jpeg("L", (63, 200)), "63 x 200"),
        (lambda: jpeg("L", (7000, 6000), progressive=True), "progressive"),
        (lambda: b"GIF89a", "no JPEG"),
    ],
)
def test_what_cannot_be_worked_with_is_refused_for_what_it_is(made: Callable[[], bytes], said: str) -> None:
    with pytest.raises(Refusal, match=said):
        opened("file", io.BytesIO(made()))


def test_pixels_are_counted_whole_or_not_at_all() -> None:
    with pytest.raises(Refusal, match="one by one"):
        strips("file", opened("file", io.BytesIO(jpeg("L", (10_000, 8_100))))[0])
    codes = np.arange(600 * 64 * 3, dtype=np.uint8).reshape(600, 64, 3)
    out = io.BytesIO()
    Image.fromarray(codes).save(out, "JPEG", quality=95, subsampling=0)
    image = opened("file", out)[0]
    pieces = list(strips("file", image))
    assert [len(each) for each in pieces] == [128, 128, 128, 128, 88]
    assert np.array_equal(np.concatenate(pieces), pixels("file", image))
