"""JSON to the core's types and back: every bound, unit and choice stands once, in the type itself.

A question is a frozen dataclass. What a field may hold is said by its annotation: the plain type, and beside it in
``Annotated`` its marks (wire/marks.py). From these come the reader (a refusal for each thing that is wrong, with its
dotted place), the writer, and the JSON Schema. Standard library only, so that a browser's worker reads as the server
does.
"""

from __future__ import annotations

import dataclasses
import math
import re
import types
import typing
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime
from enum import Enum
from functools import cache
from typing import Annotated, Any, Literal, TypeVar
from uuid import UUID

from ..words.refusal import Refusal, Refusals, within
from . import facts
from .marks import Between, Checked, Inline, Matches, Named, Size, Tagged, Was

T = TypeVar("T")
Reader = Callable[[Any, str], Any]


FIRST_YEAR, LAST_YEAR = 1900, 2200
"""Calendars end, and adding to their ends overflows: instants and days are of our times."""


# Reading.


def read(kind: type[T], value: Any) -> T:
    """Return ``value`` as JSON has it into ``kind``.

    Raises
    ------
    Refusals
        Everything that is wrong, each with its place.
    """
    try:
        found: T = _reader(kind)(value, "")
    except Refusal as refusal:
        raise Refusals([refusal]) from None
    return found


def _reader(hint: Any) -> Reader:
    return _made(hint)


@cache
def _made(hint: Any) -> Reader:
    plain, marks = parted(hint)
    tagged = next((mark for mark in marks if isinstance(mark, Tagged)), None)
    if tagged is not None:
        return _checked(_optional(plain, _tagged_reader(tagged)), marks)
    if is_union(plain):
        members = [get_arg for get_arg in typing.get_args(plain) if get_arg is not type(None)]
        inner = _reader(narrowed(members[0], marks)) if len(members) == 1 else _either(members, marks)
        return _optional(plain, inner)
    return _checked(_plain_reader(plain, marks), marks)


def _plain_reader(plain: Any, marks: tuple[Any, ...]) -> Reader:
    origin = typing.get_origin(plain)
    if simple := _SIMPLE.get(plain):
        return simple(marks)
    if origin is Literal:
        return _one_of(typing.get_args(plain))
    if origin in (tuple, frozenset, list):
        return _list_reader(plain, origin, marks)
    if origin is not None and issubclass(origin, Mapping):
        return _map_reader(plain, marks)
    if isinstance(plain, type) and issubclass(plain, Enum):
        return _choice_reader(plain)
    if isinstance(plain, type) and hasattr(plain, "from_json"):
        return lambda value, path: _placed(lambda: plain.from_json(_object(value, path)), path)
    if is_described(plain):
        return lambda value, path: _placed(lambda: facts.read_thing(plain, _object(value, path)), path)
    if dataclasses.is_dataclass(plain):
        return _record_reader(typing.cast(type, plain))
    raise TypeError(f"{plain} has no shape in JSON")


def _number_reader(marks: tuple[Any, ...]) -> Reader:
    span = next((mark for mark in marks if isinstance(mark, Between)), None)

    def number(value: Any, path: str) -> float:
        if isinstance(value, bool) or not isinstance(value, int | float) or not -1e308 < value < 1e308:
            raise _wrong(path, "is not a number.", "Give a plain number.")
        return float(value) if span is None else _within(path, float(value), span)

    return number


def _within(path: str, value: float, span: Between) -> float:
    within(path, value, span.low, span.high, span.unit)
    if span.above and value <= span.low:
        raise Refusal(path, f"'{path}' is not above {span.low:g}.", f"Give more than {span.low:g} {span.unit}.".strip())
    return value


def _whole_reader(marks: tuple[Any, ...]) -> Reader:
    span = next((mark for mark in marks if isinstance(mark, Between)), Between(-(2**53), 2**53))

    def whole(value: Any, path: str) -> int:
        if isinstance(value, bool) or not isinstance(value, int):
            raise _wrong(path, "is not a whole number.", "Give a whole number.")
        if not span.low <= value <= span.high:
            raise _wrong(path, "is out of bounds.", f"Give a whole number from {span.low:g} to {span.high:g}.")
        return value

    return whole


def _flag(value: Any, path: str) -> bool:
    if not isinstance(value, bool):
        raise _wrong(path, "is not a yes or a no.", "Give true or false.")
    return value


_NO_LETTER = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ud800-\udfff]")
"""Controls that are neither tab nor end of line, and halves of pairs."""


