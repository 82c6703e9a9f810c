"""Fill accounts with years, straight into the database: ``python -m bench.fill 10000`` the demo's, or ``--years``."""

from __future__ import annotations

import itertools
import os
import random
import sys
from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

import django

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jackstaff.site.settings")
django.setup()

from django.contrib.auth.models import User  # noqa: E402 (Django must stand first)
from django.db.models import Model  # noqa: E402

from jackstaff.records.frame_rows import folded  # noqa: E402
from jackstaff.records.models import (  # noqa: E402
    Frame,
    FrameDefect,
    FrameEvent,
    FrameGlass,
    KitItem,
    Ledger,
    Outing,
    Revision,
)
from jackstaff_core.wire.reader import plain  # noqa: E402

START = datetime(2005, 1, 1, 6, tzinfo=UTC)
RARE = 3
"""So many frames have a place that no other has."""


def _like(pattern: Any, **changes: Any) -> dict[str, Any]:
    """Return the columns of a row for another one."""
    fields = {field.attname: getattr(pattern, field.attname) for field in pattern._meta.concrete_fields}
    return {name: value for name, value in fields.items() if name not in ("id", "changed_at")} | changes


def _keep(kind: type[Model], rows: Iterable[Any]) -> None:
    kind._default_manager.bulk_create(rows, batch_size=500)


def fill(account: User, frames: int, outings: int = 0, things: int = 0) -> None:
    """Fill an account up to these numbers with the demo's frames, outings and things under other keys and names."""
    dice = random.Random(7)
    demo = User.objects.get(username="demo")
    patterns = list(Frame.objects.filter(account=demo).prefetch_related("glass", "events", "defects")[:20])
    rows: dict[type[Model], list[Any]] = {kind: [] for kind in (Frame, FrameGlass, FrameEvent, FrameDefect)}
    counted: list[tuple[str, UUID]] = []
    missing = frames - account.frames.count()
    for number, pattern in zip(range(missing), itertools.cycle(patterns), strict=False):
        key, opened = uuid4(), START + timedelta(hours=1.9 * number)
        place = "Åsgård rocks" if number % (missing // RARE + 1) == 0 else "the mole"
        note = f"Frame {number} of {place}, wind from the west and the light going"
        seconds = dice.uniform(1, 400)
        columns = _like(pattern, account_id=account.pk, words=folded(f"{note}\n{pattern.words}"))
        closed, error = opened + timedelta(seconds=seconds), dice.choice([None, -1 / 3, 0.0, 1 / 3])
        columns |= {
            "id": key,
            "opened_at": opened,
            "closed_at": closed,
            "set_seconds": seconds,
            "exposure_error": error,
        }
        columns["document"] = {
            **pattern.document,
            "note": note,
            "opened_at": plain(opened),
            "closed_at": plain(closed),
            "answer": {**pattern.document["answer"], "set_seconds": seconds},
            "review": None if error is None else {"error_stops": error},
        }
        rows[Frame].append(Frame(**columns))
        rows[FrameGlass] += [FrameGlass(**_like(each, frame_id=key)) for each in pattern.glass.all()]
        rows[FrameEvent] += [FrameEvent(**_like(each, frame_id=key, key=uuid4())) for each in pattern.events.all()]
        rows[FrameDefect] += [FrameDefect(**_like(each, frame_id=key)) for each in pattern.defects.all()]
        counted.append(("frame", key))
    plans = list(Outing.objects.filter(account=demo))
    days: list[Outing] = []
    for number, planned in zip(range(outings - account.outings.count()), itertools.cycle(plans), strict=False):
        key, day = uuid4(), (START + timedelta(days=3 * number)).date()
        plan = {**planned.plan, "id": str(key), "date": day.isoformat(), "archived": number % 10 != 0}
        days.append(Outing(**_like(planned, account_id=account.pk, key=key, date=day, plan=plan), changed_at=START))
        counted.append(("outing", key))
    bag: list[KitItem] = []
    items = list(KitItem.objects.filter(account=demo))
    for number, item in zip(range(things - account.kit.count()), itertools.cycle(items), strict=False):
        key = uuid4()
        bag.append(KitItem(**_like(item, account_id=account.pk, key=key, name=f"{item.name[:50]} {number}")))
        counted.append(("kit", key))
    for table, made in rows.items():
        _keep(table, made)
    _keep(Outing, days)
    _keep(KitItem, bag)
    ledger, _ = Ledger.objects.get_or_create(account=account)
    revisions = [
        Revision(account=account, kind=kind, key=key, number=number, changed_at=START, write=uuid4())
        for number, (kind, key) in enumerate(counted, ledger.head + 1)
    ]
    _keep(Revision, revisions)
    ledger.head += len(revisions)
    ledger.save()


def main(words: list[str]) -> None:
    """Fill the demo account up to so many frames; or, told twice ``frames,outings,things``, a short and a long one."""
    if len(words) == 2:
        for name, told in zip(("short", "long"), words, strict=True):
            fill(User.objects.get(username=name), *map(int, told.split(",")))
    else:
        fill(User.objects.get(username="demo"), int(words[0]))


if __name__ == "__main__":
    main(sys.argv[1:])
