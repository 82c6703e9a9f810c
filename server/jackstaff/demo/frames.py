"""The demo's frames: made-up mornings, worked out by the core, each reviewed as its hidden truth would show.

The glass measures what ``HIDDEN`` says, so that the log has something to find: a nine that is a third denser, and a
ring whose label is wrong. Reviews are in thirds, as people give them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5

import numpy as np
from PIL import Image

from jackstaff.documents.frames import FRAMES
from jackstaff.documents.kit import KIT
from jackstaff.documents.pictures import PICTURES
from jackstaff.records.account import Account
from jackstaff_core.camera.reading import ReadingGiven, SettingsGiven
from jackstaff_core.exposure.calculation import Counting, Exposure, ExposureQuestion, expose
from jackstaff_core.filters.kind import GlassKind
from jackstaff_core.filters.on_lens import GlassGiven
from jackstaff_core.log.frame import (
    ClosedBy,
    Defect,
    EventKind,
    Fit,
    Frame,
    FrameConditions,
    FrameEvent,
    FrameGlass,
    FrameReading,
    FrameReview,
    FrameSettings,
    FrameState,
    FrameSum,
    Tasted,
)
from jackstaff_core.motion.looks import LooksQuestion
from jackstaff_core.motion.subjects import Camera, Subject
from jackstaff_imaging.digest import digest
from jackstaff_imaging.light import encoded
from jackstaff_imaging.scene import draw, exposed

from .outings import ZONE

HIDDEN = {"Slot ND 9": 0.35, "Slot ND 4": -0.05, "Ring ND 6": 0.1, "Ring ND 3": 1.75}
"""What the demo's glass really measures against its label [stops]."""
STOPS = {"Slot ND 9": 9.0, "Slot ND 4": 4.0, "Ring ND 6": 6.0, "Ring ND 3": 3.0, "Clip-on pol": 1.5,
         "Ring VND 2–5": 5.0}  # fmt: skip
KINDS = {"Clip-on pol": "polariser", "Ring VND 2–5": "variable"}


@dataclass(frozen=True, kw_only=True, slots=True)
class _Shot:
    at: str
    shutter: str
    aperture: str
    iso: str
    glass: tuple[str, ...]
    late: float = 0.2
    note: str = ""
    shot_at: tuple[str, str] | None = None
    habit: float = 0.0
    defects: tuple[str, ...] = ()
    tasted: tuple[tuple[str, str, str], ...] = ()
    focal: float = 24.0
    lens: str = "24 mm prime"
    place: str = "Vardsund mole"
    reviewed: bool = True
    about: dict[str, Any] = field(default_factory=dict)
    pictured: bool = False


