"""Demo data: a made-up spring morning at Vardsund, worked out by the core like any other frame."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from datetime import UTC, datetime, timedelta
from uuid import NAMESPACE_URL, uuid5

from django.contrib.auth.models import User

from jackstaff_core.exposure import ExposureQuestion, GlassGiven, expose
from jackstaff_core.reading import ReadingGiven, SettingsGiven

from .demo_outings import keep_demo_outings
from .frames import EventKept, GlassKept, save_frame
from .kit import start_kit
from .models import Frame

ACCOUNT = "demo"
PASSWORD = "lantern-square"  # noqa: S105 (printed on start: demo data only, nothing to protect)


@dataclass(frozen=True, slots=True)
class _Shot:
    at: str
    shutter: str
    aperture: str
    iso: str
    glass: tuple[tuple[str, float, float | None], ...]
    closed_late: float
    note: str
    shot_at: tuple[str, str] | None = None


SOLID_9, SOLID_4, SOLID_6 = ("Slot ND 9", 9.0, 0.2), ("Slot ND 4", 4.0, None), ("Ring ND 6", 6.0, None)
SHOTS = (
    _Shot("2027-04-17T03:58:20", "0.8", "8", "64", (SOLID_6,), 0.3, "Vardsund mole, before the sun."),
    _Shot("2027-04-17T04:12:05", "1/5", "9", "64", (SOLID_9,), 1.8, "Vardsund mole. Let it run while talking."),
    _Shot("2027-04-17T04:31:40", "1/40", "9", "64", (SOLID_9, SOLID_4), 0.6, "Vardsund mole. Cloud drawn out."),
    _Shot("2027-04-18T09:20:10", "1/15", "8", "100", (("Clip-on pol", 1.5, None), SOLID_4), 0.1,
          "Ostra falls, veil.", ("11", "64")),
    _Shot("2027-04-18T09:41:55", "1/13", "11", "64", (SOLID_6,), -0.9, "Ostra falls. Closed early, ferns moved."),
    _Shot("2027-04-24T18:47:30", "1/4", "8", "100", (SOLID_9,), 21.0, "Grey Tarn, mirror. Cold hands on the remote."),
)  # fmt: skip


def load() -> User:
    """Make the demo account and its frames; running it again changes nothing a person did."""
    account, made = User.objects.get_or_create(username=ACCOUNT)
    if made:
        account.set_password(PASSWORD)
        account.save()
        for number, shot in enumerate(SHOTS):
            _keep(account, number, shot)
        keep_demo_outings(account)
    start_kit(account)
    return account


def _keep(account: User, number: int, shot: _Shot) -> None:
    aperture, iso = shot.shot_at or (shot.aperture, shot.iso)
    answer = expose(
        ExposureQuestion(
            ReadingGiven(shot.shutter, shot.aperture, shot.iso),
            tuple(
                GlassGiven(stops=stops, offset=offset, offset_sd=0.1 if offset else None)
                for _, stops, offset in shot.glass
            ),
            SettingsGiven(aperture, iso),
        )
    )
    opened = datetime.fromisoformat(shot.at).replace(tzinfo=UTC)
    closed = opened + timedelta(seconds=answer.set_seconds + shot.closed_late)
    key = uuid5(NAMESPACE_URL, f"jackstaff:demo:{number}")
    names = [name for name, _, _ in shot.glass]
    steps = [
        {**asdict(step), "name": names[step.glass] if step.kind == "glass" and step.glass is not None else step.name}
        for step in answer.steps
    ]
    save_frame(
        account,
        key,
        {
            "state": Frame.State.CLOSED,
            "opened_at": opened,
            "closed_at": closed,
            "closed_by": Frame.ClosedBy.HAND,
            "note": shot.note,
            "reading_shutter": shot.shutter,
            "reading_aperture": shot.aperture,
            "reading_iso": shot.iso,
            "step": "third",
            "metered_at": opened - timedelta(seconds=70),
            "aperture": aperture,
            "iso": iso,
            "scale": "exact",
            "dial_limit": 30.0,
            "planned_seconds": answer.seconds,
            "set_seconds": answer.set_seconds,
            "base_seconds": answer.base_seconds,
            "sure_within_stops": answer.sure_within_stops,
            "dial_mark": answer.dial_mark,
            "sum_steps": steps,
        },
        [GlassKept(name, stops, offset, False) for name, stops, offset in shot.glass],
        [
            EventKept(uuid5(key, "opened"), opened, "opened", None),
            EventKept(uuid5(key, "closed"), closed, "closed", None),
        ],
    )
