"""Frames: kept once under the client's key, for their own account alone; sessions and the demo visit."""

from __future__ import annotations

import io
import json
import math
import zipfile
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import IntegrityError, connection, transaction
from django.db.models import Model
from django.test import Client, override_settings

from jackstaff.demo import load as demo
from jackstaff.documents.frames import FRAMES
from jackstaff.documents.kit import KIT
from jackstaff.files import logfile
from jackstaff.records.frame_rows import frame_document
from jackstaff.records.models import Frame, FrameDefect, FrameEvent, FramePicture, KitItem, Ledger, Outing, Revision
from jackstaff_core.log import frame as core
from jackstaff_core.scales.ladders import LONGEST_SECONDS
from jackstaff_core.wire.reader import plain, read

pytestmark = pytest.mark.django_db

OPENED = datetime(2027, 4, 17, 4, 31, 40, tzinfo=UTC)
READING = {"shutter": "1/40", "aperture": "9", "iso": "64", "step": "third", "metered_at": None}
STEP = {"name": "Reading", "stops": 0.0, "seconds": 16.0, "kind": "reading", "glass": None}
ANSWER = {"seconds": 16.0, "set_seconds": 16.0, "base_seconds": 0.025, "sure_within_stops": 0.3, "steps": [STEP]}


@pytest.fixture
def accounts() -> dict[str, Client]:
    """Clients of two signed-in people and of somebody signed out."""
    clients = {"guest": Client()}
    for name in ("edda", "joar"):
        clients[name] = Client()
        clients[name].force_login(User.objects.create_user(name))
    return clients


def frame(**changes: Any) -> dict[str, Any]:
    answer = json.loads(
        Client()
        .post(
            "/api/exposure",
            json.dumps({"reading": {k: v for k, v in READING.items() if v}, "stack": [{"stops": 9}]}),
            content_type="application/json",
        )
        .content
    )
    kept = ("seconds", "set_seconds", "base_seconds", "sure_within_stops", "dial_mark", "steps")
    return {
        "id": str(uuid4()),
        "state": "closed",
        "opened_at": OPENED.isoformat(),
        "closed_at": (OPENED + timedelta(seconds=16)).isoformat(),
        "closed_by": "hand",
        "note": "Vardsund mole",
        "reading": READING,
        "settings": {"aperture": "9", "iso": "64"},
        "stack": [{"name": "Slot ND 9", "stops": 9, "offset": None, "in_reading": False, "id": None, "kind": "solid"}],
        "scale": "exact",
        "dial_limit": 30,
        "answer": {key: answer[key] for key in kept},
        "events": [{"id": str(uuid4()), "at": OPENED.isoformat(), "kind": "opened", "seconds": None}],
        **changes,
    }


def put(client: Client, doc: dict[str, Any]) -> tuple[int, Any]:
    response = client.put(f"/api/frames/{doc['id']}", json.dumps(doc), content_type="application/json")
    return response.status_code, json.loads(response.content)


def test_a_frame_comes_back_as_it_went_with_what_really_happened(accounts: dict[str, Client]) -> None:
    doc = frame()
    for _ in range(2):
        status, kept = put(accounts["edda"], doc)
        assert status == 200
    page = accounts["edda"].get("/api/frames").json()
    assert page["count"] == 1
    assert page["frames"] == [kept]
    assert kept["actual_seconds"] == 16
    assert kept["error"]["stops"] == pytest.approx(0.33333, abs=1e-4)
    assert kept["stack"] == doc["stack"]
    assert kept["answer"] == doc["answer"]
    assert len(kept["events"]) == 1


def test_a_running_frame_is_found_until_it_closes_and_can_be_taken_back(accounts: dict[str, Client]) -> None:
    edda = accounts["edda"]
    doc = frame(state="open", closed_at=None, closed_by=None)
    put(edda, doc)
    assert edda.get("/api/frames/running").json()["id"] == doc["id"]
    assert edda.get(f"/api/frames/{doc['id']}").json()["error"] is None
    put(edda, {**doc, "state": "closed", "closed_at": (OPENED + timedelta(seconds=9)).isoformat()})
    assert edda.get("/api/frames/running").json() is None
    put(edda, doc)
    assert edda.get("/api/frames/running").json()["closed_at"] is None


@dataclass(frozen=True, slots=True, kw_only=True)
class FrameOfTomorrow(core.Frame):
    """A frame with parts that no other file of the program names."""

    lantern: str = ""
    keeper: str | None = None
    gusts: tuple[float, ...] = ()


