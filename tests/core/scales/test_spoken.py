"""Test core/scales/spoken.py."""

from __future__ import annotations

import pytest

from jackstaff_core.scales.spoken import rounded, stops_in_words, thirds, time_in_words


@pytest.mark.parametrize(
    ("count", "short", "whole"),
    [(0, "0", "0 stop"), (1, "1/3", "1/3 stop"), (2, "2/3", "2/3 stop"), (3, "1", "1 stop"),
     (4, "1 1/3", "1 1/3 stops"), (6, "2", "2 stops"), (8, "2 2/3", "2 2/3 stops")],
)  # fmt: skip
def test_thirds_are_said_as_people_write_them(count: int, short: str, whole: str) -> None:
    assert (thirds(count), stops_in_words(count)) == (short, whole)


@pytest.mark.parametrize(
    ("seconds", "words"),
    [(1 / 4000, "1/4000 s"), (1 / 60, "1/60 s"), (1 / 6.3, "1/6 s"), (1 / 203, "1/200 s"), (0.6, "0.6 s"), (2, "2 s"),
     (59.4, "59 s"), (59.6, "1 min"), (128, "2 min 08 s"), (3600, "1 h"), (3899, "1 h 05 min")],
)  # fmt: skip
def test_times_are_said_in_the_digits_they_have(seconds: float, words: str) -> None:
    assert time_in_words(seconds) == words


def test_two_minutes_eight_is_called_two_minutes() -> None:
    assert [time.seconds for time in rounded(128)] == [120, 130]
    assert [time.stops for time in rounded(128)] == pytest.approx([-0.0931094, 0.0223678])
    assert rounded(120) == ()
    wanted = {
        1 / 64: "1/60 s",
        0.63: "0.6 s",
        4: "4 s",
        59.4: "59 s",
        128: "2 min 08 s",
        180: "3 min",
        3900: "1 h 05 min",
    }
    assert {time: time_in_words(time) for time in wanted} == wanted


@pytest.mark.parametrize(
    ("seconds", "fineness", "offered"),
    [
        (102, None, [100, 110]),
        (102, 5, [100, 105]),
        (102, 60, [60, 120]),
        (203.2, None, [200, 210]),
        (203.2, 30, [180, 210]),
        (323, 60, [300, 360]),
        (700, None, [690, 720]),
        (1427, None, [1380, 1440]),
        (120, None, []),
    ],
)
def test_times_are_rounded_as_finely_as_one_counts(seconds: float, fineness: float | None, offered: list[int]) -> None:
    assert [time.seconds for time in rounded(seconds, fineness)] == offered
