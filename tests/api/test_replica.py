"""Three devices of one account that hear of each other late: in the end all are alike, and nothing typed is gone."""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

import pytest
from django.contrib.auth.models import User
from django.db import connection, transaction
from django.test import Client
from django.test.utils import CaptureQueriesContext
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from jackstaff.documents.kit import KIT
from jackstaff.documents.replication import begin_epoch
from jackstaff_core.gear.starter import STARTER_KIT

from .test_frames import OPENED, frame

pytestmark = pytest.mark.django_db
NOW = datetime.now(UTC)
KEYS = [str(uuid4()) for _ in range(3)]


def client_of(name: str) -> tuple[Client, User]:
    account = User.objects.create_user(name)
    client = Client()
    client.force_login(account)
    return client, account


def look(name: str) -> dict[str, Any]:
    return {"kind": "sea", "look": name, "low": 4.0, "high": None}


@dataclass
class Device:
    """A device by the contract: it writes here first, sends in order, takes what comes, forgets only what is sent."""

    client: Client
    account: int
    clock_ahead: timedelta
    kind: str = "look"
    seen: int = 0
    held: dict[str, Any] = field(default_factory=dict)
    numbers: dict[str, int] = field(default_factory=dict)
    waiting: dict[str, dict[str, Any]] = field(default_factory=dict)
    lost: list[dict[str, Any]] = field(default_factory=list)
    epoch: str | None = None
    written: dict[str, str] = field(default_factory=dict)

    def write(self, key: str, content: Any, minute: int) -> None:
        """Typed here: it is in the device at once."""
        self.held[key] = content
        before = self.waiting.get(key)
        self.waiting[key] = {
            "follows": [*before["follows"], before["write"]][-16:] if before else [],
            "kind": self.kind,
            "id": key,
            "write": str(uuid4()),
            "base": self.numbers.get(key, 0),
            "changed_at": (NOW - timedelta(days=1) + timedelta(minutes=minute) + self.clock_ahead).isoformat(),
            "content": content,
        }

    def push(self, *, answer_lost: bool) -> None:
        """Send what waits; without an answer it waits on and is sent again. In another epoch it hears first."""
        if not self.waiting:
            return
        sent = list(self.waiting.values())
        body = {"account": self.account, "epoch": self.epoch, "documents": sent}
        response = self.client.post("/api/replica", json.dumps(body), content_type="application/json")
        if response.status_code == 412:
            self.pull()
            self.push(answer_lost=answer_lost)
            return
        assert response.status_code == 200, response.content
        if answer_lost:
            self.lost.extend({**body, "documents": [each]} for each in sent)
            return
        # Whoever was heard before they asked counts by this epoch, too.
        self.epoch = self.epoch or response.json()["epoch"]
        for result in response.json()["results"]:
            assert result["refused"] == []
            del self.waiting[result["held"]["id"]]
            self._take(result["held"])

    def of(self, keys: list[str]) -> dict[str, Any]:
        return {key: content for key, content in self.held.items() if key in keys}

    def repeat(self) -> None:
        """An old request that the network delivers once more."""
        if self.lost:
            self.client.post("/api/replica", json.dumps(self.lost.pop(0)), content_type="application/json")

    def pull(self) -> None:
        """Take what has changed, page by page; what waits here is not overwritten."""
        while True:
            known = f"&epoch={self.epoch}" if self.epoch else ""
            page = self.client.get(f"/api/replica?since={self.seen}&limit=2{known}").json()
            self.epoch = page["epoch"]
            if page["shared"] is not None:
                self._give_back(page["shared"])
                continue
            for copy in page["documents"]:
                if copy["id"] not in self.waiting:
                    self._take(copy)
            self.seen = page["until"]
            if self.seen >= page["head"]:
                return

    def _give_back(self, shared: int) -> None:
        """A copy was put back: what was counted past it is sent again as it was written, on top of what both know."""
        self.seen = min(self.seen, shared)
        for key, number in list(self.numbers.items()):
            if number <= shared:
                continue
            self.numbers[key] = shared
            if key in self.waiting:
                self.waiting[key]["base"] = shared
            elif key in KEYS:
                at = self.written[key]
                self.waiting[key] = {
                    "kind": self.kind, "id": key, "write": str(uuid4()), "base": shared, "changed_at": at,
                    "content": self.held.get(key),
                }  # fmt: skip

    def _take(self, copy: dict[str, Any]) -> None:
        if copy["kind"] not in {self.kind, "aside"}:
            return
        self.numbers[copy["id"]] = copy["number"]
        self.written[copy["id"]] = copy["changed_at"]
        self.held.pop(copy["id"], None)
        if copy["content"] is not None:
            self.held[copy["id"]] = copy["content"]


