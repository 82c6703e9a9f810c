"""What moves, in words a photographer sees with the eye, and the numbers they stand for.

Every kind of subject is asked for by aspects; an aspect has a few words, each with the facts it sets. The first aspect
is the one that decides most. Numbers are ours, from the middle of what the words mean: they begin a guess, and whoever
has a number of their own gives that instead.

Source: practice; wave heights against a standing person, wind after the Beaufort scale's land signs. Limits: a factor
of two either way. Verdict: class.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class ByEye:
    """A word and the facts it sets."""

    word: str
    facts: Mapping[str, float | str]


@dataclass(frozen=True, slots=True)
class Aspect:
    """One thing one can see of a subject, and what it may be."""

    name: str
    ways: tuple[ByEye, ...]
    instead: tuple[str, ...] = ()
    """Numbers that answer the same question: a word takes their place, and while they stand no word is said."""


@dataclass(frozen=True, slots=True)
class DescribedKind:
    """A kind of subject, and what is asked of it in words."""

    kind: str
    aspects: tuple[Aspect, ...]


def _aspect(name: str, *instead: str, **ways: Mapping[str, float | str]) -> Aspect:
    return Aspect(name, tuple(ByEye(word.replace("_", " "), facts) for word, facts in ways.items()), instead)


_PACES = _aspect(
    "pace", stroll={"speed_m_s": 0.8}, walk={"speed_m_s": 1.4}, run={"speed_m_s": 3.0}, cycle={"speed_m_s": 5.0}
)
_DISTANCES = _aspect("distance", close={"distance_m": 2.0}, near={"distance_m": 6.0}, far={"distance_m": 30.0})

DESCRIBED: tuple[DescribedKind, ...] = (
    DescribedKind(
        "sea",
        (
            _aspect(
                "waves",
                "period_s",
                ankle_high={"height_m": 0.15},
                knee_high={"height_m": 0.5},
                waist_high={"height_m": 1.0},
                over_the_head={"height_m": 2.2},
            ),
        ),
    ),
    DescribedKind(
        "river",
        (
            _aspect(
                "water",
                creeps={"flow_m_s": 0.3},
                walks={"flow_m_s": 1.2},
                runs={"flow_m_s": 3.0},
                falls={"flow_m_s": 5.0},
            ),
            _aspect(
                "surface",
                ripples={"texture_m": 0.1},
                over_stones={"texture_m": 0.3},
                over_boulders={"texture_m": 1.0},
            ),
        ),
    ),
    DescribedKind(
        "cloud",
        (
            _aspect(
                "wind up there",
                hardly_moves={"wind_m_s": 2.0},
                drifts={"wind_m_s": 6.0},
                hurries={"wind_m_s": 12.0},
                races={"wind_m_s": 22.0},
            ),
            _aspect("height", "height_m", low={"class": "low"}, middle={"class": "middle"}, high={"class": "high"}),
            _aspect(
                "sky covered",
                little={"cover": "few"},
                half={"cover": "half"},
                a_few_gaps={"cover": "gaps"},
                all_of_it={"cover": "all"},
            ),
            _aspect(
                "wind from",
                **{
                    name: {"wind_from_deg": float(45 * turn)}
                    for turn, name in enumerate(("N", "NE", "E", "SE", "S", "SW", "W", "NW"))
                },
            ),
        ),
    ),
    DescribedKind(
        "leaves",
        (
            _aspect(
                "wind",
                "amplitude_m",
                "period_s",
                calm={"class": "calm"},
                light={"class": "light"},
                breeze={"class": "breeze"},
                fresh={"class": "fresh"},
            ),
            _DISTANCES,
        ),
    ),
    DescribedKind(
        "people",
        (
            _aspect(
                "people",
                only_passing={"standing": 0.0},
                some_stand_about={"standing": 4.0, "stay_s": 45.0},
                many_stay={"standing": 12.0, "stay_s": 180.0},
            ),
            _PACES,
            _aspect("they walk", across={"across": 1.0}, aslant={"across": 0.6}, towards_you={"across": 0.2}),
        ),
    ),
    DescribedKind(
        "crowd",
        (
            _aspect(
                "crowd", loose={"rate_per_s": 0.3}, steady={"rate_per_s": 1.0}, shoulder_to_shoulder={"rate_per_s": 3.0}
            ),
            _PACES,
        ),
    ),
    DescribedKind(
        "still_person",
        (
            _aspect("pose", standing={"pose": "standing"}, leaning={"pose": "leaning"}, sitting={"pose": "sitting"}),
            _DISTANCES,
        ),
    ),
    DescribedKind(
        "vehicles",
        (
            _aspect(
                "vehicles",
                "speed_m_s",
                "standing",
                "stay_s",
                moving={"state": "moving"},
                queueing={"state": "queueing"},
                parked={"state": "parked"},
            ),
        ),
    ),
    DescribedKind(
        "lamps",
        (
            _aspect(
                "traffic",
                bicycles={"speed_m_s": 5.0},
                in_town={"speed_m_s": 14.0},
                fast_road={"speed_m_s": 25.0},
            ),
        ),
    ),
    DescribedKind(
        "stars",
        (
            _aspect(
                "part of the sky",
                near_the_pole={"declination_deg": 80.0},
                half_way={"declination_deg": 40.0},
                near_the_equator={"declination_deg": 0.0},
            ),
        ),
    ),
    DescribedKind(
        "tide",
        (
            _aspect("between low and high", small={"range_m": 0.8}, usual={"range_m": 2.0}, large={"range_m": 5.0}),
            _aspect(
                "the water",
                at_low={"hours_from_low": 0.0},
                rises={"hours_from_low": 3.0},
                at_high={"hours_from_low": 6.2},
                falls={"hours_from_low": 9.3},
            ),
        ),
    ),
    DescribedKind(
        "spin", (_aspect("a turn takes", slow={"period_s": 40.0}, steady={"period_s": 12.0}, fast={"period_s": 4.0}),)
    ),
)
"""In the order in which kinds are offered."""