MOLE, FALLS, TARN = "Vardsund mole", "Ostra falls", "Grey Tarn"
NINE, FOUR, SIX, THREE, POL, VND = "Slot ND 9", "Slot ND 4", "Ring ND 6", "Ring ND 3", "Clip-on pol", "Ring VND 2–5"
ZOOM = "16–35 mm zoom"
SHOTS = (
    _Shot(at="2027-03-06T06:02:10", shutter="1/8", aperture="8", iso="64", glass=(NINE,), place=MOLE,
          note="First try of the nine.", about={"swell_m": 0.7}),
    _Shot(at="2027-03-06T06:11:00", shutter="1/15", aperture="8", iso="64", glass=(NINE,), note="Longer.", place=MOLE,
          about={"swell_m": 0.7}, tasted=(("sea", "mirror", "right"),)),
    _Shot(at="2027-03-06T06:24:30", shutter="1/30", aperture="8", iso="64", glass=(SIX,), place=MOLE,
          note="Veil on the steps.", about={"swell_m": 0.7}, tasted=(("sea", "veil", "short"),)),
    _Shot(at="2027-03-14T09:05:00", shutter="1/60", aperture="11", iso="64", glass=(THREE,), note="Too dark again?",
          place=FALLS, habit=0.1),
    _Shot(at="2027-03-14T09:12:00", shutter="1/60", aperture="11", iso="64", glass=(THREE,), place=FALLS,
          note="Same, checked twice.", habit=0.1),
    _Shot(at="2027-03-14T09:20:00", shutter="1/60", aperture="11", iso="64", glass=(THREE, FOUR), note="With the four.",
          place=FALLS, habit=0.1, defects=("shake",)),
    _Shot(at="2027-03-14T09:31:00", shutter="1/60", aperture="11", iso="64", glass=(), note="Bare, for the record.",
          place=FALLS, habit=0.1),
    _Shot(at="2027-03-14T09:40:00", shutter="1/15", aperture="11", iso="64", glass=(THREE,), note="Ferns still.",
          place=FALLS, habit=0.1, defects=("leaves",)),
    _Shot(at="2027-03-27T18:20:00", shutter="1/4", aperture="8", iso="64", glass=(NINE,), note="Dusk, still air.",
          place=TARN),
    _Shot(at="2027-03-27T18:33:00", shutter="1/30", aperture="4", iso="64", glass=(VND,), place=TARN,
          note="Dark cross at the wide end.", defects=("cross",), focal=16.0, lens=ZOOM),
    _Shot(at="2027-03-27T18:41:00", shutter="1/30", aperture="8", iso="64", glass=(SIX, THREE), place=TARN,
          note="Two rings at the wide end.", defects=("corner",), focal=18.0, lens=ZOOM,
          about={"rims_mm": 9.0, "opening_mm": 74.0}),
    _Shot(at="2027-03-27T18:49:00", shutter="1/30", aperture="8", iso="64", glass=(SIX, THREE), place=TARN,
          note="Zoomed in: clear.", focal=24.0, lens=ZOOM, about={"rims_mm": 9.0, "opening_mm": 74.0}),
    _Shot(at="2027-04-10T04:20:00", shutter="1/8", aperture="8", iso="64", glass=(NINE,), place=MOLE, habit=-0.1,
          about={"swell_m": 0.6}, note="Grey, flat."),
    _Shot(at="2027-04-10T04:31:00", shutter="1/8", aperture="8", iso="64", glass=(NINE, FOUR), place=MOLE, habit=-0.1,
          note="Fog look.", about={"swell_m": 0.6}, tasted=(("sea", "fog", "right"),), defects=("specks",)),
    _Shot(at="2027-04-17T03:58:20", shutter="0.8", aperture="8", iso="64", glass=(SIX,), late=0.3, place=MOLE,
          note="Vardsund mole, before the sun.", about={"swell_m": 0.6}, pictured=True,
          tasted=(("sea", "mirror", "right"),)),
    _Shot(at="2027-04-17T04:12:05", shutter="1/5", aperture="9", iso="64", glass=(NINE,), late=1.8, place=MOLE,
          note="Vardsund mole. Let it run while talking.", about={"swell_m": 0.6}, pictured=True),
    _Shot(at="2027-04-17T04:31:40", shutter="1/40", aperture="9", iso="64", glass=(NINE, FOUR), late=0.6, place=MOLE,
          note="Vardsund mole. Cloud drawn out.", about={"swell_m": 0.6}, pictured=True),
    _Shot(at="2027-04-18T09:20:10", shutter="1/15", aperture="8", iso="100", glass=(POL, FOUR), late=0.1, place=FALLS,
          note="Ostra falls, veil.", shot_at=("11", "64")),
    _Shot(at="2027-04-18T09:41:55", shutter="1/13", aperture="11", iso="64", glass=(SIX,), late=-0.9, place=FALLS,
          note="Ostra falls. Closed early, ferns moved.", defects=("leaves",)),
    _Shot(at="2027-04-24T18:47:30", shutter="1/4", aperture="8", iso="100", glass=(NINE,), late=21.0, place=TARN,
          note="Grey Tarn, mirror. Cold hands on the remote.", reviewed=False),
)  # fmt: skip


