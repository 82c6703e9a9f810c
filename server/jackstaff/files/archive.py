"""Everything of an account in one ZIP archive, and back again, identical.

    jackstaff.json      {"format": "jackstaff-account", "version": 1}
    log.json            the log file        kit.json      the kit file        outings.json      the plans
    pictures/<frame>.jpg, pictures/<frame>.json      the small copy and the tones beside a frame
    aside.json          where there is any: frames and plans that today's rules refuse, as they were kept. They are
                        carried out so that nothing is lost, and are not taken back; their pictures stay out.

A long log goes out in parts of as many frames as a log file holds, each an archive that comes back alone.

Nothing is unpacked to the disk: only these names are known, each once, bounded before
and while it is read. Writing the same account twice gives the same bytes.
"""

from __future__ import annotations

import io
import json
import re
import zipfile
import zlib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import IO, Any
from uuid import UUID

from PIL import Image

from jackstaff.documents.pictures import Picture
from jackstaff_core.gear import kitfile
from jackstaff_core.words.refusal import Refusal

from . import logfile

FORMAT, VERSION = "jackstaff-account", 1
MOST_MEMBERS = 45_000
MOST_BYTES = 400_000_000
"""An archive is never larger than this, packed or unpacked, so that what is written can be taken back."""
MOST_OUTINGS, MOST_LOOKS = 10_000, 1000
_MOST_SMALL, _MOST_TONES, _MOST_TEXT = 200_000, 20_000, 100_000_000
_PICTURE = re.compile(r"pictures/([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})\.(jpg|json)")
_TEXTS = ("jackstaff.json", "log.json", "kit.json", "outings.json")
_LOOKS, _ASIDE = "looks.json", "aside.json"
_DAY_ONE = (1980, 1, 1, 0, 0, 0)
_UNSOUND = (
    zipfile.BadZipFile,
    zipfile.LargeZipFile,
    zlib.error,
    NotImplementedError,
    RuntimeError,
    EOFError,
    OSError,
    ValueError,
)
"""What reading a damaged, encrypted or cut off archive raises, member by member."""
_MOST_TONE = 1e9
"""A share or a number of stops is far below this; what is no number at all is not."""
_CHANNELS = ("red", "green", "blue")


@dataclass(frozen=True, slots=True)
class Members:
    """What an archive holds, its pictures by frame: the small JPEG and the tones."""

    log: str
    kit: str
    outings: list[Any]
    looks: list[Any]
    pictures: dict[UUID, Picture]
    aside: int
    """How many frames and plans lie aside in it."""


def written(
    things: Sequence[kitfile.Item],
    frames: Sequence[logfile.Document],
    outings: Sequence[logfile.Document],
    looks: Sequence[logfile.Document],
    pictures: Iterable[tuple[UUID, Picture]],
    aside: dict[str, list[Any]],
) -> bytes:
    """Return an archive of these things, documents and pictures, with what is refused ``aside``.

    Raises
    ------
    Refusal
        More than an archive or a log file holds.
    """
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        _add(archive, "jackstaff.json", json.dumps({"format": FORMAT, "version": VERSION}))
        _add(archive, "log.json", logfile.as_json(frames))
        _add(archive, "kit.json", kitfile.write_kit(things))
        _add(archive, "outings.json", json.dumps(list(outings), indent=1, ensure_ascii=False, sort_keys=True))
        if looks:
            _add(archive, _LOOKS, json.dumps(list(looks), indent=1, ensure_ascii=False, sort_keys=True))
        if any(aside.values()):
            _add(archive, _ASIDE, json.dumps(aside, indent=1, ensure_ascii=False, sort_keys=True))
        for frame, (small, tones) in pictures:
            _add(archive, f"pictures/{frame}.jpg", small)
            _add(archive, f"pictures/{frame}.json", json.dumps(tones, sort_keys=True))
    if out.tell() > MOST_BYTES:
        raise Refusal("pictures", "Everything together is more than an archive holds.", "Forget pictures not needed.")
    return out.getvalue()


