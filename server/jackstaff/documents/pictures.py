"""Pictures: a small copy beside a frame and how its tones lie, never the file itself."""

from __future__ import annotations

import base64
from collections.abc import Iterable, Iterator, Mapping
from typing import Any
from uuid import UUID

from jackstaff.records.account import Account
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import Frame, FramePicture
from jackstaff.records.transactions import all_or_none
from jackstaff_core.wire.reader import plain
from jackstaff_imaging.digest import Digest

from .kind import CHUNK, batched
from .replication import stamp

Picture = tuple[bytes, dict[str, Any]]
"""A small JPEG and the tones."""


class Pictures:
    """The pictures beside an account's frames, by the frames' keys."""

    def shown(self, account: Account, frame: UUID) -> dict[str, Any] | None:
        """Return the picture of a frame with its small copy in base64; None where there is none."""
        row = FramePicture.objects.filter(frame__account=account, frame_id=frame).first()
        return None if row is None else {**row.tones, "small": base64.b64encode(row.small).decode("ascii")}

    def each_of(self, account: Account, frames: Iterable[UUID]) -> Iterator[tuple[UUID, Picture]]:
        """Yield the pictures of these frames, in the order of their keys."""
        for keys in batched(sorted(frames), CHUNK):
            for row in FramePicture.objects.filter(frame__account=account, frame_id__in=keys).order_by("frame_id"):
                yield row.frame_id, (bytes(row.small), row.tones)

    def keep(self, account: Account, frame: UUID, digest: Digest) -> bool:
        """Keep a digest beside a frame in place of the one before; return False where there is no such frame."""
        tones = {name: value for name, value in plain(digest).items() if name != "small"}
        columns = {"small": base64.b64decode(digest.small), "tones": tones}
        with all_or_none(account):
            if not Frame.objects.filter(account=account, pk=frame).exists():
                return False
            FramePicture.objects.update_or_create(frame_id=frame, defaults=columns)
            stamp(account, DocKind.FRAME, [frame])
        return True

    def keep_all(self, account: Account, pictures: Mapping[UUID, Picture]) -> None:
        """Keep many beside frames that are held, some hundred at a time."""
        for keys in batched(pictures, CHUNK):
            with all_or_none(account):
                FramePicture.objects.bulk_create(
                    (FramePicture(frame_id=key, small=pictures[key][0], tones=pictures[key][1]) for key in keys),
                    update_conflicts=True,
                    unique_fields=["frame"],
                    update_fields=["small", "tones"],
                )
                stamp(account, DocKind.FRAME, keys)

    def forget(self, account: Account, frame: UUID) -> bool:
        """Forget a frame's picture; return False where there is none."""
        with all_or_none(account):
            deleted, _ = FramePicture.objects.filter(frame__account=account, frame_id=frame).delete()
            if deleted:
                stamp(account, DocKind.FRAME, [frame])
        return deleted > 0


PICTURES = Pictures()
