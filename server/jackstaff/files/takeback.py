"""Everything of an account out as an archive, and an archive taken back: whose keys, what it would change, keeping it.

What everybody starts with and nobody has touched gives way, so that an archive taken back elsewhere is the same there.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import IO, Any, Literal
from uuid import UUID, uuid5

from jackstaff.documents.frames import FRAMES
from jackstaff.documents.kit import KIT
from jackstaff.documents.looks import LOOKS
from jackstaff.documents.outings import OUTINGS
from jackstaff.documents.pictures import PICTURES, Picture
from jackstaff.documents.replication import begin_epoch, forget
from jackstaff.records.account import Account
from jackstaff.records.transactions import all_or_none
from jackstaff_core.gear import kitfile
from jackstaff_core.log.frame import Frame
from jackstaff_core.motion.looks import OwnLook
from jackstaff_core.outing.plan import Outing
from jackstaff_core.wire.reader import plain, read
from jackstaff_core.words.refusal import Refusal, Refusals

from . import archive, logfile
from .log_exchange import MOST_FAULTS, MOST_SHOWN, LogChanges, changes_to_log, checked, part_of_log


@dataclass(frozen=True, slots=True)
class Coming:
    """What an archive holds, each part by the same rules as one that is sent.

    ``aside`` is how many frames and plans lie aside in it, because the rules of the day it was written refused them.
    """

    frames: tuple[Frame, ...]
    things: tuple[kitfile.Item, ...]
    outings: tuple[Outing, ...]
    looks: Mapping[UUID, OwnLook]
    pictures: Mapping[UUID, Picture]
    aside: int


@dataclass(frozen=True, slots=True)
class BesideChange:
    """What an archive does to one thing, plan or look; ``stays``: the plan here was changed later."""

    sort: Literal["thing", "outing", "look"]
    name: str
    change: Literal["new", "changed", "removed", "stays"]


@dataclass(frozen=True, slots=True)
class ArchiveChanges:
    """What an archive holds, and what of it is new or changed here; beside the frames one by one, to the hundredth."""

    frames: LogChanges
    beside: tuple[BesideChange, ...]
    things: int
    outings: int
    looks: int
    pictures: int
    aside: int
    kept: bool


def everything(account: Account, part: int) -> bytes:
    """Return an account as an archive, one part of its log with the whole kit, every outing and look.

    What today's rules refuse lies aside in it, as it was kept.
    """
    frames, refused = part_of_log(account, part)
    plans, aside = [], {"frames": refused, "outings": list[Any]()}
    for plan in OUTINGS.of(account):
        try:
            plans.append(plain(read(Outing, plan)))
        except Refusals as refusals:
            aside["outings"].append({**plan, "refused": refusals.words})
    looks = [{"id": str(key), **look} for key, look in LOOKS.of(account).items()]
    pictures = PICTURES.each_of(account, [frame.id for frame in frames])
    return archive.written(KIT.of(account), [plain(frame) for frame in frames], plans, looks, pictures, aside)


def read_archive(file: IO[bytes]) -> Coming:
    """Read an archive whole.

    Raises
    ------
    Refusal, Refusals
        It is no archive of ours, or something in it is refused.
    """
    members = archive.read(file)
    return Coming(
        tuple(checked(logfile.from_json(members.log))),
        kitfile.read_kit(members.kit),
        _outings(members.outings),
        _looks(members.looks),
        members.pictures,
        members.aside,
    )


def for_account(account: Account, coming: Coming) -> Coming:
    """Return the same with keys of this account's own for frames that another account of this server has already.

    The same key always gives the same one, so that an archive which is taken back twice is taken back once.

    Raises
    ------
    Refusal
        A picture is of a frame that neither comes along nor is held.
    """
    theirs = FRAMES.of_others(account, [frame.id for frame in coming.frames])
    new = {key: uuid5(key, account.get_username()) for key in theirs}
    frames = tuple(replace(frame, id=new.get(frame.id, frame.id)) for frame in coming.frames)
    pictures = {new.get(key, key): picture for key, picture in coming.pictures.items()}
    held = FRAMES.keys_among(account, pictures) | {frame.id for frame in frames}
    for frame in pictures:
        if frame not in held:
            raise Refusal(f"file.pictures/{frame}", "This picture belongs to no frame of the log.", "Take it out.")
    return replace(coming, frames=frames, pictures=pictures)


def changes(account: Account, coming: Coming, kept: bool) -> ArchiveChanges:
    """Return what an archive would do to an account; ``kept`` is handed on."""
    return ArchiveChanges(
        changes_to_log(account, coming.frames, kept),
        tuple(_beside(account, coming)[:MOST_SHOWN]),
        len(coming.things),
        len(coming.outings),
        len(coming.looks),
        len(coming.pictures),
        coming.aside,
        kept,
    )


def keep(account: Account, coming: Coming) -> None:
    """Keep an archive: frames first, then kit, plans and looks together, then the pictures.

    Raises
    ------
    KeyTaken
        Another account took the key of a frame meanwhile; nothing is kept.
    """
    FRAMES.keep_all(account, coming.frames)
    with all_or_none(account):
        for key in KIT.untouched(account) - {thing.id for thing in coming.things}:
            forget(account, KIT, key)
        KIT.keep(account, coming.things)
        KIT.order(account, [thing.id for thing in coming.things])
        for outing in coming.outings:
            OUTINGS.keep(account, outing)
        LOOKS.keep(account, coming.looks)
        begin_epoch(account)
    PICTURES.keep_all(account, coming.pictures)


def _beside(account: Account, coming: Coming) -> list[BesideChange]:
    """Return what it would do beside the frames, one by one; what is the same is left out."""
    own = {item.id: item for item in KIT.of(account)}
    rows = [
        BesideChange("thing", change.name, "new" if change.change is kitfile.Difference.NEW else "changed")
        for change in kitfile.kit_changes(own.values(), coming.things)
        if change.change is not kitfile.Difference.SAME
    ]
    for key in KIT.untouched(account) - {item.id for item in coming.things}:
        rows.append(BesideChange("thing", own[key].name, "removed"))
    plans = OUTINGS.plans(account, [outing.id for outing in coming.outings])
    later_here = OUTINGS.later_here(account, coming.outings)
    for outing in coming.outings:
        if outing.id not in plans:
            rows.append(BesideChange("outing", outing.name, "new"))
        elif plans[outing.id] != OUTINGS.plain(outing):
            rows.append(BesideChange("outing", outing.name, "stays" if outing.id in later_here else "changed"))
    looks = LOOKS.contents(account, coming.looks)
    for key, look in coming.looks.items():
        if looks.get(key) != LOOKS.plain(look):
            rows.append(BesideChange("look", look.look, "changed" if key in looks else "new"))
    return rows


def _outings(documents: Sequence[Any]) -> tuple[Outing, ...]:
    try:
        return read(tuple[Outing, ...], list(documents))
    except Refusals as refusals:
        raise Refusals(refusals.under("outings").all[:MOST_FAULTS]) from None


def _looks(documents: Sequence[Any]) -> dict[UUID, OwnLook]:
    looks = {}
    for place, document in enumerate(documents):
        if not isinstance(document, dict):
            raise Refusal(f"looks.{place}", "This is no look.", "Give it as Jackstaff wrote it.")
        try:
            key = read(UUID, document.get("id"))
            looks[key] = read(OwnLook, {name: value for name, value in document.items() if name != "id"})
        except Refusals as refusals:
            raise refusals.under(f"looks.{place}") from None
    return looks
