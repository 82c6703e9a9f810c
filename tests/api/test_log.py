"""The log searched, taught from, and carried out and in as files: round trips, and hostile files refused whole."""

from __future__ import annotations

import csv
import io
import json
import math
import zipfile
from datetime import UTC, timedelta, timezone
from types import SimpleNamespace
from typing import Any
from uuid import UUID, uuid4

import jsonschema_rs
import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from jackstaff.demo import load as demo
from jackstaff.documents.kit import KIT
from jackstaff.files import archive, logfile
from jackstaff.files.log_exchange import schema
from jackstaff.records.models import Look
from jackstaff_core.log.frame import Frame
from jackstaff_core.wire.reader import plain, read

from .shots import AT, jpeg
from .test_frames import frame, put

pytestmark = pytest.mark.django_db


@pytest.fixture
def edda() -> Client:
    client = Client()
    client.force_login(User.objects.create_user("edda"))
    return client


@pytest.fixture
def keeper() -> Client:
    """The demo account with all it holds."""
    client = Client()
    client.force_login(demo.load())
    return client


def upload(client: Client, path: str, name: str, content: bytes, **fields: Any) -> tuple[int, Any]:
    field = fields.pop("field", "file")
    response = client.post(path, {field: SimpleUploadedFile(name, content), **fields})
    return response.status_code, json.loads(response.content)


def test_searching(keeper: Client) -> None:
    for query, count in {
        "": 20,
        "?text=mole": 8,
        "?text=slot nd 9 falls": 0,
        "?verdict=dark": 14,
        "?verdict=none": 1,
        "?defect=leaves": 2,
        "?since=2027-04-17T00:00:00Z&until=2027-04-18T00:00:00Z": 3,
        "?verdict=right&sort=longest&limit=1": 2,
    }.items():
        assert keeper.get(f"/api/frames{query}").json()["count"] == count, query


@settings(max_examples=25, suppress_health_check=list(HealthCheck))
@given(
    words=st.lists(st.sampled_from(["mole", "tarn", "ring", "nine", "16", "dark"]), max_size=2),
    verdict=st.sampled_from([None, "right", "dark", "bright", "none"]),
    defect=st.sampled_from([None, "leaves", "cross", "cast"]),
    sort=st.sampled_from(["newest", "oldest", "longest", "worst"]),
    limit=st.integers(1, 30),
)
def test_a_search_finds_what_going_through_the_log_finds(
    keeper: Client, words: list[str], verdict: str | None, defect: str | None, sort: str, limit: int
) -> None:
    def fits(entry: dict[str, Any]) -> bool:
        about, review = entry["conditions"] or {}, entry["review"] or {}
        places = [entry["note"], about.get("place") or "", about.get("lens") or ""]
        text = [*places, *(glass["name"] for glass in entry["stack"])]
        if not all(any(word in each.lower() for each in text) for word in words):
            return False
        came = review.get("error_stops")
        judged = {None: True, "none": came is None}
        if came is not None:
            judged |= {"right": abs(came) <= 0.17, "dark": came < -0.17, "bright": came > 0.17}
        return judged.get(verdict, False) and (defect is None or defect in (review.get("defects") or []))

    every = keeper.get("/api/frames?limit=200").json()["frames"]
    asked = {"text": " ".join(words), "verdict": verdict, "defect": defect, "sort": sort, "limit": limit}
    query = {name: value for name, value in asked.items() if value is not None}
    page = keeper.get("/api/frames", query).json()
    expected = {frame["id"] for frame in every if fits(frame)}
    assert page["count"] == len(expected)
    assert len(page["frames"]) == min(limit, len(expected))
    assert {frame["id"] for frame in page["frames"]} <= expected
    rest = keeper.get("/api/frames", {**query, "limit": 200, "offset": limit}).json()["frames"]
    assert {frame["id"] for frame in [*page["frames"], *rest]} == expected


