"""The eight dry runs that ship: Vardsund by dawn, noon and dusk, with this glass and that.

Source: ours; places, weather, tide and gear are made up. Limits: as practice/dryrun/scenario.py. Verdict: class.
"""

from __future__ import annotations

from datetime import datetime
from uuid import NAMESPACE_URL, UUID, uuid5
from zoneinfo import ZoneInfo

from ...gear.kitfile import Item
from ...gear.things import Body, Film, Glass, Holder, Lens, Release, Support
from ...motion.looks import Want
from ...motion.subjects import Subject
from ...outing.plan import OwnWater, OwnWeather
from ...sky.cover import Sky
from ...sky.forecast import Scene
from ...sky.made_up import SkyKind
from .scenario import Framing, Part, Scenario, Tone

_ZONE = "Europe/Oslo"


def _key(name: str) -> UUID:
    return uuid5(NAMESPACE_URL, f"jackstaff:dry-run:{name}")


def _item(sort: str, name: str, thing: object) -> Item:
    return Item(_key(name), sort, name, thing)


def _at(day: str, clock: str) -> datetime:
    return datetime.fromisoformat(f"{day}T{clock}").replace(tzinfo=ZoneInfo(_ZONE))


BODY = _item(
    "body",
    "Full-frame body A",
    Body(iso_highest=6400.0, battery_wh=14.0, self_timers_s=(2.0, 10.0), eyepiece="optical", long_times="both"),
)
SLOW_BODY = _item(
    "body",
    "Full-frame body D",
    Body(iso_highest=6400.0, battery_wh=14.0, self_timers_s=(10.0,), eyepiece="optical", noise_reduction="fixed"),
)
FILM_BODY = _item(
    "body",
    "Film body C",
    Body(film=True, dial_limit_s=1.0, iso_lowest=100.0, iso_highest=100.0, eyepiece="optical"),
)
PRIME = _item("lens", "24 mm prime", Lens(thread_mm=77.0))
WIDE = _item("lens", "16–35 mm zoom", Lens(focal_min_mm=16.0, focal_max_mm=35.0, aperture_widest=4.0, thread_mm=77.0))
HOLDER = _item("holder", "100 mm holder", Holder(rings_mm=(72.0, 77.0, 82.0), polariser_ring=True))
REMOTE = _item("release", "Wired remote", Release())
TRIPOD = _item("support", "Tripod", Support(hook=True, spikes=True))
SLOT_3 = _item("glass", "Slot ND 3", Glass(label="3 stops", stops=3.0, mount="plate", size_mm=100.0))
SLOT_6 = _item("glass", "Slot ND 6", Glass(label="6 stops", stops=6.0, mount="plate", size_mm=100.0))
SLOT_10 = _item("glass", "Slot ND 10", Glass(label="ND 3.0", stops=10.0, mount="plate", size_mm=100.0, gasket=True))
RING_3 = _item("glass", "Ring ND 3", Glass(label="3 stops", stops=3.0, size_mm=77.0, rim_depth_mm=4.5, clear_mm=74.0))
RING_6 = _item("glass", "Ring ND 6", Glass(label="ND64", stops=6.0, size_mm=77.0, rim_depth_mm=4.5, clear_mm=74.0))
VARIABLE = _item(
    "glass",
    "Ring VND 2–8",
    Glass(kind="variable", label="2-8 stops", stops=2.0, stops_max=8.0, size_mm=77.0, rim_depth_mm=7.0, clear_mm=74.0),
)
POLARISER = _item("glass", "Clip-on pol", Glass(kind="polariser", stops=1.3, stops_max=1.7, mount="clip"))
FILM = _item("film", "Grey film 100", Film(law="power", p=1.3))

_PLATES = (BODY, PRIME, HOLDER, SLOT_3, SLOT_6, SLOT_10, REMOTE, TRIPOD)

_MOLE_TONES = (
    Tone(Part.SKY, 0.42, 1.2), Tone(Part.SUN, 0.02, 3.4), Tone(Part.WATER, 0.36, 0.0), Tone(Part.GROUND, 0.2, -2.2),
)  # fmt: skip
_TARN_TONES = (
    Tone(Part.SKY, 0.4, 1.3), Tone(Part.LAND, 0.2, -1.4), Tone(Part.WATER, 0.28, -0.2), Tone(Part.GROUND, 0.12, -1.8),
)  # fmt: skip
_FALLS_TONES = (
    Tone(Part.LEAVES, 0.38, -0.8), Tone(Part.WATER, 0.3, 1.6), Tone(Part.GROUND, 0.32, -1.6),
)  # fmt: skip
_SQUARE_TONES = (
    Tone(Part.SKY, 0.25, 1.6), Tone(Part.LAND, 0.4, -0.4), Tone(Part.GROUND, 0.3, -0.2), Tone(Part.PEOPLE, 0.05, -1.6),
)  # fmt: skip
_DUSK_TONES = (
    Tone(Part.SKY, 0.42, 1.0), Tone(Part.LAMP, 0.01, 4.0), Tone(Part.WATER, 0.36, -0.2), Tone(Part.GROUND, 0.21, -2.0),
)  # fmt: skip

