"""Test the documents of an account beneath HTTP: whose they are, which of two writings wins, what is on the disk."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from itertools import permutations
from typing import Any
from uuid import UUID, uuid4

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from jackstaff.accounts.tries import MOST, count_wrong, forget_wrong, seconds_to_wait
from jackstaff.api.replica import ChangeInput, _taken
from jackstaff.documents.frames import FRAMES
from jackstaff.documents.looks import LOOKS
from jackstaff.documents.replication import Write, take
from jackstaff.records.kinds import DocKind
from jackstaff.records.models import Revision
from jackstaff_core.log.frame import Frame
from jackstaff_core.motion.looks import OwnLook
from jackstaff_core.wire.reader import read

from .test_frames import OPENED, frame

NOW = datetime(2027, 4, 17, 12, 0, tzinfo=UTC)
KEY = UUID(int=7)


def look(name: str) -> OwnLook:
    return read(OwnLook, {"kind": "sea", "look": name, "low": 4.0, "high": None})


def written(content: Any, hour: float, write: int, base: int = 0, kind: DocKind = DocKind.LOOK) -> Write[Any]:
    at = NOW.replace(hour=0) + timedelta(hours=hour)
    return Write(kind, KEY, UUID(int=write), base, at, content)


def held(account: User) -> str:
    content = LOOKS.held(account, KEY)
    assert content is not None
    return content.look


@pytest.mark.django_db
def test_a_frame_s_key_shows_nothing_to_another_account() -> None:
    edda, joar = User.objects.create_user("edda"), User.objects.create_user("joar")
    key = FRAMES.keep(edda, read(Frame, frame())).pk
    assert [row.pk for row in FRAMES.among(edda, [key])] == [key]
    assert FRAMES.among(joar, [key]) == []
    assert (FRAMES.copies(joar, [key]), FRAMES.held_among(joar, [key])) == ({}, {})
    assert (FRAMES.of_others(joar, [key]), FRAMES.keys_among(joar, [key])) == ({key}, set())


@pytest.mark.django_db
def test_of_two_writings_of_one_instant_the_same_one_stays_whichever_comes_first() -> None:
    for number, order in enumerate(permutations([(1, "one"), (2, "two"), (3, "three")])):
        account = User.objects.create_user(f"edda{number}")
        for write, name in order:
            take(account, LOOKS, written(look(name), 9.0, write), NOW)
        assert held(account) == "three", order


@pytest.mark.django_db
def test_a_write_that_lost_is_known_when_it_is_sent_again() -> None:
    account = User.objects.create_user("edda")
    take(account, LOOKS, written(look("kept"), 10.0, 1), NOW)
    lost = written(look("lost"), 9.0, 2)
    take(account, LOOKS, lost, NOW)
    # A device whose clock is behind goes on from what it has seen.
    number = Revision.objects.get(account=account, kind=DocKind.LOOK).number
    take(account, LOOKS, written(look("went on"), 8.0, 3, base=number), NOW)
    take(account, LOOKS, lost, NOW)
    assert held(account) == "went on"


@pytest.mark.django_db
def test_what_an_earlier_writing_adds_makes_a_frame_no_older() -> None:
    account = User.objects.create_user("edda")
    opened = {"id": str(uuid4()), "at": OPENED.isoformat(), "kind": "opened", "seconds": None}
    reread = {"id": str(uuid4()), "at": (OPENED + timedelta(seconds=5)).isoformat(), "kind": "reread", "seconds": 0.5}
    base = frame(id=str(KEY), events=[opened])
    later, earlier = read(Frame, {**base, "note": "later"}), read(Frame, {**base, "events": [opened, reread]})
    take(account, FRAMES, written(later, 10.0, 1, kind=DocKind.FRAME), NOW)
    take(account, FRAMES, written(earlier, 9.0, 2, kind=DocKind.FRAME), NOW)
    kept = FRAMES.held(account, KEY)
    assert kept is not None
    assert (kept.note, len(kept.events)) == ("later", 2)
    assert Revision.objects.get(account=account, kind=DocKind.FRAME).changed_at.hour == 10


@pytest.mark.django_db
def test_a_right_password_forgets_what_was_wrong_of_the_name_alone() -> None:
    who = {"name": "edda", "address": "10.0.0.1"}
    for turn in range(MOST["address"]):
        count_wrong({"name": f"somebody{turn}", "address": who["address"]}, 100.0, "boot")
    for _ in range(MOST["name"]):
        count_wrong(who, 100.0, "boot")
    forget_wrong(who)
    assert seconds_to_wait({"name": "edda", "address": "10.0.0.2"}, 101.0, "boot") == 0
    assert seconds_to_wait({"name": "joar", "address": who["address"]}, 101.0, "boot") > 0


@pytest.mark.database_file
@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize(("state", "at_once"), [("open", True), ("closed", False)])
def test_an_opening_that_a_device_sends_is_on_the_disk_when_it_is_answered(state: str, at_once: bool) -> None:
    account = User.objects.create_user("edda")
    ended = {"closed_at": None, "closed_by": None} if state == "open" else {}
    content = frame(state=state, **ended)
    change = ChangeInput(kind=DocKind.FRAME, id=content["id"], write=uuid4(), base=0, changed_at=NOW, content=content)
    with CaptureQueriesContext(connection) as asked:
        answer = _taken(account, change, 0)
    assert answer.get("held")
    assert any("synchronous=FULL" in query["sql"] for query in asked) == at_once


@pytest.mark.django_db
def test_instants_of_a_frame_come_back_as_a_page_writes_them() -> None:
    account = User.objects.create_user("edda")
    client = Client()
    client.force_login(account)
    at, metered = "2027-04-17T04:31:40.115Z", "2027-04-17T04:30:00.5Z"
    event = {"id": str(uuid4()), "at": at, "kind": "opened", "seconds": None}
    doc = frame(state="open", opened_at=at, closed_at=None, closed_by=None, events=[event])
    doc["reading"] = {**doc["reading"], "metered_at": metered}
    client.put(f"/api/frames/{doc['id']}", json.dumps(doc), content_type="application/json")
    for shown in (client.get("/api/frames/running"), client.get(f"/api/frames/{doc['id']}")):
        kept = shown.json()
        assert (kept["opened_at"], kept["events"][0]["at"]) == (at, at)
        assert datetime.fromisoformat(kept["reading"]["metered_at"]) == datetime.fromisoformat(metered)