def test_words_are_found_whatever_their_case_and_accents(edda: Client) -> None:
    written = frame(note="50% of Åsgård", conditions={"place": "Über Öst", "lens": "24 mm PRIME"}, stack=[])
    assert put(edda, written)[0] == 200
    found = {"åsgård": 1, "ÅSGÅRD": 1, "asgard": 1, "über": 1, "ÖST": 1, "prime 24": 1, "50%": 1, "5_%": 0, "øst": 0}
    for text, count in found.items():
        assert edda.get("/api/frames", {"text": text}).json()["count"] == count, text


def test_orders(keeper: Client) -> None:
    def came(sort: str) -> list[Any]:
        return list(keeper.get(f"/api/frames?sort={sort}&limit=200").json()["frames"])

    worst = [abs((each["review"] or {}).get("error_stops") or 0) for each in came("worst")]
    assert worst == sorted(worst, reverse=True)
    assert [each["id"] for each in came("oldest")] == [each["id"] for each in came("newest")][::-1]
    lengths = [each["answer"]["set_seconds"] for each in came("longest")]
    assert lengths == sorted(lengths, reverse=True)
    glass = keeper.get("/api/kit").json()["items"]
    nine = next(each["id"] for each in glass if each["name"] == "Slot ND 9")
    assert keeper.get(f"/api/frames?glass={nine}").json()["count"] == 8


def test_what_the_demo_log_teaches(keeper: Client) -> None:
    evidence = keeper.get("/api/log/evidence").json()
    found = {glass["name"]: glass for glass in evidence["glass"]}
    assert found["Ring ND 3"]["doubted"]
    assert found["Ring ND 3"]["mean"] == pytest.approx(1.75, abs=0.25)
    assert found["Slot ND 9"]["mean"] == pytest.approx(0.35, abs=0.2)
    assert evidence["asides"] == {"a variable filter or a polariser was on": 2}
    learnt = keeper.get("/api/log/learnt").json()
    assert [(each["name"], each["focal_mm"]) for each in learnt["clean_ends"]] == [("Ring VND 2–5", 16)]
    assert [each["focal_mm"] for each in learnt["clear_focals"]] == [24]
    assert learnt["statistics"]["frames"] == 20
    # A guest sends the same log along and is told the same.
    frames = [plain(read(Frame, clean(frame))) for frame in keeper.get("/api/frames?limit=200").json()["frames"]]
    items = [
        {k: v for k, v in item.items() if k in {"id", "sort", "name", "facts"}}
        for item in keeper.get("/api/kit").json()["items"]
    ]
    body = json.dumps({"frames": frames, "items": items})
    told = Client().post("/api/log/evidence", body, content_type="application/json").json()
    means = [(glass["id"], glass["frames"], glass["mean"]) for glass in told["glass"]]
    assert means == [
        (glass["id"], glass["frames"], pytest.approx(glass["mean"], abs=0.01)) for glass in evidence["glass"]
    ]


def clean(shown: dict[str, Any]) -> dict[str, Any]:
    return {
        name: value for name, value in shown.items() if name not in {"actual_seconds", "error", "pictured", "refused"}
    }


def test_next_time_goes_by_the_reading_of_now() -> None:
    doc = frame(review={"error_stops": -1.0, "defects": ["ghosts"], "tasted": []})

    def ask(**more: Any) -> Any:
        body = json.dumps({"frame": doc, **more})
        return Client().post("/api/log/reviewed", body, content_type="application/json").json()

    assert ask()["next"]["seconds"] == pytest.approx(32)
    # Two stops brighter now, whichever settings the reading is at.
    for reading in (
        {"shutter": "1/160", "aperture": "9", "iso": "64"},
        {"shutter": "1/40", "aperture": "18", "iso": "64"},
    ):
        assert ask(now=reading)["next"]["seconds"] == pytest.approx(8, rel=1e-6)
    told = ask()
    assert [each["code"] for each in told["remarks"]] == ["ghosts"]
    assert told["editing"][0]["code"] == "lift"


