"""The log as open files: JSON, CSV and an XMP sidecar, all of them whole, so that each reads back as it was written.

A frame here is the plain document that the client sends (docs/formats/log.schema.json). CSV has a row for each frame: a
column for what a spreadsheet can use, JSON in the cells that hold lists, and three columns in front that are for
reading only. A cell that a spreadsheet would take for a formula starts with an apostrophe, which reading takes off.
The sidecar carries what EXIF cannot, in words, and the whole record beside them.
"""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Callable, Mapping, Sequence
from itertools import islice
from typing import Any
from xml.etree import ElementTree as ET

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from jackstaff_core.log.frame import VERSION, Frame
from jackstaff_core.words.refusal import Refusal

from .log_table import Column, columns_of

FORMAT = "jackstaff-log"
MOST_FRAMES = 20_000
"""So many are taken in at once."""
PART_FRAMES = 5_000
"""So many go out at once: a fair part of what a request may work, on a slow machine too."""

MOST_BRACKETS, MOST_PARTS = 2_000_000, 8_000_000
"""What a file of so many frames is well below; every part costs memory far beyond its letters once it is read."""

Document = dict[str, Any]

FOR_READING = ("glass", "real_seconds", "error_stops")
COLUMNS = (*FOR_READING, *(column.path for column in columns_of()))
_FORMULA = ("=", "+", "-", "@", "\t", "\r", "\n", " ", "\uff1d", "\uff0b", "\uff0d", "\uff20", "'")


def as_json(frames: Sequence[Document]) -> str:
    """Return the log as a JSON file; more than could be read back is refused."""
    whole = {"format": FORMAT, "version": VERSION, "frames": _bounded(list(frames))}
    return json.dumps(whole, indent=1, ensure_ascii=False)


def sized(field: str, text: str) -> str:
    """Return the text, if it holds no more parts than a log can.

    Raises
    ------
    Refusal
        More lists, objects, values or lines than the largest log has.
    """
    brackets = text.count("{") + text.count("[")
    if brackets > MOST_BRACKETS or brackets + text.count(",") + text.count("\n") > MOST_PARTS:
        raise Refusal(field, "This file holds more parts than any log has.", f"Give up to {MOST_FRAMES} frames.")
    return text


def from_json(text: str) -> list[Any]:
    """Return the frames of a JSON file, not yet checked one by one.

    Raises
    ------
    Refusal
        No JSON, another format or version, or too many frames.
    """
    sized("file", text)
    try:
        whole = json.loads(text, parse_constant=_no_number)
    except (ValueError, RecursionError) as error:
        line = getattr(error, "lineno", 1)
        raise Refusal("file", f"Line {line} is no JSON.", "Give the file as Jackstaff wrote it.") from None
    if not isinstance(whole, dict) or whole.get("format") != FORMAT:
        raise Refusal("file.format", "This is no log file.", f'Give a file with "format": "{FORMAT}".')
    if whole.get("version") not in range(1, VERSION + 1):
        raise Refusal("file.version", "This log file is of another version.", f"Give one up to version {VERSION}.")
    frames = whole.get("frames")
    if not isinstance(frames, list):
        raise Refusal("file.frames", "The file has no list of frames.", 'Give "frames": [ ... ].')
    return _bounded(frames)


def as_csv(
    frames: Sequence[Document], shown: Callable[[Document], Sequence[object]], frame_type: type[Frame] = Frame
) -> str:
    """Return the log as CSV; ``shown`` gives the three cells for reading."""
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    columns = columns_of(frame_type)
    writer.writerow([*FOR_READING, *(column.path for column in columns)])
    for frame in _bounded(list(frames)):
        cells = [_guarded(each) if isinstance(each, str) else _json(each) for each in shown(frame)]
        writer.writerow([*cells, *(_cell(frame, column) for column in columns)])
    return out.getvalue()


def from_csv(text: str, frame_type: type[Frame] = Frame) -> list[Document]:
    """Return the frames of a CSV file, not yet checked one by one.

    Raises
    ------
    Refusal
        Another table, a row of another width, or a cell that is no JSON where one must be.
    """
    reader = csv.reader(io.StringIO(sized("file", text), newline=""), strict=True)
    try:
        rows = [(reader.line_num, row) for row in islice(reader, MOST_FRAMES + 2)]
    except csv.Error as error:
        raise Refusal("file", f"Line {reader.line_num} is no CSV: {error}.", "Save it as CSV with commas.") from None
    columns = {column.path: column for column in columns_of(frame_type)}
    was = {column.was: path for path, column in columns.items() if column.was}
    head = [was.get(name, name) for name in rows[0][1]] if rows else []
    needed = {*FOR_READING, *(path for path, column in columns.items() if not column.may_lack)}
    if not needed <= {*head} <= {*FOR_READING, *columns} or len(set(head)) != len(head):
        raise Refusal("file", "The first line does not name the log's columns.", "Export the log once and keep them.")
    return [_frame(line, head, row, columns) for line, row in _bounded(rows[1:])]


def _cell(frame: Mapping[str, Any], column: Column) -> str:
    value = _at(frame, column.path)
    if not column.text:
        return _json(value)
    return _guarded("" if value is None else str(value))


