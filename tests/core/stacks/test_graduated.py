"""Test core/stacks/graduated.py."""

from __future__ import annotations

import pytest

from jackstaff_core.stacks.graduated import (
    GraduatedQuestion,
    Horizon,
    Owned,
    average_falls,
    choose_graduated,
    wanted_stops,
)
from jackstaff_core.words.refusal import Refusal
from tests.core.tables import facts, near


@facts("graduated")
def test_graduated(row: dict[str, str]) -> None:
    share, sky, glass = (float(row[name]) for name in ("share", "sky", "glass"))
    assert average_falls(share, sky, glass) == near(row["falls"])
    assert wanted_stops(sky) == max(0, sky - 1)


def soft(*stops: float) -> tuple[Owned, ...]:
    return tuple(Owned(f"{each:g}", each, "soft") for each in stops)


@pytest.mark.parametrize(
    ("sky", "owned", "lead", "pick"),
    [
        # 1/125 against 1/30 is two stops: one is wanted; two would make both alike, which is no farther than none.
        ("1/125", (2.0,), 1.0, None),
        ("1/125", (1.0, 2.0), 1.0, "1"),
        ("1/125", (3.0,), 1.0, None),
        # Three stops: two wanted.
        ("1/250", (1.0, 3.0), 1.0, "1"),
        ("1/250", (2.0, 3.0), 1.0, "2"),
        ("1/250", (4.0,), 1.0, None),
        # A dark sky that is wanted is given.
        ("1/250", (2.0, 4.0), -1.0, "4"),
        # Less than half of the weakest wanted: none is nearer.
        ("1/80", (2.0,), 1.0, None),
        ("1/250", (), 1.0, None),
    ],
)
def test_a_graduated_filter_never_turns_the_sky_darker_than_is_wanted(
    sky: str, owned: tuple[float, ...], lead: float, pick: str | None
) -> None:
    found = choose_graduated(GraduatedQuestion(sky, "1/30", owned=soft(*owned), lead_stops=lead))
    assert found.pick == pick
    assert found.suits == bool(owned)
    assert found.sky_lead >= min(0.0, lead) - 0.05
    assert found.foreground_gains >= 0
    if pick is None and owned:
        assert (found.pick_stops, found.sky_lead) == (0, found.sky_stops)


@pytest.mark.parametrize(
    ("sky", "ground", "horizon", "pick", "lead"),
    [
        ("1/500", "1/60", Horizon.FLAT, "hard2", 1),
        ("1/500", "1/60", Horizon.UNEVEN, "soft2", 1),
        ("1/60", "1/60", Horizon.FLAT, None, None),
        ("1/1000", "1/60", Horizon.SUN_ON_IT, "reverse3", 1),
    ],
)
def test_which_graduated_glass(sky: str, ground: str, horizon: Horizon, pick: str | None, lead: float | None) -> None:
    owned = (Owned("soft2", 2, "soft"), Owned("hard2", 2, "hard"), Owned("reverse3", 3, "reverse"))
    found = choose_graduated(GraduatedQuestion(sky, ground, 0.5, horizon, owned))
    assert found.pick == pick
    if lead is not None:
        assert found.sky_lead == pytest.approx(lead)
        assert found.foreground_gains == pytest.approx(found.average_falls)
    with pytest.raises(Refusal):
        choose_graduated(GraduatedQuestion("1/30", "1/60"))