def test_a_part_that_a_frame_gets_tomorrow_is_kept_and_goes_into_every_file(accounts: dict[str, Client]) -> None:
    account = User.objects.get(username="edda")
    parts = {"lantern": "lit", "keeper": "Joar", "gusts": [3.5, 8.0]}
    tomorrow = read(FrameOfTomorrow, {**frame(), **parts})
    with transaction.atomic():
        FRAMES.write_all(account, [tomorrow])
    (row,) = FRAMES.of(account)
    document = plain(read(FrameOfTomorrow, frame_document(row)))
    assert document == plain(tomorrow)
    assert {name: document[name] for name in parts} == parts
    table = logfile.as_csv([document], lambda _: ("", 1.0, None), FrameOfTomorrow)
    assert logfile.from_csv(table, FrameOfTomorrow) == [document]
    # A table of today is read tomorrow.
    del document["lantern"], document["keeper"], document["gusts"]
    (today,) = logfile.from_csv(logfile.as_csv([document], lambda _: ("", 1.0, None)), FrameOfTomorrow)
    assert read(FrameOfTomorrow, today) == read(FrameOfTomorrow, document)


@pytest.mark.parametrize(
    ("table", "column"),
    [(FrameDefect, "code"), (FrameEvent, "kind"), (KitItem, "sort"), (Revision, "kind"), (Frame, "state")],
)
def test_the_database_itself_refuses_a_word_that_it_does_not_know(table: type[Model], column: str) -> None:
    demo.load()
    row = table._default_manager.first()
    assert row is not None
    with pytest.raises(IntegrityError), transaction.atomic():
        table._default_manager.filter(pk=row.pk).update(**{column: "mood"})


def test_frames_belong_to_their_account(accounts: dict[str, Client]) -> None:
    doc = frame()
    put(accounts["edda"], doc)
    assert put(accounts["joar"], {**doc, "note": "mine now"})[0] == 409
    assert accounts["joar"].get(f"/api/frames/{doc['id']}").status_code == 404
    assert accounts["joar"].delete(f"/api/frames/{doc['id']}").status_code == 404
    assert accounts["joar"].get("/api/frames").json()["count"] == 0
    assert accounts["edda"].get(f"/api/frames/{doc['id']}").json()["note"] == "Vardsund mole"
    for call in (accounts["guest"].get("/api/frames"), accounts["guest"].get("/api/frames/running")):
        assert call.status_code == 401
    assert put(accounts["guest"], doc)[0] == 401


def test_two_accounts_events_of_one_key_are_two_and_none_is_written_over(accounts: dict[str, Client]) -> None:
    opened = {"id": str(uuid4()), "at": OPENED.isoformat(), "kind": "opened", "seconds": None}
    for name in ("edda", "joar"):
        doc = frame(events=[opened])
        kept = put(accounts[name], doc)[1]["events"]
        assert [event["id"] for event in kept] == [opened["id"]]
        again = put(accounts[name], {**doc, "events": [{**opened, "kind": "aborted"}]})[1]["events"]
        assert [event["kind"] for event in again] == ["opened"]


def test_the_frame_written_last_runs_whatever_a_clock_ahead_said(accounts: dict[str, Client]) -> None:
    for year in (2199, 2027):
        written = frame(state="open", closed_at=None, closed_by=None, opened_at=f"{year}-04-17T04:31:40Z")
        assert put(accounts["edda"], written)[0] == 200
    assert accounts["edda"].get("/api/frames/running").json()["opened_at"].startswith("2027")


def test_removing_can_be_undone_under_the_same_key(accounts: dict[str, Client]) -> None:
    doc = frame()
    put(accounts["edda"], doc)
    assert accounts["edda"].delete(f"/api/frames/{doc['id']}").status_code == 204
    assert accounts["edda"].get("/api/frames").json()["count"] == 0
    assert put(accounts["edda"], doc)[0] == 200


@pytest.mark.parametrize(
    "changes",
    [
        {"closed_at": None},
        {"state": "open"},
        {"closed_at": (OPENED - timedelta(seconds=1)).isoformat()},
        {"opened_at": "2027-04-17T04:31:40"},
        {"note": "x" * 2001},
        {"stack": [{"name": "Slot ND 9", "stops": -9}]},
        {"answer": {}},
        {"extra": 1},
        {"answer": {**ANSWER, "steps": [{**STEP, "stops": math.nan}]}},
        {"answer": {**ANSWER, "steps": [{**STEP, "seconds": math.inf}]}},
        {"events": [{"id": str(uuid4()), "at": OPENED.isoformat(), "kind": "aimed", "seconds": math.nan}]},
        {"events": [{"id": str(uuid4()), "at": OPENED.isoformat(), "kind": "aimed", "seconds": 1e300}]},
        {"run": {"metered_seconds": 16.0, "rereads": [{"at_seconds": math.inf, "stops": 0.0}]}},
    ],
)
def test_unsound_frames_are_refused_and_nothing_is_kept(accounts: dict[str, Client], changes: dict[str, Any]) -> None:
    status, answer = put(accounts["edda"], frame(**changes))
    assert status == 422
    assert answer["errors"][0]["problem"].endswith(".")
    assert accounts["edda"].get("/api/frames").json()["count"] == 0


