"""Taking an archive back into an account: whose keys, what it would change, and keeping it.

What everybody starts with and nobody has touched gives way, so that an archive taken back elsewhere is the same there.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID, uuid5

from django.contrib.auth.models import User

from jackstaff_core.gear import kitfile
from jackstaff_core.log.frame import Frame
from jackstaff_core.outing.plan import Outing
from jackstaff_core.wire.reader import plain
from jackstaff_core.words.refusal import Refusal

from .archive import Held
from .frames import CHUNK, batched
from .kit import forget_item, keep_items, kit_of, order_items, untouched
from .looks import looks_of, write_look
from .models import Frame as Row
from .models import FramePicture
from .outings import keep_outing, rows_of, stays
from .replication import DocKind, begin_epoch, stamp
from .writing import all_or_none


def belongs(account: User, held: Held, coming: set[UUID]) -> None:
    """Nothing where every picture is of a frame that comes along or is held already.

    Raises
    ------
    Refusal
        A picture of a frame that is not there.
    """
    rest = [frame for frame in held.pictures if frame not in coming]
    own = {
        key for keys in batched(rest, CHUNK) for key in account.frames.filter(pk__in=keys).values_list("pk", flat=True)
    }
    for frame in rest:
        if frame not in own:
            raise Refusal(f"file.pictures/{frame}", "This picture belongs to no frame of the log.", "Take it out.")


def own_keys(account: User, held: Held, frames: Sequence[Frame]) -> tuple[Held, list[Frame]]:
    """The same, with keys of this account's own for frames that another account of this server has already.

    The same key always gives the same one, so that an archive which is taken back twice is taken back once.
    """
    theirs = {
        key
        for keys in batched((frame.id for frame in frames), CHUNK)
        for key in Row.objects.filter(pk__in=keys).exclude(account=account).values_list("pk", flat=True)
    }
    new = {key: uuid5(key, account.get_username()) for key in theirs}
    pictures = {new.get(key, key): picture for key, picture in held.pictures.items()}
    return replace(held, pictures=pictures), [replace(frame, id=new.get(frame.id, frame.id)) for frame in frames]


@dataclass(frozen=True, slots=True)
class Change:
    """What an archive would do to one thing, plan or look; a plan that was changed later here stays."""

    sort: str
    name: str
    change: str


def changes(
    account: User, things: Sequence[kitfile.Item], plans: Sequence[Outing], looks: Mapping[UUID, dict[str, Any]]
) -> list[Change]:
    """What it would do beside the frames, one by one; what is the same is left out."""
    own = {item.id: item for item in kit_of(account)}
    changes = kitfile.changes(own.values(), things)
    found = [Change("thing", each.item.name, each.change) for each in changes if each.change is not kitfile.Change.SAME]
    for key in untouched(account) - {item.id for item in things}:
        found.append(Change("thing", own[key].name, "removed"))
    here = rows_of(account, [plan.id for plan in plans])
    for plan in plans:
        held, coming = here.get(plan.id), dict(plain(plan))
        if held is None:
            found.append(Change("outing", plan.name, "new"))
        elif held.plan != coming:
            found.append(Change("outing", plan.name, "stays" if stays(held, coming) else "changed"))
    own_looks = looks_of(account, looks)
    for key, look in looks.items():
        if own_looks.get(key) != look:
            found.append(Change("look", str(look["look"]), "changed" if key in own_looks else "new"))
    return found


def keep(
    account: User,
    held: Held,
    things: Sequence[kitfile.Item],
    plans: Sequence[Outing],
    looks: Mapping[UUID, dict[str, Any]],
) -> None:
    """Keep kit, plans, looks and pictures, after the frames: each sort together, pictures some hundred at a time."""
    with all_or_none(account):
        for key in untouched(account) - {thing.id for thing in things}:
            forget_item(account, key)
        keep_items(account, things)
        order_items(account, [thing.id for thing in things])
        for plan in plans:
            keep_outing(account, plan.id, plain(plan))
        for key, look in looks.items():
            write_look(account, key, look)
        stamp(account, DocKind.LOOK, looks)
        begin_epoch(account)
    for keys in batched(held.pictures, CHUNK):
        with all_or_none(account):
            FramePicture.objects.bulk_create(
                (FramePicture(frame_id=key, small=held.pictures[key][0], tones=held.pictures[key][1]) for key in keys),
                update_conflicts=True,
                unique_fields=["frame"],
                update_fields=["small", "tones"],
            )
            stamp(account, DocKind.FRAME, keys)