# Every text that a person may type, formulas and quotes and line ends included; XML cannot hold some of it, JSON can.
NOTE = st.text(
    st.characters(exclude_categories=["Cs", "Cc"], include_characters="\t\n\r\x85"), max_size=60
) | st.sampled_from(
    ["=1+1", " =1", "\n=1", "\uff1d1", "'=1+1", "+x", "@a", "-3", "\t", 'a "b", c', "two\r\nlines", "]]>", "<&>"]
)


@st.composite
def documents(draw: Any) -> dict[str, Any]:
    opened = AT + timedelta(seconds=draw(st.integers(0, 10**7)))
    real = draw(st.floats(0.001, 3000))
    stack = draw(st.lists(st.fixed_dictionaries({
        "name": st.text(st.characters(categories=["L", "N"]), min_size=1, max_size=20).map(lambda name: f"={name}"),
        "stops": st.floats(0, 30), "offset": st.none() | st.floats(-10, 10), "in_reading": st.booleans(),
        "id": st.none() | st.uuids().map(str), "kind": st.none() | st.sampled_from(["solid", "variable"]),
    }), max_size=3))  # fmt: skip
    review = draw(st.none() | st.fixed_dictionaries({
        "error_stops": st.none() | st.floats(-5, 5),
        "defects": st.lists(st.sampled_from(["cast", "leak"]), unique=True),
        "tasted": st.just([{"kind": "sea", "look": "veil", "fit": "right"}]),
        "because": st.sampled_from([None, "scene", "filter", "taste"]),
    }))  # fmt: skip
    return {
        "id": str(draw(st.uuids())), "state": "closed", "opened_at": opened.isoformat(),
        "closed_at": (opened + timedelta(seconds=real)).isoformat(), "closed_by": draw(st.sampled_from(["hand", None])),
        "note": draw(NOTE),
        "reading": {"shutter": "1/40", "aperture": "9", "iso": "64", "ev100": draw(st.none() | st.floats(-20, 25))},
        "settings": {"aperture": "9", "iso": "64"}, "stack": stack, "scale": "exact", "dial_limit": 30,
        "answer": {"seconds": real, "set_seconds": real, "base_seconds": 0.025, "sure_within_stops": 0.2, "steps": []},
        "events": [], "review": review,
        "conditions": draw(st.none() | st.just({"place": "Vardsund mole", "swell_m": 0.7, "sky": "thin"})),
    }  # fmt: skip


@given(st.lists(documents(), min_size=1, max_size=4, unique_by=lambda each: each["id"]))
@settings(suppress_health_check=list(HealthCheck))
def test_every_format_reads_back_what_it_wrote(docs: list[dict[str, Any]]) -> None:
    frames = [read(Frame, doc) for doc in docs]
    documents = [plain(frame) for frame in frames]

    def shown(doc: dict[str, Any]) -> tuple[object, ...]:
        return ("+".join(glass["name"] for glass in doc["stack"]), 1.0, None)

    table = logfile.as_csv(documents, shown)
    whole = archive.written([], documents, [], [], [], {})
    jsonschema_rs.validate(schema(), json.loads(logfile.as_json(documents)))
    for back in (
        logfile.from_json(logfile.as_json(documents)),
        logfile.from_json(archive.read(io.BytesIO(whole)).log),
        logfile.from_csv(table),
        [back for each in documents for back in logfile.from_xmp(logfile.as_xmp(each, shown(each)))],
    ):
        assert [read(Frame, each) for each in back] == frames
    # No cell begins as a formula does; numbers may be negative.
    for row in list(csv.reader(io.StringIO(table, newline="")))[1:]:
        for cell in row:
            if cell[:1] in "=+@\t\r-" and cell:
                float(cell)


def as_was(text: str) -> str:
    """What is written today by the names of an earlier day."""
    for today, before in (("error_stops", "came_out"), ("defects", "seen"), ("server_clock", "steady")):
        text = text.replace(f"review.{today}", f"review.{before}").replace(f'"{today}"', f'"{before}"')
    return text