STEEP = {"law": "power", "p": 99.0}
AIMED = {"id": str(uuid4()), "at": OPENED.isoformat(), "kind": "aimed"}


@pytest.mark.parametrize(
    "changes",
    [
        {"answer": {"seconds": LONGEST_SECONDS + 1}},
        {"answer": {"seconds": 1e-9}},
        {"events": [{**AIMED, "seconds": 1e9}]},
        {"events": [{**AIMED, "seconds": -4.0}]},
        {"run": {"metered_seconds": 16.0, "film": STEEP}},
        {"dial_limit": 0},
    ],
)
def test_no_frame_blocks_the_log(accounts: dict[str, Client], changes: dict[str, Any]) -> None:
    edda = accounts["edda"]
    put(edda, frame())
    doc = frame()
    status, _ = put(edda, {**doc, **changes, "answer": {**doc["answer"], **changes.get("answer", {})}})
    # Refused, then nothing is kept; or kept, then it can be read.
    assert edda.get("/api/frames").json()["count"] == (2 if status == 200 else 1)
    assert (status == 200) == ("run" not in changes and "dial_limit" not in changes)
    for path in ("log/evidence", "log/learnt", "log/file?as_=csv", "replica", "account/archive"):
        assert edda.get(f"/api/{path}").status_code == 200, path


def test_a_frame_that_today_s_rules_refuse_is_shown_and_left_out_of_the_lessons(accounts: dict[str, Client]) -> None:
    edda = accounts["edda"]
    put(edda, frame())
    _, old = put(edda, frame(run={"metered_seconds": 16.0}))
    row = Frame.objects.get(pk=old["id"])
    row.document["run"]["film"] = STEEP
    row.save()
    shown = {each["id"]: each["refused"] for each in edda.get("/api/frames").json()["frames"]}
    assert "Give a value from 1 to 3" in shown.pop(old["id"])
    assert list(shown.values()) == [None]
    assert edda.get("/api/log/evidence").status_code == 200
    assert edda.get("/api/log/learnt").json()["statistics"]["frames"] == 1
    # Nor does it keep the log and the archive in: what can be taken back goes out as ever, the rest lies aside.
    assert len(edda.get("/api/log/file").json()["frames"]) == 1
    FramePicture.objects.create(frame=row, small=b"a picture", tones={})
    sent = edda.get("/api/account/archive")
    assert sent.status_code == 200
    with zipfile.ZipFile(io.BytesIO(sent.content)) as archive:
        aside = json.loads(archive.read("aside.json"))
        assert [frame["run"]["film"]["p"] for frame in aside["frames"]] == [99.0]
        assert not any(name.startswith("pictures/") for name in archive.namelist())
    files = {"file": SimpleUploadedFile("everything.zip", sent.content), "keep": "true"}
    back = accounts["joar"].post("/api/account/archive", files).json()
    assert (back["aside"], back["frames"]["new"]) == (1, 1)


def test_writes_without_the_page_s_token_are_refused() -> None:
    client = Client(enforce_csrf_checks=True)
    client.force_login(User.objects.create_user("edda"))
    assert put(client, frame())[0] == 403
    credentials = json.dumps({"username": "edda", "password": "x"})
    assert client.post("/api/session", credentials, content_type="application/json").status_code == 403


def test_signing_in_and_out() -> None:
    User.objects.create_user("edda", password="two-pairs-of-gloves")
    client = Client()
    assert client.get("/api/session").json()["signed_in"] is False

    def sign_in(password: str) -> int:
        credentials = json.dumps({"username": "edda", "password": password})
        return client.post("/api/session", credentials, content_type="application/json").status_code

    assert sign_in("wrong") == 401
    assert sign_in("two-pairs-of-gloves") == 200
    assert client.get("/api/session").json()["username"] == "edda"
    assert client.delete("/api/session").json()["signed_in"] is False