def _text_reader(marks: tuple[Any, ...]) -> Reader:
    size = next((mark for mark in marks if isinstance(mark, Size)), Size())
    matches = next((mark for mark in marks if isinstance(mark, Matches)), None)
    pattern = re.compile(matches.pattern) if matches else None

    def text(value: Any, path: str) -> str:
        if not isinstance(value, str):
            raise _wrong(path, "is not a text.", "Give it in quotes.")
        if not size.least <= len(value) <= size.most:
            raise _wrong(path, "is too short or too long.", f"Give {size.least} to {size.most} letters.")
        if _NO_LETTER.search(value):
            raise _wrong(path, "holds what is no letter.", "Type it again.")
        if matches and pattern and not pattern.fullmatch(value):
            raise _wrong(path, "is not written as it has to be.", matches.instead)
        return value

    return text


def _instant(value: Any, path: str) -> datetime:
    # A database hands back what it has read already.
    if not isinstance(value, str | datetime):
        raise _wrong(path, "is no instant.", "Write it out, like 2027-04-17T04:30:00Z.")
    try:
        found = value if isinstance(value, datetime) else datetime.fromisoformat(value)
    except ValueError:
        raise _wrong(path, "is no instant.", "Write it like 2027-04-17T04:30:00Z.") from None
    if found.tzinfo is None:
        raise _wrong(path, "has no zone.", "Write it like 2027-04-17T04:30:00Z.")
    if not FIRST_YEAR <= found.year <= LAST_YEAR:
        raise _wrong(path, "lies too far away.", f"Give an instant between the years {FIRST_YEAR} and {LAST_YEAR}.")
    return found.astimezone(UTC)


def _day(value: Any, path: str) -> date:
    found: date = _parsed(date.fromisoformat, "is no date.", "Write it like 2027-04-17.")(value, path)
    if not FIRST_YEAR <= found.year <= LAST_YEAR:
        raise _wrong(path, "lies too far away.", f"Give a day between the years {FIRST_YEAR} and {LAST_YEAR}.")
    return found


def _parsed(parse: Callable[[str], Any], problem: str, instead: str) -> Reader:
    def parsed(value: Any, path: str) -> Any:
        try:
            return value if isinstance(value, UUID) else parse(value if isinstance(value, str) else "")
        except ValueError:
            raise _wrong(path, problem, instead) from None

    return parsed


def _one_of(allowed: tuple[Any, ...]) -> Reader:
    listed = " or ".join(f"'{each}'" for each in allowed)

    def chosen(value: Any, path: str) -> Any:
        if not isinstance(value, str) or value not in allowed:
            raise _wrong(path, "has an unknown value.", f"Give {listed}.")
        return value

    return chosen


def _choice_reader(kind: type[Enum]) -> Reader:
    read_one = _one_of(tuple(each.value for each in kind))
    return lambda value, path: kind(read_one(value, path))


def _either(members: list[Any], marks: tuple[Any, ...]) -> Reader:
    """Return text or number (a dial's mark or a literal), or a number or a map of them."""
    readers = {
        ("text" if parted(member)[0] is str else "map" if typing.get_origin(member) else "number"): member
        for member in members
    }
    by_kind = {name: _reader(narrowed(reader, marks)) for name, reader in readers.items()}
    dial = "text" in by_kind

    def either(value: Any, path: str) -> Any:
        if isinstance(value, str) and dial:
            return by_kind["text"](value, path)
        if isinstance(value, dict) and "map" in by_kind:
            return by_kind["map"](value, path)
        try:
            return by_kind["number"](value, path)
        except Refusal:
            if dial and (isinstance(value, bool) or not isinstance(value, int | float) or not -1e308 < value < 1e308):
                raise _wrong(
                    path, "is neither a dial mark nor a number.", 'Give a mark in quotes like "1/60", or a number.'
                ) from None
            raise

    return either


def _list_reader(plain: Any, origin: Any, marks: tuple[Any, ...]) -> Reader:
    members = typing.get_args(plain)
    size = next((mark for mark in marks if isinstance(mark, Size)), Size())
    if origin is tuple and members[-1] is not Ellipsis:
        readers = [_reader(member) for member in members]
        size = Size(len(members), len(members))
    else:
        readers = [_reader(members[0])]

    def entries(value: Any, path: str) -> Any:
        if not isinstance(value, list):
            raise _wrong(path, "is not a list.", "Give a list in brackets.")
        if not size.least <= len(value) <= size.most:
            count = f"{size.least}" if size.least == size.most else f"{size.least} to {size.most}"
            raise _wrong(path, f"has {len(value)} entries.", f"Give {count}.")
        found, wrong = [], []
        for place, each in enumerate(value):
            try:
                found.append(readers[place if len(readers) > 1 else 0](each, _joined(path, str(place))))
            except (Refusal, Refusals) as refused:
                wrong += _all(refused)
        if wrong:
            raise Refusals(wrong)
        return origin(found)

    return entries