def keep_demo_frames(account: Account) -> None:
    """Make the demo's frames; the account has its kit already."""
    kit = {item.name: item.id for item in KIT.of(account)}
    for number, shot in enumerate(SHOTS):
        _keep(account, uuid5(NAMESPACE_URL, f"jackstaff:demo:{number}"), shot, kit)


def _keep(account: Account, key: UUID, shot: _Shot, kit: dict[str, UUID]) -> None:
    aperture, iso = shot.shot_at or (shot.aperture, shot.iso)
    answer = expose(
        ExposureQuestion(
            ReadingGiven(shot.shutter, shot.aperture, shot.iso),
            tuple(GlassGiven(stops=STOPS[name]) for name in shot.glass),
            SettingsGiven(aperture, iso),
        )
    )
    opened = datetime.fromisoformat(shot.at).replace(tzinfo=UTC)
    seconds = answer.set_seconds + shot.late
    closed = opened + timedelta(seconds=seconds)
    review = _review(shot, answer, seconds) if shot.reviewed else None
    steps = tuple(
        replace(step, name=step.name if step.kind != "glass" or step.glass is None else shot.glass[step.glass])
        for step in answer.steps
    )
    frame = Frame(
        id=key,
        state=FrameState.CLOSED,
        opened_at=opened,
        closed_at=closed,
        closed_by=ClosedBy.HAND,
        note=shot.note,
        reading=FrameReading(shot.shutter, shot.aperture, shot.iso, metered_at=opened - timedelta(seconds=70)),
        settings=FrameSettings(aperture, iso),
        stack=tuple(
            FrameGlass(name, STOPS[name], id=kit[name], kind=GlassKind(KINDS.get(name, "solid"))) for name in shot.glass
        ),
        scale=Counting.EXACT,
        dial_limit=30.0,
        answer=FrameSum(
            answer.seconds, answer.set_seconds, answer.base_seconds, answer.sure_within_stops, steps, answer.dial_mark
        ),
        events=(
            FrameEvent(uuid5(key, "opened"), opened, EventKind.OPENED),
            FrameEvent(uuid5(key, "closed"), closed, EventKind.CLOSED),
        ),
        conditions=FrameConditions(
            place=shot.place,
            zone=ZONE,
            body="Full-frame body A",
            body_id=kit["Full-frame body A"],
            lens=shot.lens,
            lens_id=kit[shot.lens],
            focal_mm=shot.focal,
            ev100=answer.scene_ev100,
            **shot.about,
        ),
        review=review,
    )
    FRAMES.keep(account, frame)
    if shot.pictured:
        _picture(account, key, seconds, (review and review.error_stops) or 0.0)


def _review(shot: _Shot, answer: Exposure, seconds: float) -> FrameReview:
    """Return what a careful eye would say of it, in thirds."""
    dark = sum(HIDDEN.get(name, 0.0) for name in shot.glass) + shot.habit
    error_stops = math.log2(seconds / answer.seconds) - dark
    tasted = tuple(Tasted(kind, look, Fit(fit)) for kind, look, fit in shot.tasted)
    return FrameReview(round(error_stops * 3) / 3, tuple(Defect(code) for code in shot.defects), tasted)


def _picture(account: Account, key: UUID, seconds: float, error_stops: float) -> None:
    """Keep the drawn scene as bright as the frame came out, in small."""
    subjects = (
        Subject("sea", {"height_m": 0.6}),
        Subject("cloud", {"class": "low", "wind_m_s": 6.0, "wind_from_deg": 240.0}),
    )
    drawn = draw(
        exposed(LooksQuestion(Camera(24.0, elevation_deg=8.0, bearing_deg=300.0), subjects), seconds), 480, 320, 7
    )
    codes = encoded(np.clip(drawn * np.float32(2.0**error_stops), 0, 1).astype(np.float32))
    PICTURES.keep(account, key, digest(Image.fromarray(codes), codes))
