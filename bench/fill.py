"""Fill the demo account's log up to a number of frames, straight into the database: ``python -m bench.fill 10000``."""

from __future__ import annotations

import os
import random
import sys
from datetime import UTC, datetime, timedelta
from uuid import uuid4

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jackstaff.site.settings")
django.setup()

from django.contrib.auth.models import User  # noqa: E402 (Django must stand first)

from jackstaff.records.models import Frame, FrameEvent, FrameGlass  # noqa: E402

START = datetime(2020, 1, 1, 6, tzinfo=UTC)


def main(wanted: int) -> None:
    account = User.objects.get(username="demo")
    pattern = Frame.objects.filter(account=account).first()
    if pattern is None:
        raise SystemExit("The demo account has no frame to copy.")
    dice = random.Random(7)
    missing = wanted - Frame.objects.filter(account=account).count()
    frames, glass, events = [], [], []
    for number in range(missing):
        opened = START + timedelta(hours=5 * number)
        seconds = dice.uniform(1, 400)
        frame = Frame(
            **{
                field.attname: getattr(pattern, field.attname)
                for field in Frame._meta.concrete_fields
                if field.attname not in {"id", "opened_at", "closed_at", "changed_at", "exposure_error", "note"}
            },
            id=uuid4(),
            opened_at=opened,
            closed_at=opened + timedelta(seconds=seconds),
            exposure_error=dice.choice([None, -1 / 3, 0.0, 1 / 3]),
            note=f"Frame {number} of the mole",
        )
        frames.append(frame)
        glass += [FrameGlass(frame=frame, place=at, name=f"Slot ND {at + 4}", stops=at + 4) for at in range(2)]
        events += [FrameEvent(key=uuid4(), frame=frame, at=opened, kind=kind) for kind in ("opened", "closed")]
    Frame.objects.bulk_create(frames, batch_size=500)
    FrameGlass.objects.bulk_create(glass, batch_size=500)
    FrameEvent.objects.bulk_create(events, batch_size=500)


if __name__ == "__main__":
    main(int(sys.argv[1]))
