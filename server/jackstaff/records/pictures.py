"""What is kept of a picture beside a frame: a small copy and its tones, never the file itself."""

from __future__ import annotations

import base64
from typing import Any
from uuid import UUID

from django.contrib.auth.models import User
from django.db.models import QuerySet

from .models import Frame, FramePicture
from .replication import DocKind, stamp
from .writing import all_or_none


def pictures_of(account: User) -> QuerySet[FramePicture]:
    """The account's pictures, in the order of their frames' keys."""
    return FramePicture.objects.filter(frame__account=account).order_by("frame_id")


def picture_of(account: User, frame: UUID) -> dict[str, Any] | None:
    """The picture of a frame, its small copy in base64; None when there is none."""
    held = pictures_of(account).filter(frame_id=frame).first()
    return None if held is None else {**held.tones, "small": base64.b64encode(held.small).decode("ascii")}


def keep_picture(account: User, frame: UUID, digest: dict[str, Any]) -> bool:
    """Keep a digest beside a frame in place of the one before; False when the account has no such frame."""
    tones = {name: value for name, value in digest.items() if name != "small"}
    columns = {"small": base64.b64decode(digest["small"]), "tones": tones}
    with all_or_none(account):
        if not Frame.objects.filter(account=account, pk=frame).exists():
            return False
        FramePicture.objects.update_or_create(frame_id=frame, defaults=columns)
        stamp(account, DocKind.FRAME, [frame])
    return True


def forget_picture(account: User, frame: UUID) -> bool:
    """Forget a frame's picture; False when there is none."""
    with all_or_none(account):
        deleted, _ = pictures_of(account).filter(frame_id=frame).delete()
        if deleted:
            stamp(account, DocKind.FRAME, [frame])
    return deleted > 0
