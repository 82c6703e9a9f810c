"""What can hurt somebody where photographs are taken, each with the usual caution and whom to ask.

A list of words, not an authority: local rules, official tide, weather and avalanche services, closures and guides
decide. Source: practice. Limits: what is ticked. Verdict: cautions, no numbers.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Hazard:
    """``ask`` names who knows, ``pack`` what to take along for it (codes of outing/packing.py)."""

    code: str
    name: str
    caution: str
    ask: str
    pack: tuple[str, ...] = ()


HAZARDS = (
    Hazard(
        "tide",
        "Tide, being cut off",
        "Know the way back before the water does. Turn round at the leave-by time even if the light is just coming.",
        "The official tide tables and warnings of this coast.",
        ("tide_table", "boots"),
    ),
    Hazard(
        "swell",
        "Swell on rock or mole",
        "Watch the water for ten minutes before going down. Never turn your back to it; one wave in many is twice as"
        " high.",
        "The official sea forecast; signs and closures on the spot.",
        ("boots", "cloths"),
    ),
    Hazard(
        "wet_rock",
        "Wet rock, weed",
        "Black rock is slippery rock. Put the tripod down first, then a foot.",
        "Local people and guides.",
        ("boots",),
    ),
    Hazard(
        "mud",
        "Mud, soft sand",
        "Stay on the marked way; mud that held on the way out may not on the way back.",
        "Local guides and signs.",
        ("boots", "stick"),
    ),
    Hazard(
        "current",
        "River current",
        "Knee-deep fast water can carry a person off. Do not wade above the knee or alone.",
        "The official water level and release warnings of this river.",
        ("boots", "stick"),
    ),
    Hazard(
        "edge",
        "Edge in the dark",
        "Look at the place by daylight first. Keep two steps from the edge, sit down to change filters.",
        "Local closures and signs.",
        ("head_torch",),
    ),
    Hazard(
        "ice",
        "Ice",
        "Ice on a lake cannot be judged from the shore; snow hides both.",
        "Official ice and avalanche services.",
        ("spikes", "warm"),
    ),
    Hazard(
        "lightning",
        "Thunderstorm",
        "At the first thunder lay the tripod down and get off heights, shore and water.",
        "The official storm warnings.",
        (),
    ),
    Hazard(
        "heat", "Heat", "Drink before thirst; shade for you and the battery.", "Official heat warnings.", ("water",)
    ),
    Hazard(
        "cold",
        "Cold",
        "Standing still for minutes cools faster than walking. Turn back while fingers still work.",
        "Official weather service.",
        ("warm", "gloves", "spare_battery"),
    ),
    Hazard(
        "traffic",
        "Traffic, working low",
        "Drivers do not expect a tripod. Never stand in the road; somebody looks while you look at the screen.",
        "Local rules; some places want a permit for a tripod.",
        ("reflective",),
    ),
    Hazard(
        "alone",
        "Being alone",
        "Tell somebody where you are and when you will be back, and tell them when you are.",
        "Your own people.",
        ("phone_power",),
    ),
)
BY_CODE = {hazard.code: hazard for hazard in HAZARDS}