def test_a_password_is_changed_and_everybody_else_is_out() -> None:
    account = User.objects.create_user("edda", password="one-pair-of-gloves")
    page, other = Client(), Client()
    for client in (page, other):
        client.force_login(account)

    def change(current: str, new: str) -> tuple[int, Any]:
        body = json.dumps({"current": current, "new": new})
        response = page.post("/api/account/password", body, content_type="application/json")
        return response.status_code, response.json()

    for current, new, field in (
        ("two-pairs-of-gloves", "three-pairs-of-gloves", "current"),
        ("one-pair-of-gloves", "12345678", "new"),
        ("one-pair-of-gloves", "short", "new"),
        # Too like the name.
        ("one-pair-of-gloves", "edda.edda", "new"),
    ):
        status, answer = change(current, new)
        assert (status, answer["errors"][0]["field"]) == (422, field)
        assert other.get("/api/session").json()["signed_in"]
    assert change("one-pair-of-gloves", "three-pairs-of-gloves") == (200, page.get("/api/session").json())
    assert page.get("/api/session").json()["username"] == "edda"
    assert not other.get("/api/session").json()["signed_in"]
    account.refresh_from_db()
    assert account.check_password("three-pairs-of-gloves")


def test_an_account_ends_with_everything_in_it_and_with_nothing_of_others() -> None:
    demo_account = demo.load()
    gone = User.objects.create_user("edda", password="one-pair-of-gloves")
    KIT.start(gone)
    page, keeper = Client(), Client()
    page.force_login(gone)
    keeper.force_login(demo_account)
    assert put(page, frame(review={"error_stops": 0.0, "defects": ["cast"], "tasted": []}))[0] == 200
    before = {model: model.objects.filter(account=demo_account).count() for model in (Frame, KitItem, Outing, Revision)}

    def end(client: Client, password: str) -> tuple[int, Any]:
        response = client.post("/api/account/end", json.dumps({"password": password}), content_type="application/json")
        return response.status_code, response.json()

    assert end(page, "two-pairs-of-gloves")[0] == 422
    assert end(keeper, "lantern-square")[1]["errors"][0]["problem"] == "The demo account stays as it is."
    assert Frame.objects.filter(account=gone).count() == 1
    status, session = end(page, "one-pair-of-gloves")
    assert (status, session["signed_in"]) == (200, False)
    assert not User.objects.filter(username="edda").exists()
    assert {model: model.objects.count() for model in before} == before
    assert Ledger.objects.count() == 1


@pytest.mark.parametrize(
    ("demo_flag", "address", "host", "more", "visited", "signed_in"),
    [
        (True, "127.0.0.1", "127.0.0.1:8000", {}, False, True),
        (True, "127.0.0.1", "localhost", {}, False, True),
        (True, "127.0.0.1", "127.0.0.1:8000", {}, True, False),
        (True, "192.168.1.20", "127.0.0.1:8000", {}, False, False),
        # A proxy beside it names this machine for whoever comes from wherever.
        (True, "127.0.0.1", "127.0.0.1:8000", {"HTTP_X_FORWARDED_FOR": "192.0.2.9"}, False, False),
        (True, "127.0.0.1", "127.0.0.1:8000", {"HTTP_VIA": "1.1 front"}, False, False),
        (False, "127.0.0.1", "127.0.0.1:8000", {}, False, False),
    ],
)
def test_only_the_first_local_visit_of_a_demo_signs_in(
    demo_flag: bool, address: str, host: str, more: dict[str, str], visited: bool, signed_in: bool
) -> None:
    demo.load()
    client = Client(REMOTE_ADDR=address, HTTP_HOST=host, **more)  # type: ignore[arg-type]
    if visited:
        client.cookies["jackstaff_visited"] = "1"
    with override_settings(DEMO=demo_flag):
        assert client.get("/api/session").json()["signed_in"] is signed_in
        client.delete("/api/session")
        assert client.get("/api/session").json()["signed_in"] is False


def test_demo_data_is_loaded_once() -> None:
    account = demo.load()
    frames = account.frames.count()
    account.frames.all()[:1].get().delete()
    demo.load()
    assert account.frames.count() == frames - 1 > 3


@pytest.mark.database_file
@pytest.mark.django_db(transaction=True)
def test_openings_are_written_through_to_the_disk(accounts: dict[str, Client]) -> None:
    seen: list[str] = []

    def watch(execute: Any, sql: str, params: Any, many: bool, context: Any) -> Any:
        if "PRAGMA synchronous" in sql or sql.startswith(('INSERT INTO "records_frame"', "BEGIN")):
            seen.append(sql[:24])
        return execute(sql, params, many, context)

    with connection.execute_wrapper(watch):
        put(accounts["edda"], frame(state="open", closed_at=None, closed_by=None))
        put(accounts["edda"], frame())
    pragmas = [sql for sql in seen if "PRAGMA" in sql]
    assert pragmas == ["PRAGMA synchronous=FULL", "PRAGMA synchronous=NORMA"]
    assert seen.index(pragmas[0]) < next(place for place, sql in enumerate(seen) if "INSERT" in sql)