_SWELL = Subject("sea", {"height_m": 0.5, "period_s": 6.0})
_RIVER = Subject("river", {"texture_m": 0.3, "flow_m_s": 1.0})
_RIPPLE = Subject("sea", {"height_m": 0.05, "period_s": 2.0})
_CLOUD = Subject("cloud", {"height_m": 1500.0, "wind_m_s": 12.0, "wind_from_deg": 250.0, "cover": "half"})
_PEOPLE = Subject("people", {})

SHIPPED: tuple[Scenario, ...] = (
    Scenario(
        id="dawn-mole",
        name="Dawn at the mole",
        story="The iron light before sunrise, a low swell, the tide coming in over the way back.",
        teaches="Follow rising light: the filters that were right ten minutes ago are too weak now.",
        place="Vardsund mole",
        latitude=58.05,
        longitude=6.8,
        zone=_ZONE,
        starts_at=_at("2027-04-17", "06:00"),
        minutes=50,
        sky=SkyKind.DAWN,
        seed=3,
        ev100=4.2,
        outlook=Sky.THIN,
        weather=OwnWeather(celsius=4.0, wind_m_s=4.0, swell_m=0.5, source="simulated"),
        waters=(OwnWater("03:10", 0.3, "simulated"), OwnWater("09:25", 1.9, "simulated")),
        floods_at_m=1.6,
        walk_minutes=21,
        hazards=("tide", "swell"),
        kit=_PLATES,
        framings=(
            Framing("The iron light", "mole", (_SWELL,), (Want("sea", "mirror"),), _MOLE_TONES, 24, 70),
            Framing("Swell over the step", "mole", (_SWELL,), (Want("sea", "veil"),), _MOLE_TONES, 24, 110, 0, -0.5),
        ),
    ),
    Scenario(
        id="noon-tarn",
        name="Noon at the tarn",
        story="Hard light on Grey Tarn, small ripples, clouds going over the ridge.",
        teaches="Ten stops at noon give seconds, not minutes: stack, and shut every way in for stray light.",
        place="Grey Tarn",
        latitude=58.06,
        longitude=6.84,
        zone=_ZONE,
        starts_at=_at("2027-05-08", "12:30"),
        minutes=45,
        sky=SkyKind.CLEAR,
        seed=5,
        ev100=14.6,
        weather=OwnWeather(celsius=14.0, wind_m_s=7.0, wind_from_deg=250.0, cloud_m=1500.0, source="simulated"),
        hazards=("heat",),
        # Its noise reduction cannot be switched off: each frame holds the camera twice as long.
        kit=(SLOW_BODY, *_PLATES[1:]),
        framings=(
            Framing(
                "Clouds over the ridge", "tarn", (_CLOUD, _RIPPLE), (Want("cloud", "streaks"),), _TARN_TONES, 24, 330
            ),
            Framing("The far shore", "tarn", (_RIPPLE,), (Want("sea", "veil"),), _TARN_TONES, 24, 30),
        ),
    ),
    Scenario(
        id="falls-beech",
        name="Falls under beech",
        story="Ostra falls in the ravine: white water, wet rock, a breath of wind in the leaves.",
        teaches="Water does not want minutes: find the window, and see what the polariser takes.",
        place="Ostra falls",
        latitude=58.07,
        longitude=6.78,
        zone=_ZONE,
        starts_at=_at("2027-05-09", "10:00"),
        minutes=40,
        sky=SkyKind.THIN_CLOUD,
        seed=11,
        ev100=9.4,
        outlook=Sky.OVERCAST,
        scene=Scene.SHADE,
        weather=OwnWeather(celsius=10.0, wind_m_s=2.0, source="simulated"),
        hazards=("wet_rock",),
        kit=(BODY, PRIME, HOLDER, SLOT_3, SLOT_6, RING_3, POLARISER, REMOTE, TRIPOD),
        framings=(
            Framing("The long drop", "falls", (_RIVER,), (Want("river", "mirror"),), _FALLS_TONES, 24),
            Framing("The lower pool", "falls", (_RIVER,), (Want("river", "veil"),), _FALLS_TONES, 24, 0, -10, -0.7),
        ),
    ),
    Scenario(
        id="square-passers-by",
        name="Square with passers-by",
        story="Lantern Square on an overcast morning, people crossing it without end.",
        teaches="How long is long enough for walkers to go, and that the strap and the finger spoil it.",
        place="Lantern Square",
        latitude=58.05,
        longitude=6.81,
        zone=_ZONE,
        starts_at=_at("2027-10-02", "10:00"),
        minutes=40,
        sky=SkyKind.SHOWERS,
        seed=2,
        ev100=11.0,
        outlook=Sky.OVERCAST,
        weather=OwnWeather(celsius=9.0, wind_m_s=8.0, source="simulated"),
        hazards=("traffic",),
        kit=(BODY, WIDE, HOLDER, SLOT_6, SLOT_10, RING_3, RING_6, REMOTE, TRIPOD),
        framings=(
            Framing("The empty square", "square", (_PEOPLE,), (Want("people", "gone"),), _SQUARE_TONES, 24),
            Framing("Passing shadows", "square", (_PEOPLE,), (Want("people", "ghosts"),), _SQUARE_TONES, 24),
        ),
    ),
    Scenario(
        id="dusk-never",
        name="Dusk that never fills",
        story="After sunset at the mole. The light goes faster than a dense filter can gather it.",
        teaches="In falling light there is a time past which no frame fills: open up, or be done before.",
        place="Vardsund mole",
        latitude=58.05,
        longitude=6.8,
        zone=_ZONE,
        starts_at=_at("2027-10-02", "19:15"),
        minutes=45,
        sky=SkyKind.DUSK,
        seed=4,
        ev100=5.0,
        outlook=Sky.THIN,
        weather=OwnWeather(celsius=7.0, wind_m_s=3.0, swell_m=0.5, source="simulated"),
        hazards=("edge", "swell"),
        kit=_PLATES,
        framings=(
            Framing("The mole going dark", "mole", (_SWELL,), (Want("sea", "mirror"),), _DUSK_TONES, 24, 260),
            Framing("Last light on the swell", "mole", (_SWELL,), (Want("sea", "veil"),), _DUSK_TONES, 24, 250),
        ),
    ),
    Scenario(
        id="film-day",
        name="Film day",
        story="Grey film at the falls: no screen to look at, and the film grows slower past a second.",
        teaches="What reciprocity does to seconds, and to write down what was done.",
        place="Ostra falls",
        latitude=58.07,
        longitude=6.78,
        zone=_ZONE,
        starts_at=_at("2027-05-09", "13:00"),
        minutes=40,
        sky=SkyKind.CLEAR,
        seed=9,
        ev100=10.2,
        outlook=Sky.OVERCAST,
        scene=Scene.SHADE,
        weather=OwnWeather(celsius=11.0, wind_m_s=2.0, source="simulated"),
        hazards=("wet_rock",),
        kit=(FILM_BODY, PRIME, HOLDER, SLOT_3, SLOT_6, FILM, REMOTE, TRIPOD),
        framings=(
            Framing("The long drop", "falls", (_RIVER,), (Want("river", "mirror"),), _FALLS_TONES, 24),
            Framing("Mist at the foot", "falls", (_RIVER,), (Want("river", "fog"),), _FALLS_TONES, 24),
        ),
    ),
    Scenario(
        id="variable-only",
        name="Variable only",
        story="One ring at the mole, wide and less wide. It turns as far as it likes; the picture does not.",
        teaches="Where a variable filter crosses on a wide lens, and what to do instead of turning on.",
        place="Vardsund mole",
        latitude=58.05,
        longitude=6.8,
        zone=_ZONE,
        starts_at=_at("2027-04-17", "07:10"),
        minutes=40,
        sky=SkyKind.BROKEN_CLOUD,
        seed=8,
        ev100=10.8,
        outlook=Sky.THIN,
        weather=OwnWeather(celsius=5.0, wind_m_s=4.0, swell_m=0.5, source="simulated"),
        hazards=("swell",),
        kit=(BODY, WIDE, VARIABLE, REMOTE, TRIPOD),
        framings=(
            Framing("The wide step", "mole", (_SWELL,), (Want("sea", "texture"),), _MOLE_TONES, 16, 80),
            Framing("The iron light, nearer", "mole", (_SWELL,), (Want("sea", "veil"),), _MOLE_TONES, 35, 80),
        ),
    ),
    Scenario(
        id="polariser-only",
        name="No filter but a polariser",
        story="The bag stayed at home. Under the beeches after rain there is little light, and one clip-on polariser.",
        teaches="How far aperture, ISO and a stop and a half of polariser carry without any ND.",
        place="Ostra falls",
        latitude=58.07,
        longitude=6.78,
        zone=_ZONE,
        starts_at=_at("2027-10-03", "17:30"),
        minutes=40,
        sky=SkyKind.THIN_CLOUD,
        seed=6,
        ev100=6.3,
        outlook=Sky.HEAVY,
        scene=Scene.SHADE,
        weather=OwnWeather(celsius=8.0, wind_m_s=1.0, source="simulated"),
        hazards=("wet_rock",),
        kit=(BODY, PRIME, POLARISER, REMOTE, TRIPOD),
        framings=(
            Framing("The long drop", "falls", (_RIVER,), (Want("river", "mirror"),), _FALLS_TONES, 24),
            Framing("Stones in the pool", "falls", (_RIVER,), (Want("river", "veil"),), _FALLS_TONES, 24, 0, -10, 0.6),
        ),
    ),
)
BY_ID = {scenario.id: scenario for scenario in SHIPPED}
