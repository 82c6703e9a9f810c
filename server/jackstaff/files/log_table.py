"""Which columns the log has as a table: they come from the frame's own type, and from nowhere else.

What stands under reading, settings, answer and review has a column each; every other part has one, with JSON in its
cells where it is no text. Under a review everything is JSON, so that an empty cell is nothing said.
"""

from __future__ import annotations

import dataclasses
import typing
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Any
from uuid import UUID

from jackstaff_core.log.frame import Frame
from jackstaff_core.wire.reader import parted, parts

_OPENED = ("reading", "settings", "answer", "review")
"""Parts of a frame with a column for each of their own parts."""
_TEXT = (str, datetime, UUID, StrEnum)


@dataclass(frozen=True, slots=True)
class Column:
    """A column of the table.

    ``path`` is where its cells stand in a frame, ``was`` what the column was called in files of earlier days.
    ``text`` cells hold the text itself, others JSON; an empty one means ``empty``. Files from before the column was
    there lack it where it ``may_lack``. ``missing_part`` is the part that is missing where all its columns are empty.
    """

    path: str
    was: str | None
    text: bool
    empty: str | None
    may_lack: bool
    missing_part: str | None


def columns_of(frame_type: type[Frame] = Frame) -> tuple[Column, ...]:
    """Return the columns of a frame's type, those of text first, each kind in the type's own order."""
    columns = [column for part in parts(frame_type) for column in _columns(part)]
    return tuple(sorted(columns, key=lambda column: not column.text))


def _columns(part: Any) -> list[Column]:
    kind, optional = _bare(part.hint)
    if part.called not in _OPENED or not dataclasses.is_dataclass(kind):
        return [_column(part, "", None)]
    return [_column(inner, f"{part.called}.", part.called if optional else None) for inner in parts(kind)]


def _column(part: Any, under: str, missing_part: str | None) -> Column:
    kind, optional = _bare(part.hint)
    text = missing_part is None and isinstance(kind, type) and issubclass(kind, _TEXT)
    was = f"{under}{part.was}" if part.was else None
    # A text that need not be given and yet is never None is an empty one.
    empty = "" if text and not part.required and not optional else None
    may_lack = missing_part is not None or not part.required
    return Column(f"{under}{part.called}", was, text, empty, may_lack, missing_part)


def _bare(hint: Any) -> tuple[Any, bool]:
    """Return the type that a hint names, and whether None is one of its values."""
    plain, _ = parted(hint)
    members = typing.get_args(plain)
    optional = type(None) in members
    rest = [member for member in members if member is not type(None)]
    return (parted(rest[0])[0] if optional and len(rest) == 1 else plain), optional