def test_a_table_from_before_a_column_was_there_is_read_without_it() -> None:
    review = {"error_stops": -1.0, "defects": ["ghosts"], "tasted": [], "because": "filter"}
    run = {"metered_seconds": 4.0, "server_clock": {"seconds": 970.0, "count": "a"}}
    doc = plain(read(Frame, frame(review=review, run=run)))
    rows = list(csv.reader(io.StringIO(logfile.as_csv([doc], lambda _: ("", 1.0, None)), newline="")))
    at = rows[0].index("review.because")
    out = io.StringIO(newline="")
    csv.writer(out).writerows([row[:at] + row[at + 1 :] for row in rows])
    # Nor does it call a review's error and defects by today's names.
    (back,) = logfile.from_csv(as_was(out.getvalue()))
    assert plain(read(Frame, back)) == {**doc, "review": {**doc["review"], "because": None}}
    (back,) = logfile.from_json(as_was(json.dumps({"format": "jackstaff-log", "version": 1, "frames": [doc]})))
    assert plain(read(Frame, back)) == doc


def test_a_log_goes_out_and_comes_back_in_preview_then_all(keeper: Client, edda: Client) -> None:
    text = keeper.get("/api/log/file?as_=csv").content
    # Another account's frames are not taken over, and nothing is half kept.
    status, answer = upload(edda, "/api/log/read", "log.csv", text, keep="true")
    assert status == 409
    assert "another account" in answer["errors"][0]["problem"]
    assert edda.get("/api/frames").json()["count"] == 0
    doc = frame(note="=HYPERLINK(1)")
    content = logfile.as_json([plain(read(Frame, doc))]).encode()
    status, answer = upload(edda, "/api/log/read", "log.json", content)
    assert (status, answer["new"], answer["kept"]) == (200, 1, False)
    assert edda.get("/api/frames").json()["count"] == 0
    assert upload(edda, "/api/log/read", "log.json", content, keep="true")[1]["kept"]
    assert upload(edda, "/api/log/read", "log.json", content)[1]["same"] == 1
    put(edda, {**doc, "note": "other"})
    assert upload(edda, "/api/log/read", "log.json", content)[1]["changed"] == 1
    sheet = edda.get("/api/log/file?as_=csv").content.decode()
    assert ",other," in sheet


@pytest.mark.parametrize(
    ("name", "content", "said"),
    [
        ("log.json", b"{", "is no JSON"),
        ("log.json", b'{"format": "other"}', "This is no log file."),
        ("log.json", b'{"format": "jackstaff-log", "version": 9, "frames": []}', "another version"),
        (
            "log.json",
            b'{"format": "jackstaff-log", "version": 1, "frames": [{"id": 3}]}',
            "Frame 1: 'state' is missing",
        ),
        ("log.json", b'{"format": "jackstaff-log", "version": 1, "frames": [NaN]}', "is no JSON"),
        ("log.json", b"[" * 100_000, "first line"),
        ("log.json", b"\xff\xfe\x00", "no text in UTF-8"),
        ("log.csv", b"a,b\n1,2\n", "does not name the log's columns"),
        ("log.csv", (",".join(logfile.COLUMNS) + "\n1,2\n").encode(), "Line 2 has 2 cells"),
        ("log.csv", (",".join(logfile.COLUMNS) + "\n" + "," * (len(logfile.COLUMNS) - 1) + "{\n").encode(), "no JSON"),
        ("log.xmp", b"<x/>", "no frame of the log"),
        ("log.xmp", b"<x", "no sound XML"),
        ("log.xmp", b'<!DOCTYPE x [<!ENTITY a "aaa"><!ENTITY b "&a;&a;">]><x>&b;</x>', "no sound XML"),
    ],
)
def test_damaged_logs_are_refused_in_words(edda: Client, name: str, content: bytes, said: str) -> None:
    status, answer = upload(edda, "/api/log/read", name, content, keep="true")
    assert status == 422
    assert said in " ".join(fault["problem"] for fault in answer["errors"]) + answer["errors"][0]["field"]
    assert edda.get("/api/frames").json()["count"] == 0


