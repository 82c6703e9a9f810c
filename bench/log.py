"""The log: a page of a long one against a short one, a pair of frames against decoding them, learning from many."""

from __future__ import annotations

import io
import os
import random
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Browser
from tools.serving import serving

from bench.table import ratio, row
from jackstaff_core.log.calibration import CalibrationQuestion, Judged, calibrate, learn
from jackstaff_imaging.light import Bytes, encoded
from jackstaff_imaging.pair import measure
from jackstaff_imaging.photo import opened, pixels

ROOT = Path(__file__).parents[1]
ROUNDS = 5
LOGS = {"short": 100, "long": 10_000}
"""Frames of the two logs whose pages are put beside each other."""
ASKED = 60


def main() -> None:
    _pair()
    _calibration()


def picture(stops: float, width: int = 6000, height: int = 4000) -> bytes:
    """Return a scene with grain, 24 megapixels of it, as a camera's JPEG would weigh."""
    dice = np.random.default_rng(3)
    y, x = np.mgrid[0 : 1 : height * 1j, 0 : 1 : width * 1j].astype(np.float32)
    scene = (0.1 + 0.3 * y * (0.6 + 0.4 * np.sin(40 * x)))[..., None] * np.float32(2.0**stops)
    grain = dice.normal(1, 0.04, (height, width, 1)).astype(np.float32)
    out = io.BytesIO()
    Image.fromarray(encoded(np.repeat(scene * grain, 3, axis=2))).save(out, "JPEG", quality=92)
    return out.getvalue()


def _decode(files: list[bytes]) -> list[Bytes]:
    return [pixels("file", opened("file", io.BytesIO(each))[0]) for each in files]


def _pair() -> None:
    files = [picture(0.0), picture(-0.2)]
    _decode(files)
    times: dict[str, list[float]] = {"decode": [], "pair": []}
    for _ in range(ROUNDS):
        begun = time.perf_counter()
        unfiltered, filtered = _decode(files)
        decoded = time.perf_counter()
        measure(unfiltered, filtered, 10.0)
        times["decode"].append(decoded - begun)
        times["pair"].append(time.perf_counter() - begun)
    bare, whole = (statistics.median(times[name]) for name in ("decode", "pair"))
    ratio("frame pair, two JPEGs of 24 megapixels, to decoding the same two", whole, bare, "s", "2 or less")
    held = _peak(files, measured=True), _peak(files, measured=False)
    ratio("the same, memory at most", *held, "MB", "1.3 or less")


def _peak(files: list[bytes], *, measured: bool) -> float:
    """Return the most a process of its own holds [MB]."""
    with tempfile.TemporaryDirectory() as folder:
        for name, content in zip(("bare", "filtered"), files, strict=True):
            (Path(folder) / name).write_bytes(content)
        asked = [sys.executable, "-m", "bench.log", folder, str(int(measured))]
        return float(subprocess.run(asked, cwd=ROOT, check=True, capture_output=True, text=True).stdout)


def _measured_alone(folder: Path, measured: bool) -> None:
    bare, filtered = _decode([(folder / name).read_bytes() for name in ("bare", "filtered")])
    if measured:
        measure(bare, filtered, 10.0)
    # The peak since this program began; what getrusage says still holds the parent's.
    status = Path("/proc/self/status").read_text(encoding="ascii")
    print(int(status.split("VmHWM:")[1].split()[0]) / 1000)


def _calibration() -> None:
    dice = random.Random(1)
    names = [f"glass {number}" for number in range(20)]
    hidden = {name: dice.gauss(0, 0.25) for name in names}
    frames = []
    for number in range(2000):
        stack = tuple(dice.sample(names, dice.randint(1, 3)))
        error = sum(hidden[name] for name in stack) + dice.gauss(0, 0.2)
        frames.append(Judged(stack, error, f"session {number // 20}"))
    timed = []
    for work in (
        lambda: calibrate(CalibrationQuestion(tuple(frames))),
        lambda: calibrate(CalibrationQuestion(tuple(frames), robust=True)),
        lambda: learn(frames),
    ):
        begun = time.perf_counter()
        work()
        timed.append(time.perf_counter() - begun)
    plain, robust, whole = timed
    row(
        "calibration of 2,000 frames, 20 glasses, 100 sessions / outliers apart / with doubts about labels",
        f"{plain:.2f} s / {robust:.2f} s / {whole:.2f} s",
        "under 0.5 s",
    )


def pages(browser: Browser) -> None:
    """Ask both logs in turn, so that drift of the machine hits both alike."""
    with tempfile.TemporaryDirectory() as short, tempfile.TemporaryDirectory() as long:
        with serving(Path(short)) as short_log, serving(Path(long)) as long_log:
            opened_pages = {}
            for name, server, folder in (("short", short_log, short), ("long", long_log, long)):
                environment = {**os.environ, "JACKSTAFF_DATA_DIR": folder}
                subprocess.run(
                    [sys.executable, "-m", "bench.fill", str(LOGS[name])], cwd=ROOT, env=environment, check=True
                )
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(server.url)
                page.wait_for_selector("[data-testid=answer-time]")
                opened_pages[name] = (page, server.url)
            asked: dict[str, list[float]] = {"short": [], "long": []}
            seen: dict[str, list[float]] = {"short": [], "long": []}
            for turn in range(ASKED + 5):
                for name, (page, url) in opened_pages.items():
                    begun = time.perf_counter()
                    page.request.get(f"{url}/api/frames?limit=50")
                    if turn >= 5:
                        asked[name].append(time.perf_counter() - begun)
            for turn in range(12):
                for name, (page, url) in opened_pages.items():
                    begun = time.perf_counter()
                    page.goto(f"{url}/log")
                    page.wait_for_selector(".log-row")
                    if turn >= 2:
                        seen[name].append(time.perf_counter() - begun)
        for page, _ in opened_pages.values():
            page.close()
    for what, times in (("asked of the server", asked), ("until its rows stand in Chromium", seen)):
        long_, short_ = statistics.median(times["long"]), statistics.median(times["short"])
        page_ = f"a page of the log with {LOGS['long']:,} frames to one with {LOGS['short']}, {what}"
        ratio(page_, long_ * 1e3, short_ * 1e3, "ms", "1.5 or less")


if __name__ == "__main__":
    _measured_alone(Path(sys.argv[1]), sys.argv[2] == "1")
