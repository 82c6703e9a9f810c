"""The bag a newcomer finds: generic gear, enough to try every kind of answer."""

from __future__ import annotations

from uuid import NAMESPACE_URL, UUID, uuid5

from .kitfile import Item
from .things import Accessory, Body, Film, Glass, Holder, Lens, Release, Support


def _key(name: str) -> UUID:
    return uuid5(NAMESPACE_URL, f"jackstaff:starter:{name}")


def _item(sort: str, name: str, thing: object) -> Item:
    return Item(_key(name), sort, name, thing)


STARTER_KIT: tuple[Item, ...] = (
    _item(
        "body",
        "Full-frame body A",
        Body(iso_highest=800.0, iso_extended=32.0, battery_wh=14.0, self_timers_s=(2.0, 10.0), sync_s=1 / 200),
    ),
    _item(
        "body",
        "Pocket body B",
        Body(dial_limit_s=1.0, sensor_width_mm=13.2, sensor_height_mm=8.8, pitch_um=2.4, eyepiece="none"),
    ),
    _item("body", "Film body C", Body(film=True, dial_limit_s=1.0, iso_lowest=100.0, iso_highest=100.0)),
    _item("lens", "24 mm prime", Lens(thread_mm=77.0)),
    _item("lens", "16–35 mm zoom", Lens(focal_min_mm=16.0, focal_max_mm=35.0, aperture_widest=4.0, thread_mm=77.0)),
    _item("holder", "100 mm holder", Holder(rings_mm=(72.0, 77.0, 82.0), polariser_ring=True)),
    _item("glass", "Ring ND 3", Glass(label="3 stops", stops=3.0, size_mm=77.0, rim_depth_mm=4.5, clear_mm=74.0)),
    _item("glass", "Slot ND 4", Glass(label="4 stops", stops=4.0, mount="plate", size_mm=100.0)),
    _item("glass", "Ring ND 6", Glass(label="ND64", stops=6.0, size_mm=77.0, rim_depth_mm=4.5, clear_mm=74.0)),
    _item("glass", "Slot ND 9", Glass(label="9 stops", stops=9.0, mount="plate", size_mm=100.0, gasket=True)),
    _item("glass", "Slot ND 10", Glass(label="10 stops", stops=10.0, mount="plate", size_mm=100.0, gasket=True)),
    _item("glass", "Clip-on pol", Glass(kind="polariser", stops=1.3, stops_max=1.7, mount="clip")),
    _item(
        "glass",
        "Ring VND 2–5",
        Glass(
            kind="variable", label="2-5 stops", stops=2.0, stops_max=5.0, size_mm=77.0, rim_depth_mm=7.0, clear_mm=74.0
        ),
    ),
    _item("glass", "Soft grad 2", Glass(kind="graduated", label="0.6", stops=2.0, mount="plate", size_mm=100.0)),
    _item(
        "glass",
        "Hard grad 3",
        Glass(kind="graduated", label="0.9", stops=3.0, transition="hard", mount="plate", size_mm=100.0),
    ),
    _item("film", "Grey film 100", Film(law="power", p=1.3)),
    _item("release", "Wired remote", Release()),
    _item("support", "Tripod", Support(hook=True, spikes=True)),
    _item("accessory", "Eyepiece cover", Accessory(kind="eyepiece_cover")),
)
STARTER_ON = (str(_key("Slot ND 9")),)
"""What is on the lens at the first visit: one strong solid glass."""
STARTER_READING = ("1/40", "9", "64")
"""Shutter, aperture and ISO of the first visit."""
DEMO_ON = (str(_key("Ring ND 6")),)
DEMO_READING = ("0.8 s", "8", "64")
"""What the demo account's own outing gives at the minute below, ten after sunrise under thin cloud."""
DEMO_LIGHT_AT = "06:27"