def _map_reader(plain: Any, marks: tuple[Any, ...]) -> Reader:
    key, member = (_reader(get_arg) for get_arg in typing.get_args(plain))
    size = next((mark for mark in marks if isinstance(mark, Size)), Size())

    def entries(value: Any, path: str) -> dict[Any, Any]:
        given = _object(value, path)
        if len(given) > size.most:
            raise _wrong(path, f"has {len(given)} entries.", f"Give up to {size.most}.")
        return {key(name, path): member(each, _joined(path, name[:40])) for name, each in given.items()}

    return entries


@dataclass(frozen=True, slots=True)
class _Part:
    """A field of a record: its names on both sides, the one of earlier days, and whether it may be left out."""

    name: str
    called: str
    was: str | None
    hint: Any
    required: bool
    default: Any
    inline: type | None


def parts(kind: Any) -> tuple[_Part, ...]:
    """Return the fields of a dataclass that JSON carries, in their order."""
    return _parts(kind)


@cache
def _parts(kind: Any) -> tuple[_Part, ...]:
    hints = typing.get_type_hints(kind, include_extras=True)
    found = []
    for field in dataclasses.fields(kind):
        plain, marks = parted(hints[field.name])
        named = next((mark.name for mark in marks if isinstance(mark, Named)), field.name)
        was = next((mark.name for mark in marks if isinstance(mark, Was)), None)
        inline = plain if any(isinstance(mark, Inline) for mark in marks) else None
        required = field.default is dataclasses.MISSING and field.default_factory is dataclasses.MISSING
        made = field.default_factory
        default = field.default if made is dataclasses.MISSING else made()
        found.append(_Part(field.name, named, was, hints[field.name], required, None if required else default, inline))
    return tuple(found)


def _record_reader(kind: type) -> Reader:
    own = [(part, None if part.inline else _reader(part.hint)) for part in parts(kind)]
    known = _names(kind)
    renamed = {part.was: part.called for part in parts(kind) if part.was}

    def record(value: Any, path: str) -> Any:
        given = _object(value, path)
        if not renamed.keys().isdisjoint(given):
            given = {_today(name, renamed, given): each for name, each in given.items()}
        wrong: list[Refusal] = []
        values: dict[str, Any] = {}
        for name in given:
            if name not in known:
                wrong.append(_wrong(_joined(path, name[:40]), "is not a part of this question.", "Leave it out."))
        for part, reader in own:
            try:
                if part.inline:
                    names = _names(part.inline)
                    mine = {name: each for name, each in given.items() if name in names}
                    values[part.name] = _reader(part.inline)(mine, path)
                elif part.called in given:
                    values[part.name] = reader(given[part.called], _joined(path, part.called))  # type: ignore[misc]
                elif part.required:
                    wrong.append(_wrong(_joined(path, part.called), "is missing.", "Give it."))
            except (Refusal, Refusals) as refused:
                wrong += _all(refused)
        if wrong:
            raise Refusals(wrong)
        return _placed(lambda: kind(**values), path)

    return record


def _today(name: str, renamed: Mapping[str, str], given: Mapping[str, Any]) -> str:
    """Return what a field is called today, where it does not stand under today's name as well."""
    called = renamed.get(name, name)
    return name if called in given else called


def _tagged_reader(tagged: Tagged) -> Reader:
    readers = {name: _reader(kind) for name, kind in tagged.shapes}
    which = _one_of(tuple(readers))

    def shaped(value: Any, path: str) -> Any:
        given = dict(_object(value, path))
        at = _joined(path, tagged.by)
        if tagged.by not in given:
            raise _wrong(at, "is missing.", "Give it.")
        return readers[which(given.pop(tagged.by), at)](given, path)

    return shaped


def _names(kind: type) -> set[str]:
    """Return every name a record has in JSON, those of inlined parts among them."""
    return {name for part in parts(kind) for name in (_names(part.inline) if part.inline else (part.called,))}


def _optional(plain: Any, inner: Reader) -> Reader:
    if not is_union(plain) or type(None) not in typing.get_args(plain):
        return inner
    return lambda value, path: None if value is None else inner(value, path)


def _checked(inner: Reader, marks: tuple[Any, ...]) -> Reader:
    looks = [mark.by for mark in marks if isinstance(mark, Checked)]
    if not looks:
        return inner

    def checked(value: Any, path: str) -> Any:
        found = inner(value, path)
        for look in looks:
            _placed(lambda look=look: look(found), path)  # type: ignore[misc]
        return found

    return checked