def read(file: IO[bytes]) -> Members:
    """Return the contents of an archive; frames, things and plans are still to be checked one by one.

    Raises
    ------
    Refusal
        No archive of ours, a name it should not have, or more than is allowed.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            members = archive.infolist()
            _known(members)
            texts = {name: _text(archive, name) for name in _TEXTS}
            names = {member.filename for member in members}
            pictures = _pictures(archive, names)
            looks = _list(_LOOKS, _text(archive, _LOOKS), MOST_LOOKS) if _LOOKS in names else []
            aside = _aside(_text(archive, _ASIDE)) if _ASIDE in names else 0
    except Refusal:
        raise
    except _UNSOUND:
        raise Refusal("file", "This file is no sound ZIP archive.", "Give the archive as Jackstaff wrote it.") from None
    about = _json("jackstaff.json", texts["jackstaff.json"])
    if about != {"format": FORMAT, "version": VERSION}:
        raise Refusal("file.jackstaff.json", "This archive is of another sort or version.", "Give one of this version.")
    outings = _list("outings.json", texts["outings.json"], MOST_OUTINGS)
    return Members(texts["log.json"], texts["kit.json"], outings, looks, pictures, aside)


def _add(archive: zipfile.ZipFile, name: str, content: str | bytes) -> None:
    info = zipfile.ZipInfo(name, _DAY_ONE)
    info.compress_type = zipfile.ZIP_STORED if name.endswith(".jpg") else zipfile.ZIP_DEFLATED
    info.external_attr = 0o600 << 16
    archive.writestr(info, content)


def _known(members: Sequence[zipfile.ZipInfo]) -> None:
    names = [member.filename for member in members]
    if len(names) > MOST_MEMBERS or sum(member.file_size for member in members) > MOST_BYTES:
        raise Refusal(
            "file", "This archive unpacks to more than is allowed.", f"Keep it under {MOST_BYTES // 10**6} MB."
        )
    for name in names:
        if name not in (*_TEXTS, _LOOKS, _ASIDE) and not _PICTURE.fullmatch(name):
            raise Refusal("file", f"'{name[:60]}' has no place in this archive.", "Give it as Jackstaff wrote it.")
    if len(set(names)) != len(names):
        raise Refusal("file", "A name stands in this archive twice.", "Give it as Jackstaff wrote it.")
    missing = [name for name in _TEXTS if name not in names]
    if missing:
        raise Refusal("file", f"{missing[0]} is missing.", "Give the archive as Jackstaff wrote it.")


def _member(archive: zipfile.ZipFile, name: str, most: int) -> bytes:
    # What the directory claims is not trusted: reading stops at the bound.
    with archive.open(name) as member:
        content = member.read(most + 1)
    if len(content) > most:
        raise Refusal(f"file.{name}", "This part is larger than it may be.", "Give it as Jackstaff wrote it.")
    return content


def _text(archive: zipfile.ZipFile, name: str) -> str:
    try:
        return logfile.sized(f"file.{name}", _member(archive, name, _MOST_TEXT).decode("utf-8"))
    except UnicodeDecodeError:
        raise Refusal(f"file.{name}", "This part is no text in UTF-8.", "Give it as Jackstaff wrote it.") from None


def _list(name: str, text: str, most: int) -> list[Any]:
    found = _json(name, text)
    if not isinstance(found, list) or len(found) > most:
        raise Refusal(f"file.{name}", "This is no list, or a longer one than is taken.", f"Give up to {most}.")
    return found


def _aside(text: str) -> int:
    found = _json(_ASIDE, text)
    lists = [found.get("frames"), found.get("outings")] if isinstance(found, dict) else [None]
    if not all(isinstance(each, list) for each in lists):
        raise Refusal(f"file.{_ASIDE}", "This is no list of what lies aside.", "Give it as Jackstaff wrote it.")
    return sum(len(each or []) for each in lists)


def _pictures(archive: zipfile.ZipFile, names: set[str]) -> dict[UUID, Picture]:
    found = {}
    for name in sorted(names):
        match = _PICTURE.fullmatch(name)
        if not match or match[2] != "jpg":
            if match and f"pictures/{match[1]}.jpg" not in names:
                raise Refusal(f"file.{name}", "The picture of these tones is missing.", "Give it as it was written.")
            continue
        beside = f"pictures/{match[1]}.json"
        if beside not in names:
            raise Refusal(f"file.{name}", "The tones of this picture are missing.", "Give it as it was written.")
        small = _member(archive, name, _MOST_SMALL)
        tones = _json(beside, _member(archive, beside, _MOST_TONES).decode("utf-8", "replace"))
        if not _sound(small) or not _tones(tones):
            raise Refusal(f"file.{name}", "This picture or its tones are damaged.", "Give it as Jackstaff wrote it.")
        found[UUID(match[1])] = (small, tones)
    return found


def _sound(small: bytes) -> bool:
    try:
        with Image.open(io.BytesIO(small), formats=["JPEG"]) as image:
            if max(image.size) > 1000:
                return False
            image.load()
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return False
    return True


def _tones(tones: Any) -> bool:
    if not isinstance(tones, dict) or set(tones) != {*_CHANNELS, "bin_stops", "clipped", "black", "median_stops"}:
        return False
    lists = [tones[name] for name in (*_CHANNELS, "clipped")]
    flat = [*(entry for each in lists if isinstance(each, list) for entry in each)]
    singles = [tones["bin_stops"], tones["black"], tones["median_stops"]]
    sound = all(
        isinstance(entry, int | float) and not isinstance(entry, bool) and abs(entry) < _MOST_TONE
        for entry in (*flat, *singles)
    )
    return sound and all(isinstance(each, list) and len(each) <= 64 for each in lists)


def _json(name: str, text: str) -> Any:
    try:
        return json.loads(text)
    except (ValueError, RecursionError):
        raise Refusal(f"file.{name}", "This part is no JSON.", "Give it as Jackstaff wrote it.") from None