@dataclass
class Typed:
    """Something somebody typed, and what they saw when they typed it."""

    name: str
    key: str
    over: str | None


steps = st.lists(
    st.one_of(
        st.tuples(st.just("write"), st.integers(0, 2), st.integers(0, 2)),
        st.tuples(st.just("remove"), st.integers(0, 2), st.integers(0, 2)),
        st.tuples(st.just("push"), st.integers(0, 2), st.booleans()),
        st.tuples(st.just("pull"), st.integers(0, 2), st.just(0)),
        st.tuples(st.just("repeat"), st.integers(0, 2), st.just(0)),
        st.tuples(st.just("copy"), st.just(0), st.just(0)),
        st.tuples(st.just("restore"), st.just(0), st.just(0)),
    ),
    max_size=24,
)


@settings(suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(steps, st.tuples(*[st.integers(-600, 600)] * 3))
def test_devices_end_alike_and_nothing_typed_is_gone_unnamed(plan: list[Any], ahead: tuple[int, ...]) -> None:
    client, account = client_of(f"edda-{uuid4()}")
    devices = [Device(client, account.pk, timedelta(minutes=minutes)) for minutes in ahead]
    typed: list[Typed] = []
    # A savepoint is a copy that can be put back as often as one likes.
    copy = transaction.savepoint()
    for minute, (what, which, more) in enumerate(plan):
        device = devices[which]
        match what:
            case "write" | "remove":
                key = KEYS[more]
                before = device.held.get(key)
                if what == "remove" and before is None:
                    continue
                name = f"typed {minute}" if what == "write" else None
                if name:
                    typed.append(Typed(name, key, before and before["look"]))
                device.write(key, name and look(name), minute)
                if not name:
                    # Who removes something has seen it go.
                    typed.append(Typed("", key, before and before["look"]))
            case "push":
                device.push(answer_lost=more)
            case "pull":
                device.pull()
            case "repeat":
                device.repeat()
            case "copy":
                copy = transaction.savepoint()
            case "restore":
                transaction.savepoint_rollback(copy)
                begin_epoch(account)
    # Twice to hear of each other; once more, for who hears only now that a copy was put back sends again after that.
    for device in devices * 3:
        device.push(answer_lost=False)
        device.pull()
    first = devices[0]
    assert all(device.waiting == {} for device in devices)
    assert all(device.of(KEYS) == first.of(KEYS) for device in devices)
    # What was set aside and then lost with the server stays on the devices that had been told.
    restored = any(what == "restore" for what, *_ in plan)
    assert restored or all(device.held == first.held for device in devices)
    documents = {key: item["look"] for key, item in first.of(KEYS).items()}
    aside = {item["content"]["look"] for each in devices for key, item in each.held.items() if key not in KEYS}
    seen_go = {each.over for each in typed}
    for each in typed:
        assert not each.name or each.name in seen_go or documents.get(each.key) == each.name or each.name in aside, each


def test_after_a_restore_an_older_writing_displaces_nothing_in_silence() -> None:
    client, account = client_of("edda-restored")
    phone, laptop = (Device(client, account.pk, timedelta(0)) for _ in range(2))
    key = KEYS[0]
    phone.write(key, look("first"), 0)
    phone.push(answer_lost=False)
    phone.pull()
    copy = transaction.savepoint()
    for minute in range(1, 9):
        phone.write(key, look(f"lost {minute}"), minute)
        phone.push(answer_lost=False)
    laptop.pull()
    laptop.write(key, look("begun before the restore"), 10)
    transaction.savepoint_rollback(copy)
    begin_epoch(account)
    phone.pull()
    phone.push(answer_lost=False)
    phone.write(key, look("after the restore"), 20)
    phone.push(answer_lost=False)
    laptop.push(answer_lost=False)
    for device in (phone, laptop) * 2:
        device.pull()
    assert phone.held == laptop.held
    names = {each.get("look", each.get("content", {}).get("look")) for each in phone.held.values()}
    assert phone.held[key]["look"] == "after the restore"
    assert names == {"after the restore", "begun before the restore"}


def test_another_epoch_is_told_and_a_number_beyond_the_count_is_refused() -> None:
    client, account = client_of("edda-epochs")
    device = Device(client, account.pk, timedelta(0))
    device.pull()
    (kept,) = post(client, account.pk, sent("look", KEYS[0], look("one")))
    head = kept["held"]["number"]
    (beyond,) = post(client, account.pk, sent("look", KEYS[0], look("two"), base=head + 1))
    assert [fault["field"] for fault in beyond["refused"]] == ["base"]
    known = device.epoch
    begin_epoch(account)
    begin_epoch(account)
    stranger = str(uuid4())
    for epoch, shared in ((known, head), (stranger, 0)):
        page = client.get(f"/api/replica?since=0&epoch={epoch}").json()
        assert (page["shared"], page["documents"]) == (shared, [])
        body = {"account": account.pk, "epoch": epoch, "documents": [sent("look", KEYS[0], look("three"), base=head)]}
        response = client.post("/api/replica", json.dumps(body), content_type="application/json")
        assert (response.status_code, response.json()["errors"][0]["field"]) == (412, "epoch")
    page = client.get(f"/api/replica?since=0&epoch={page['epoch']}").json()
    assert (page["shared"], len(page["documents"])) == (None, 1)


def post(client: Client, account: int, *documents: dict[str, Any]) -> Any:
    body = {"account": account, "documents": list(documents)}
    response = client.post("/api/replica", json.dumps(body), content_type="application/json")
    assert response.status_code == 200, response.content
    return response.json()["results"]


def sent(kind: str, key: str, content: Any, base: int = 0, minutes: int = 0) -> dict[str, Any]:
    at = (NOW + timedelta(minutes=minutes)).isoformat()
    return {"kind": kind, "id": key, "write": str(uuid4()), "base": base, "changed_at": at, "content": content}


def test_one_refused_write_names_its_fault_and_the_rest_is_kept() -> None:
    client, account = client_of("edda")
    good, bad = sent("look", KEYS[0], look("folds")), sent("look", KEYS[1], {**look("x"), "high": 1.0})
    unknown = sent("kit", KEYS[2], {"sort": "glass", "name": "Slot ND 10", "facts": {"stops": 99}})
    results = post(client, account.pk, bad, good, unknown)
    assert results[0]["refused"][0]["instead"] == "Give the larger measure last."
    assert results[1]["held"]["content"]["look"] == "folds"
    assert results[2]["refused"][0]["field"] == "facts.stops"
    assert [each["id"] for each in client.get("/api/replica").json()["documents"]] == [KEYS[0]]


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("path", ["replica", "frames", "frames/running", "frames/{}", "log/file", "log/evidence"])
def test_a_frame_is_read_as_of_one_moment(path: str) -> None:
    """It stands in several tables: between two of them another device may write a third longer."""
    client, _ = client_of("edda")
    doc = frame()
    assert client.put(f"/api/frames/{doc['id']}", json.dumps(doc), "application/json").status_code == 200
    with CaptureQueriesContext(connection) as queries:
        assert client.get(f"/api/{path}".format(doc["id"])).status_code == 200
    asked = [query["sql"] for query in queries]
    begun, ended = (next(at for at, sql in enumerate(asked) if sql.startswith(word)) for word in ("BEGIN", "ROLLBACK"))
    reads = [place for place, sql in enumerate(asked) if 'FROM "records_frame' in sql]
    assert reads
    assert begun < min(reads)
    assert max(reads) < ended


def test_a_write_for_one_account_never_lands_in_another() -> None:
    edda, account = client_of("edda")
    joar, other = client_of("joar")
    body = {"account": account.pk, "documents": [sent("look", KEYS[0], look("folds"))]}
    assert joar.post("/api/replica", json.dumps(body), content_type="application/json").status_code == 409
    # Whatever asks for an account's records may name the account it believes to be in.
    named = {"X-Jackstaff-Account": str(account.pk)}
    for client, status in ((edda, 200), (joar, 409), (Client(), 401)):
        for path in ("/api/replica", "/api/kit", "/api/outings", "/api/frames", "/api/frames/running", "/api/log/file"):
            assert client.get(path, headers=named).status_code == status, path
    doc = frame()
    assert joar.put(f"/api/frames/{doc['id']}", json.dumps(doc), "application/json", headers=named).status_code == 409
    assert joar.get("/api/frames").json()["count"] == 0
    assert [other.frames.count(), other.looks.count()] == [0, 0]


def test_a_device_alone_displaces_nothing_however_often_answers_are_lost() -> None:
    client, account = client_of("edda")
    device = Device(client, account.pk, timedelta())
    for minute in range(6):
        device.write(KEYS[0], look(f"typed {minute}"), minute)
        device.push(answer_lost=minute % 3 != 2)
    device.push(answer_lost=False)
    # What the network delivers once more, long after, is no news.
    while device.lost:
        device.repeat()
    device.pull()
    assert device.held == {KEYS[0]: look("typed 5")}


def test_a_clock_far_ahead_wins_once_and_not_for_ever() -> None:
    client, account = client_of("edda")
    post(client, account.pk, sent("look", KEYS[0], look("from the year 2199"), minutes=90_000_000))
    # By an honest clock, read only now: how long the tests ran before this one must not matter.
    after = {**sent("look", KEYS[0], look("typed after that")), "changed_at": datetime.now(UTC).isoformat()}
    post(client, account.pk, after)
    held = [each["content"] for each in client.get("/api/replica").json()["documents"] if each["kind"] == "look"]
    assert held == [look("typed after that")]


def test_whoever_goes_on_from_their_own_writing_has_not_seen_what_was_joined_to_it() -> None:
    client, account = client_of("edda")
    start = frame(state="open", closed_at=None, closed_by=None, note="", run=RUN, events=[event("opened", 0)])
    earlier = {"opened_at": (OPENED - timedelta(seconds=5)).isoformat()}
    shifted = [*start["events"], event("shifted", 30, -5.0)]
    phone = sent("frame", start["id"], {**start, **earlier, "events": shifted})
    reading = [*start["events"], event("reread", 60, -0.3)]
    laptop = sent("frame", start["id"], {**start, "events": reading}, minutes=-60)
    post(client, account.pk, phone)
    post(client, account.pk, laptop)
    # The laptop heard no answer and goes on from what it wrote itself.
    goes_on = {**start, "events": [*reading, event("extended", 90, 1 / 3)]}
    post(client, account.pk, {**sent("frame", start["id"], goes_on, minutes=1), "follows": [laptop["write"]]})
    held = client.get("/api/frames/running").json()
    assert sorted(each["kind"] for each in held["events"]) == ["extended", "opened", "reread", "shifted"]
    assert datetime.fromisoformat(held["opened_at"]) == OPENED - timedelta(seconds=5)


def test_things_everybody_starts_with_have_one_key_and_give_way_without_a_word() -> None:
    client, account = client_of("edda")
    KIT.start(account)
    nine = next(each for each in STARTER_KIT if each.name == "Slot ND 9")
    mine = {"sort": "glass", "name": "Slot ND 9", "facts": {"stops": 9.0, "mount": "plate", "offset": 0.3}, "place": 9}
    held = post(client, account.pk, sent("kit", str(nine.id), mine))[0]["held"]
    assert (held["content"]["strength"]["offset"], held["place"]) == (0.3, 9)
    kinds = {each["kind"] for each in client.get("/api/replica").json()["documents"]}
    assert kinds == {"kit"}
    # Once typed it counts: a second device that knew nothing of it displaces it with a word.
    theirs = {**mine, "facts": {**mine["facts"], "offset": 0.1}}  # type: ignore[dict-item]
    post(client, account.pk, sent("kit", str(nine.id), theirs, minutes=5))
    aside = [each for each in client.get("/api/replica").json()["documents"] if each["kind"] == "aside"]
    assert [each["content"]["content"]["facts"]["offset"] for each in aside] == [0.3]
    post(client, account.pk, sent("aside", aside[0]["id"], None, base=aside[0]["number"]))
    post(client, account.pk, sent("kit", str(nine.id), theirs, minutes=5))
    left = [each for each in client.get("/api/replica").json()["documents"] if each["kind"] == "aside"]
    assert [each["content"] for each in left] == [None]


def test_an_outing_removed_on_one_device_does_not_come_back_from_another() -> None:
    client, account = client_of("edda")
    plan = json.loads(json.dumps({**OUTING, "changed_at": NOW.isoformat()}))
    number = post(client, account.pk, sent("outing", KEYS[0], plan))[0]["held"]["number"]
    post(client, account.pk, sent("outing", KEYS[0], None, base=number, minutes=-10))
    # The other device sends what it edited before it heard, and its old copy once more.
    held = post(client, account.pk, sent("outing", KEYS[0], {**plan, "name": "late"}, number, minutes=-20))[0]["held"]
    assert held["content"] is None
    assert client.get("/api/outings").json()["outings"] == []
    named = [each["content"]["content"]["name"] for each in client.get("/api/replica").json()["documents"]
             if each["kind"] == "aside"]  # fmt: skip
    assert named == ["late"]


OUTING: dict[str, Any] = {
    "name": "Grey Tarn", "latitude": 58.1, "longitude": 6.8, "zone": "Europe/Oslo", "date": "2027-04-17",
    "arrive": "04:45", "turn_back": "08:00", "sky": "thin", "scene": "sky_lit", "ridge": None, "readings": [],
    "waters": [], "floods_at_m": None, "walk_minutes": 15, "margin_minutes": 15, "weather": {"source": "own"},
    "hazards": [], "packed": [], "archived": False,
}  # fmt: skip


def event(kind: str, seconds_in: float, seconds: float | None = None) -> dict[str, Any]:
    return {"id": str(uuid4()), "at": (OPENED + timedelta(seconds=seconds_in)).isoformat(), "kind": kind,
            "seconds": seconds}  # fmt: skip


RUN = {"metered_seconds": 203.0, "bias_stops": 0.0}


def closed(doc: dict[str, Any], after: float, *events: dict[str, Any]) -> dict[str, Any]:
    at = (OPENED + timedelta(seconds=after)).isoformat()
    return {**doc, "state": "closed", "closed_at": at, "closed_by": "hand", "events": [*doc["events"], *events]}


def test_an_end_is_written_once_and_what_two_devices_did_is_kept_from_both() -> None:
    client, account = client_of("edda")
    start = frame(state="open", closed_at=None, closed_by=None, note="", run=RUN, events=[event("opened", 0)])
    key = start["id"]
    number = post(client, account.pk, sent("frame", key, start))[0]["held"]["number"]
    # The laptop lets it run longer and closes; the phone, which heard neither, notes something and closes later.
    longer, end = event("extended", 60, 1 / 3), event("closed", 250)
    laptop = closed({**start, "run": {**RUN, "bias_stops": 1 / 3}}, 250, longer, event("aimed", 250, 250), end)
    post(client, account.pk, sent("frame", key, laptop, number, minutes=-5))
    reread = {"at_seconds": 90.0, "stops": -0.5}
    other_end = [event("aimed", 253, 240), event("closed", 253)]
    phone = closed({**start, "note": "gust", "run": {**RUN, "rereads": [reread]}}, 253, event("reread", 90, -0.5),
                   *other_end)  # fmt: skip
    held = post(client, account.pk, sent("frame", key, phone, number))[0]["held"]["content"]
    assert [each["kind"] for each in held["events"]] == ["opened", "extended", "reread", "aimed", "closed"]
    assert (held["actual_seconds"], held["note"], held["state"]) == (250.0, "gust", "closed")
    assert held["run"]["bias_stops"] == pytest.approx(1 / 3)
    assert [(each["at_seconds"], each["stops"]) for each in held["run"]["rereads"]] == [(90.0, -0.5)]
    # Taken back on the laptop, which knows: open again on both, until the next end.
    number = client.get(f"/api/replica?since={number}").json()["documents"][-1]["number"]
    taken = {**held, "state": "open", "closed_at": None, "closed_by": None,
             "events": [*held["events"], event("taken_back", 260)]}  # fmt: skip
    for computed in ("actual_seconds", "error", "pictured", "refused"):
        taken.pop(computed)
    post(client, account.pk, sent("frame", key, taken, number))
    assert client.get("/api/frames/running").json()["id"] == key
    # An opening put right on a device that missed all this moves the opening, and nothing else.
    earlier = {**start, "opened_at": (OPENED - timedelta(seconds=5)).isoformat(),
               "events": [*start["events"], event("shifted", 20, -5.0)]}  # fmt: skip
    held = post(client, account.pk, sent("frame", key, earlier, number, minutes=-9))[0]["held"]["content"]
    assert UUID(held["id"]) == UUID(key)
    assert (held["state"], datetime.fromisoformat(held["opened_at"])) == ("open", OPENED - timedelta(seconds=5))
    assert held["note"] == "gust"


def test_a_first_visit_has_all_it_needs_in_one_answer() -> None:
    first = Client().get("/api/start").json()
    asked = Client().post("/api/exposure", json.dumps(first["question"]), content_type="application/json").json()
    assert first["answer"] == asked
    assert (first["session"]["signed_in"], first["kit"], asked["dial_mark"]) == (False, [], "13")
    client, account = client_of("edda")
    KIT.start(account)
    own = client.get("/api/start").json()
    assert own["session"]["account"] == account.pk
    assert [item["id"] for item in own["kit"]] == [item["id"] for item in own["starter"]["kit"]["items"]]