def _placed(make: Callable[[], T], path: str) -> T:
    try:
        return make()
    except (Refusal, Refusals) as refused:
        raise Refusals([_under(each, path) for each in _all(refused)]) from None


def _under(refusal: Refusal, path: str) -> Refusal:
    """Return a refusal seen from the question.

    A type that names itself by what it is called there is not named twice.
    """
    if not path:
        return refusal
    own = path.rpartition(".")[2] + "."
    return Refusal(refusal.field.removeprefix(own), refusal.problem, refusal.instead).under(path)


def _object(value: Any, path: str) -> dict[str, Any]:
    if not isinstance(value, dict):
        raise _wrong(path or "body", "is not an object.", "Give it in braces, with names.")
    return value


def _all(refused: Refusal | Refusals) -> list[Refusal]:
    return list(refused.all) if isinstance(refused, Refusals) else [refused]


def _wrong(path: str, problem: str, instead: str) -> Refusal:
    return Refusal(path, f"'{path}' {problem}", instead)


def _joined(path: str, name: str) -> str:
    return f"{path}.{name}" if path else name


def parted(hint: Any) -> tuple[Any, tuple[Any, ...]]:
    """Return a type without its marks, and the marks, those of the innermost ``Annotated`` first."""
    if typing.get_origin(hint) is Annotated:
        plain, *marks = typing.get_args(hint)
        inner, more = parted(plain)
        return inner, (*more, *marks)
    return hint, ()


def narrowed(hint: Any, marks: tuple[Any, ...]) -> Any:
    """Return the type with those marks that bound it; what only names a field stays behind."""
    own = tuple(mark for mark in marks if not isinstance(mark, Named | Was))
    return Annotated[(hint, *own)] if own else hint


def is_union(plain: Any) -> bool:
    """Return whether it is one of several types."""
    return typing.get_origin(plain) in (types.UnionType, typing.Union)


def is_described(plain: Any) -> bool:
    """Return whether it is a dataclass of facts, as a thing of a kit is."""
    return dataclasses.is_dataclass(plain) and all("fact" in field.metadata for field in dataclasses.fields(plain))


_SIMPLE: dict[Any, Callable[[tuple[Any, ...]], Reader]] = {
    Any: lambda _: lambda value, _path: value,
    float: _number_reader,
    int: _whole_reader,
    bool: lambda _: _flag,
    str: _text_reader,
    datetime: lambda _: _instant,
    date: lambda _: _day,
    UUID: lambda _: _parsed(UUID, "is no key.", "Give a UUID."),
}


# Writing.


def plain(value: Any, *, drop_none: bool = False) -> Any:
    """Return ``value`` as JSON has it; ``drop_none`` leaves out what is None."""

    def again(value: Any) -> Any:
        return plain(value, drop_none=drop_none)

    if value is None or (isinstance(value, bool | int | str) and not isinstance(value, Enum)):
        return value
    if isinstance(value, float):
        return value if math.isfinite(value) else None
    if isinstance(value, Enum):
        return value.value
    if isinstance(value, datetime):
        return value.isoformat().replace("+00:00", "Z")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, UUID):
        return str(value)
    if hasattr(value, "to_json"):
        return again(value.to_json())
    if isinstance(value, Mapping):
        return {str(again(name)): again(each) for name, each in value.items()}
    if isinstance(value, list | tuple | frozenset):
        return [again(each) for each in (sorted(value) if isinstance(value, frozenset) else value)]
    return _record(value, drop_none)


def _record(value: Any, drop_none: bool) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for part in parts(type(value)):
        own = getattr(value, part.name)
        if own is None and drop_none:
            continue
        written = plain_as(part.hint, own, drop_none=drop_none)
        if part.inline:
            found |= written
        else:
            found[part.called] = written
    return found


def plain_as(hint: Any, value: Any, *, drop_none: bool = False) -> Any:
    """Return ``value`` as JSON has what is annotated with ``hint``: one of several shapes says which it is."""
    written = plain(value, drop_none=drop_none)
    tagged = _tag(hint)
    if tagged is None or value is None:
        return written
    return {tagged.by: next(name for name, kind in tagged.shapes if isinstance(value, kind)), **written}


def _tag(hint: Any) -> Tagged | None:
    plain, marks = parted(hint)
    inner = typing.get_args(plain) if is_union(plain) else ()
    every = (*marks, *(mark for each in inner for mark in parted(each)[1]))
    return next((mark for mark in every if isinstance(mark, Tagged)), None)