def _frame(line: int, names: Sequence[str], row: Sequence[str], columns: Mapping[str, Column]) -> Document:
    if len(row) != len(names):
        raise Refusal(f"file.{line}", f"Line {line} has {len(row)} cells.", f"Give {len(names)}, as in the first line.")
    frame: Document = {}
    for name, cell in zip(names, row, strict=True):
        column = columns.get(name)
        if column is None:
            continue
        if column.text:
            _put(frame, name, cell.removeprefix("'") or column.empty)
            continue
        try:
            _put(frame, name, json.loads(cell, parse_constant=_no_number) if cell else None)
        except (ValueError, RecursionError):
            raise Refusal(
                f"file.{line}.{name}", f"Line {line}, {name}: this is no JSON.", "Put it back as it was exported."
            ) from None
    # Where nothing is said in any column of a part that may be missing, it is missing.
    for part in {column.missing_part for column in columns.values() if column.missing_part} & {*frame}:
        if all(value is None for value in frame[part].values()):
            frame[part] = None
    return frame


def as_xmp(frame: Document, shown: Sequence[object]) -> str:
    """Return a sidecar for one frame: glass, planned and real time, light, verdict, and the whole record."""
    for prefix, space in _SPACES.items():
        ET.register_namespace(prefix, space)
    meta = ET.Element(_name("rdf", "RDF"))
    about = ET.SubElement(meta, _name("rdf", "Description"))
    about.set(_name("rdf", "about"), "")
    _, real, error = shown
    conditions, review = frame.get("conditions") or {}, frame.get("review") or {}
    facts: dict[str, object] = {
        "PlannedSeconds": _at(frame, "answer.set_seconds"),
        "RealSeconds": real,
        "ErrorStops": error,
        "LightStopsPerMinute": (frame.get("run") or {}).get("stops_per_minute"),
        "SceneEv100": conditions.get("ev100"),
        "SwellMetres": conditions.get("swell_m"),
        "ExposureErrorStops": review.get("error_stops"),
    }
    for name, value in facts.items():
        if value is not None:
            about.set(_name("jackstaff", name), f"{value}")
    _bag(about, "Glass", [_glass(each) for each in frame["stack"]], "Seq")
    _bag(about, "Defects", review.get("defects") or [], "Bag")
    if frame["note"]:
        alternatives = ET.SubElement(ET.SubElement(about, _name("dc", "description")), _name("rdf", "Alt"))
        line = ET.SubElement(alternatives, _name("rdf", "li"))
        line.set("{http://www.w3.org/XML/1998/namespace}lang", "x-default")
        line.text = _printable(frame["note"])
    # ASCII alone, so that XML can hold whatever the note holds.
    ET.SubElement(about, _name("jackstaff", "Record")).text = json.dumps(frame, ensure_ascii=True)
    ET.indent(meta)
    body = ET.tostring(meta, encoding="unicode")
    return f'<?xpacket begin="\ufeff" id="W5M0MpCehiHzreSzNTczkc9d"?>\n{body}\n<?xpacket end="w"?>\n'


def from_xmp(text: str) -> list[Document]:
    """Return the frame of a sidecar, not yet checked.

    Raises
    ------
    Refusal
        No XML, or no sidecar of ours.
    """
    try:
        root = fromstring(text.encode("utf-8"), forbid_dtd=True)
    except (ET.ParseError, DefusedXmlException, ValueError, UnicodeError):
        raise Refusal("file", "This sidecar is no sound XML.", "Give the file as Jackstaff wrote it.") from None
    record = next(root.iter(_name("jackstaff", "Record")), None)
    try:
        frame = json.loads(record.text or "", parse_constant=_no_number) if record is not None else None
    except (ValueError, RecursionError):
        frame = None
    if not isinstance(frame, dict):
        raise Refusal("file", "This sidecar holds no frame of the log.", "Give a sidecar that Jackstaff wrote.")
    return [frame]


_SPACES = {
    "rdf": "http://www.w3.org/1999/02/22-rdf-syntax-ns#",
    "dc": "http://purl.org/dc/elements/1.1/",
    "jackstaff": "urn:x-jackstaff:frame:1",
}
"""The names ISO 16684-1 fixes, and our own."""


def _name(prefix: str, local: str) -> str:
    return f"{{{_SPACES[prefix]}}}{local}"


def _bag(about: ET.Element, name: str, entries: Sequence[str], kind: str) -> None:
    if entries:
        bag = ET.SubElement(ET.SubElement(about, _name("jackstaff", name)), _name("rdf", kind))
        for entry in entries:
            ET.SubElement(bag, _name("rdf", "li")).text = _printable(entry)


def _glass(first: Mapping[str, Any]) -> str:
    offset = first.get("offset")
    return f"{first['name']}: {first['stops']:g} stops" + (f", measures {offset:+.2f}" if offset else "")


def _printable(text: str) -> str:
    return "".join(each if each.isprintable() or each == "\n" else " " for each in text)


def _bounded(rows: list[Any]) -> list[Any]:
    if len(rows) > MOST_FRAMES:
        raise Refusal("file", f"More than {MOST_FRAMES} frames are too many at once.", f"Give up to {MOST_FRAMES}.")
    return rows


def _guarded(text: str) -> str:
    return f"'{text}" if text.startswith(_FORMULA) else text


def _json(value: object) -> str:
    return "" if value is None else json.dumps(value, ensure_ascii=False, separators=(",", ":"))


def _at(frame: Mapping[str, Any], path: str) -> Any:
    value: Any = frame
    for part in path.split("."):
        value = value.get(part) if isinstance(value, Mapping) else None
    return value


def _put(frame: Document, path: str, value: object) -> None:
    *parents, last = path.split(".")
    for part in parents:
        frame = frame.setdefault(part, {})
    frame[last] = value


def _no_number(text: str) -> float:
    raise ValueError(text)
