"""Demo outings: four made-up places near Vardsund, one of them with a dawn already metered."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from jackstaff.documents.outings import OUTINGS
from jackstaff.records.account import Account
from jackstaff_core.outing.plan import Outing
from jackstaff_core.sky.cover import Sky
from jackstaff_core.sky.forecast import LightQuestion, light_at
from jackstaff_core.sky.sun_and_moon import Place
from jackstaff_core.wire.reader import read

WRITTEN = datetime(2027, 4, 10, 18, tzinfo=UTC)
_NO_WEATHER = {"celsius": None, "wind_m_s": None, "wind_from_deg": None, "cloud_m": None, "swell_m": None}
ZONE = "Europe/Oslo"
_BASE: dict[str, Any] = {
    "zone": ZONE,
    "sky": "clear",
    "scene": "sky_lit",
    "ridge": None,
    "readings": [],
    "waters": [],
    "floods_at_m": None,
    "walk_minutes": 15.0,
    "margin_minutes": 15.0,
    "weather": {**_NO_WEATHER, "source": "own"},
    "hazards": [],
    "packed": [],
    "archived": False,
}


def mole() -> dict[str, Any]:
    """Return the outing that the demo's bench stands in."""
    place = Place(58.052, 6.798)
    dawn = datetime(2027, 4, 17, 3, 20, tzinfo=UTC)
    readings = []
    # Two thirds of a stop under thin cloud's forecast, as three real readings would scatter.
    for minutes, apart in ((0, -0.7), (14, -0.55), (27, -0.68)):
        at = dawn + timedelta(minutes=minutes)
        level = light_at(LightQuestion(place, at, at, sky=Sky.THIN), at).ev100 + apart
        readings.append({"at": at.isoformat().replace("+00:00", "Z"), "ev100": round(level, 1)})
    return {
        "name": "Vardsund mole, first light",
        "latitude": place.latitude,
        "longitude": place.longitude,
        "date": "2027-04-17",
        "arrive": "04:45",
        "turn_back": "08:00",
        "sky": "thin",
        "readings": readings,
        "waters": [
            {"time": "03:10", "height_m": 0.3, "source": "own"},
            {"time": "09:25", "height_m": 1.9, "source": "own"},
        ],
        "floods_at_m": 1.7,
        "walk_minutes": 15.0,
        "weather": {
            "celsius": 4.0,
            "wind_m_s": 6.0,
            "wind_from_deg": 240.0,
            "cloud_m": 6000.0,
            "swell_m": 0.7,
            "source": "own",
        },
        "hazards": ["tide", "swell", "edge", "cold"],
        "packed": ["body", "lens", "support"],
    }


def _plans() -> list[dict[str, Any]]:
    return [
        mole(),
        {
            "name": "Ostra falls in the ravine",
            "latitude": 58.087,
            "longitude": 6.852,
            "date": "2027-04-18",
            "arrive": "10:00",
            "turn_back": "13:30",
            "sky": "overcast",
            "scene": "shade",
            "hazards": ["current", "wet_rock"],
        },
        {
            "name": "Lantern Square at dusk",
            "latitude": 58.049,
            "longitude": 6.806,
            "date": "2027-09-25",
            "arrive": "18:30",
            "turn_back": "21:30",
            "hazards": ["traffic"],
        },
        {
            "name": "Grey Tarn under the ridge",
            "latitude": 58.113,
            "longitude": 6.781,
            "date": "2027-09-26",
            "arrive": "06:30",
            "turn_back": "10:00",
            "scene": "sun_lit",
            "ridge": {"height_m": 180.0, "distance_m": 1100.0},
            "hazards": ["mud", "alone"],
        },
    ]


def keep_demo_outings(account: Account) -> None:
    """Give the demo account its outings."""
    for number, plan in enumerate(_plans()):
        key = uuid5(NAMESPACE_URL, f"jackstaff:demo:outing:{number}")
        # The mole is the one that is looked at first.
        changed = WRITTEN - timedelta(minutes=number)
        whole = {**_BASE, **plan, "id": str(key), "changed_at": changed.isoformat()}
        OUTINGS.keep(account, read(Outing, whole))