def test_a_file_with_one_bad_frame_keeps_none(edda: Client) -> None:
    good, bad = frame(), frame(dial_limit="x")
    text = json.dumps({"format": "jackstaff-log", "version": 1, "frames": [good, bad]}).encode()
    status, answer = upload(edda, "/api/log/read", "log.json", text, keep="true")
    assert (status, answer["errors"][0]["field"]) == (422, "frames.1.dial_limit")
    twice = json.dumps({"format": "jackstaff-log", "version": 1, "frames": [good, good]}).encode()
    assert "twice" in upload(edda, "/api/log/read", "log.json", twice, keep="true")[1]["errors"][0]["problem"]
    assert edda.get("/api/frames").json()["count"] == 0


def test_a_large_log_goes_in_by_few_questions_and_never_holds_others_up_for_long(
    edda: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    frames = [frame(review={"error_stops": 0.0, "defects": ["cast"], "tasted": []})]
    frames = [{**frames[0], "id": str(uuid4()), "events": event(turn)} for turn in range(250)]
    written = logfile.as_json(frames).encode()
    locked: list[int] = []
    pause = SimpleNamespace(sleep=lambda _: locked.append(len(connection.savepoint_ids)))
    monkeypatch.setattr("jackstaff.documents.frames.time", pause)
    with CaptureQueriesContext(connection) as asked:
        assert upload(edda, "/api/log/read", "log.json", written, keep="true")[0] == 200
    # Three chunks, each by a score of questions; between them everybody else gets their turn.
    assert len(asked) < 120
    assert locked == [0, 0, 0]
    assert edda.get("/api/frames?defect=cast").json()["count"] == 250
    assert upload(edda, "/api/log/read", "log.json", written)[1]["same"] == 250


def event(turn: int) -> list[dict[str, Any]]:
    return [{"id": str(UUID(int=turn)), "at": "2027-04-17T04:31:40Z", "kind": "opened", "seconds": None}]


def test_what_would_take_more_memory_than_any_log_is_refused_by_its_letters(
    edda: Client, keeper: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("jackstaff.files.logfile.MOST_BRACKETS", 2000)
    monkeypatch.setattr("jackstaff.files.logfile.MOST_PARTS", 20_000)
    head = b'{"format": "jackstaff-log", "version": 1, "frames": ['
    for name, content in {
        "objects.json": head + b"{}," * 2001 + b"{}]}", "lists.json": head + b"[]," * 2001 + b"[]]}",
        "lines.csv": b"\n" * 20_001, "cells.csv": b"," * 20_001,
    }.items():  # fmt: skip
        status, answer = upload(edda, "/api/log/read", name, content)
        assert (status, answer["errors"][0]["problem"]) == (422, "This file holds more parts than any log has."), name
    whole = zipfile.ZipFile(io.BytesIO(keeper.get("/api/account/archive").content))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for each in whole.namelist():
            packed.writestr(each, b"[" + b"{}," * 2001 + b"{}]" if each == "outings.json" else whole.read(each))
    status, answer = upload(keeper, "/api/account/archive", "all.zip", out.getvalue())
    assert (status, answer["errors"][0]["field"]) == (422, "file.outings.json")


def test_pages_of_a_search_meet_and_each_says_how_many_there_are(keeper: Client) -> None:
    for sort in ("newest", "oldest", "longest", "worst"):
        whole = [each["id"] for each in keeper.get(f"/api/frames?sort={sort}&limit=200").json()["frames"]]
        assert len(set(whole)) == 20
        for limit in (1, 3, 7, 19, 20):
            paged = []
            for offset in range(0, 25, limit):
                page = keeper.get(f"/api/frames?sort={sort}&limit={limit}&offset={offset}").json()
                assert page["count"] == 20, (sort, limit, offset)
                paged += [each["id"] for each in page["frames"]]
            assert paged == whole, (sort, limit)


def test_everything_goes_into_one_archive_and_back_identical(keeper: Client) -> None:
    whole = keeper.get("/api/account/archive").content
    assert keeper.get("/api/account/archive").content == whole
    for held in keeper.get("/api/frames?limit=200").json()["frames"]:
        keeper.delete(f"/api/frames/{held['id']}")
    for item in keeper.get("/api/kit").json()["items"][:5]:
        keeper.delete(f"/api/kit/items/{item['id']}")
    keeper.delete(f"/api/outings/{keeper.get('/api/outings').json()['outings'][0]['id']}")
    assert keeper.get("/api/account/archive").content != whole
    status, answer = upload(keeper, "/api/account/archive", "all.zip", whole)
    assert (status, answer["frames"]["new"], answer["pictures"], answer["kept"]) == (200, 20, 3, False)
    assert upload(keeper, "/api/account/archive", "all.zip", whole, keep="true")[0] == 200
    back = keeper.get("/api/account/archive").content
    for name in zipfile.ZipFile(io.BytesIO(whole)).namelist():
        assert zipfile.ZipFile(io.BytesIO(back)).read(name) == zipfile.ZipFile(io.BytesIO(whole)).read(name), name
    assert back == whole


def test_elsewhere_it_is_the_same_and_what_would_change_is_named(keeper: Client) -> None:
    """Another account of the same server: the frames' keys are taken there, and some of the kit is as at the start."""
    plan = {**keeper.get("/api/outings").json()["outings"][0], "changed_at": "2026-01-01T08:00:00Z"}
    keeper.delete(f"/api/outings/{plan['id']}")
    write_plan(keeper, plan)
    starter = next(each["id"] for each in keeper.get("/api/kit").json()["items"] if each["name"] == "Ring ND 3")
    keeper.delete(f"/api/kit/items/{starter}")
    own = {"kind": "sea", "look": "folds", "low": 4.0, "high": None}
    Look.objects.create(account=User.objects.get(username=demo.ACCOUNT), key=UUID(int=5), content=own)
    whole = keeper.get("/api/account/archive").content
    other = User.objects.create_user("runa")
    KIT.start(other)
    runa = Client()
    runa.force_login(other)
    lid = runa.get("/api/kit").json()["items"][0]
    facts = {name: lid[name] for name in ("id", "sort", "name", "retired", "facts")}
    kept = runa.put("/api/kit/items", json.dumps({"items": [{**facts, "note": "mine"}]}), "application/json")
    assert kept.status_code == 200, kept.content
    write_plan(runa, {**plan, "name": "Mine", "changed_at": "2026-02-01T08:00:00Z"})
    status, answer = upload(runa, "/api/account/archive", "all.zip", whole)
    assert status == 200
    told = {(each["sort"], each["name"]): each["change"] for each in answer["beside"]}
    assert told["thing", lid["name"]] == "changed"
    assert told["thing", "Ring ND 3"] == "removed"
    assert told["outing", plan["name"]] == "stays"
    assert told["look", "folds"] == "new"
    runa.delete(f"/api/outings/{plan['id']}")
    for turn in ("new", "same"):
        answer = upload(runa, "/api/account/archive", "all.zip", whole, keep="true")[1]
        assert answer["frames"][turn] == 20
    assert answer["beside"] == []
    there = runa.get("/api/account/archive").content
    assert _without_keys(there) == _without_keys(whole)
    assert keeper.get("/api/account/archive").content == whole


def _without_keys(whole: bytes) -> dict[str, object]:
    """What an archive says, its frames by when they were opened instead of by their keys."""
    with zipfile.ZipFile(io.BytesIO(whole)) as archive:
        said: dict[str, object] = {name: json.loads(archive.read(name)) for name in _TOLD}
        frames = json.loads(archive.read("log.json"))["frames"]
        pictures = {frame["id"]: name for frame in frames for name in archive.namelist() if frame["id"] in name}
        said["frames"] = [{**frame, "id": None} for frame in frames]
        said["pictures"] = [archive.read(pictures[frame["id"]]) for frame in frames if frame["id"] in pictures]
        assert said["pictures"]
    return said


def write_plan(client: Client, plan: dict[str, Any]) -> None:
    answer = client.put(f"/api/outings/{plan['id']}", json.dumps(plan), "application/json")
    assert answer.status_code == 200, answer.content


_TOLD = ("kit.json", "outings.json", "looks.json")


def test_a_log_longer_than_a_file_goes_out_in_parts_that_come_back(
    keeper: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    whole = keeper.get("/api/account/archive").content
    monkeypatch.setattr("jackstaff.files.logfile.PART_FRAMES", 12)
    assert keeper.get("/api/log/parts").json() == {"frames": 20, "parts": 2}
    parts = [keeper.get(f"/api/account/archive?part={part}").content for part in (1, 2)]
    logs = [keeper.get(f"/api/log/file?part={part}").json()["frames"] for part in (1, 2, 3)]
    assert [len(frames) for frames in logs] == [12, 8, 0]
    for each in keeper.get("/api/frames?limit=200").json()["frames"]:
        keeper.delete(f"/api/frames/{each['id']}")
    for part in reversed(parts):
        assert upload(keeper, "/api/account/archive", "all.zip", part, keep="true")[0] == 200
    monkeypatch.undo()
    assert keeper.get("/api/account/archive").content == whole


def rezipped(whole: bytes, **changes: bytes | None) -> bytes:
    """The archive with members changed, added or (None) left out."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(whole)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        members = {name: old.read(name) for name in old.namelist()} | changes
        for name, content in members.items():
            if content is not None:
                new.writestr(name, content)
    return out.getvalue()


def test_what_is_written_can_be_read_back(keeper: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    # An archive may be larger than a picture; neither file nor archive is written larger than it is taken.
    whole = keeper.get("/api/account/archive").content
    monkeypatch.setattr("jackstaff.api.uploads.MOST_BYTES_SIGNED_IN", 1000)
    assert upload(keeper, "/api/log/read", "log.json", b" " * 1001)[0] == 413
    assert upload(keeper, "/api/account/archive", "all.zip", whole)[0] == 200
    monkeypatch.setattr("jackstaff.files.archive.MOST_BYTES", 1000)
    assert upload(keeper, "/api/account/archive", "all.zip", whole)[0] == 413
    assert "more than an archive holds" in keeper.get("/api/account/archive").json()["errors"][0]["problem"]


def test_hostile_archives_are_refused_whole(keeper: Client) -> None:
    whole = keeper.get("/api/account/archive").content
    picture = next(name for name in zipfile.ZipFile(io.BytesIO(whole)).namelist() if name.endswith(".jpg"))
    claimed = bytearray(rezipped(whole))
    bomb = rezipped(whole, **{"outings.json": b"[" + b" " * 401_000_000 + b"]"})
    cases: dict[str, tuple[bytes, str]] = {
        "not a zip": (b"PK\x03\x04 nonsense", "no sound ZIP"),
        "cut off": (whole[: len(whole) // 2], "no sound ZIP"),
        "flipped": (bytes(claimed[:5000]) + b"\x00" * 400 + bytes(claimed[5400:]), ""),
        "slip": (rezipped(whole, **{"../../evil.txt": b"x"}), "has no place"),
        "absolute": (rezipped(whole, **{"/etc/passwd": b"x"}), "has no place"),
        "bomb": (bomb, "more than is allowed"),
        "no log": (rezipped(whole, **{"log.json": None}), "log.json is missing"),
        "other sort": (rezipped(whole, **{"jackstaff.json": b'{"format": "x"}'}), "another sort"),
        "bad kit": (rezipped(whole, **{"kit.json": b"{}"}), ""),
        "bad outings": (rezipped(whole, **{"outings.json": b'[{"id": 1}]'}), "outings.0"),
        "no zone": (_elsewhere(whole, "No/Where"), "outings.0.zone"),
        "the machine's zone": (_elsewhere(whole, "localtime"), "outings.0.zone"),
        "tones without number": (_tones_of(whole, picture, math.nan), "damaged"),
        "tones without end": (_tones_of(whole, picture, 10**400), "damaged"),
        "picture that is none": (rezipped(whole, **{picture: b"\xff\xd8\xff\xe0 no picture"}), "damaged"),
        "tones that are none": (rezipped(whole, **{picture.replace(".jpg", ".json"): b"{}"}), "damaged"),
        "tones alone": (rezipped(whole, **{picture: None}), "is missing"),
        "stranger's picture": (rezipped(whole, **_stranger(whole, picture)), "no frame of the log"),
    }  # fmt: skip
    for name, (content, said) in cases.items():
        status, answer = upload(keeper, "/api/account/archive", "all.zip", content, keep="true")
        assert status == 422, name
        assert said in " ".join(f"{fault['field']} {fault['problem']}" for fault in answer["errors"]), (name, answer)
        assert keeper.get("/api/account/archive").content == whole, name


def _elsewhere(whole: bytes, zone: str) -> bytes:
    outings = json.loads(zipfile.ZipFile(io.BytesIO(whole)).read("outings.json"))
    outings[0]["zone"] = zone
    return rezipped(whole, **{"outings.json": json.dumps(outings).encode()})


def _tones_of(whole: bytes, picture: str, black: float) -> bytes:
    name = picture.replace(".jpg", ".json")
    tones = json.loads(zipfile.ZipFile(io.BytesIO(whole)).read(name))
    return rezipped(whole, **{name: json.dumps({**tones, "black": black}).encode()})


def _stranger(whole: bytes, picture: str) -> dict[str, bytes]:
    key = UUID(int=7)
    with zipfile.ZipFile(io.BytesIO(whole)) as old:
        return {f"pictures/{key}{end}": old.read(picture.replace(".jpg", end)) for end in (".jpg", ".json")}


def test_pictures_are_read_joined_and_kept_in_small(edda: Client) -> None:
    status, photo = upload(Client(), "/api/frames/photo", "a.jpg", jpeg())
    assert (status, photo["seconds"], photo["body"]) == (200, pytest.approx(20.1587, rel=1e-5), "Full-frame body A")
    assert sum(photo["digest"]["green"]) == pytest.approx(1, abs=1e-3)
    brighter = upload(Client(), "/api/frames/photo", "b.jpg", jpeg(1.0))[1]["digest"]
    # A stop brighter is a stop less below full.
    assert photo["digest"]["median_stops"] - brighter["median_stops"] == pytest.approx(1, abs=0.05)
    body = {"files": [{"taken_at": photo["taken_at"], "seconds": 20.0}],
            "frames": [{"id": str(uuid4()), "opened_at": AT.isoformat(), "seconds": 20.0}]}  # fmt: skip

    def joined(*taken: str) -> Any:
        asked = {**body, "files": [{"taken_at": each, "seconds": 20.0} for each in taken]}
        return Client().post("/api/frames/join", json.dumps(asked), content_type="application/json").json()

    assert joined(photo["taken_at"])["files"][0]["frames"] == [body["frames"][0]["id"]]
    # A time with its zone is that instant: two hours east of Greenwich it is no other.
    plain, zoned = AT.replace(tzinfo=UTC), AT.replace(tzinfo=UTC).astimezone(timezone(timedelta(hours=2)))
    assert joined(zoned.isoformat()) == joined(plain.isoformat())
    assert joined(zoned.isoformat())["ahead_seconds"] == joined(photo["taken_at"])["ahead_seconds"]
    assert joined(zoned.isoformat(), photo["taken_at"])["errors"][0]["field"] == "files"
    doc = frame()
    put(edda, doc)
    path = f"/api/frames/{doc['id']}/picture"
    assert edda.get(path).status_code == 404
    assert upload(edda, path, "a.jpg", jpeg())[0] == 200
    assert edda.get("/api/frames").json()["frames"][0]["pictured"]
    assert edda.get(path).json()["small"] == upload(edda, path, "a.jpg", jpeg())[1]["small"]
    assert upload(edda, f"/api/frames/{uuid4()}/picture", "a.jpg", jpeg())[0] == 404
    assert upload(edda, path, "a.jpg", jpeg()[: len(jpeg()) // 2])[0] == 422
    assert edda.delete(path).status_code == 204
    assert edda.delete(path).status_code == 404
