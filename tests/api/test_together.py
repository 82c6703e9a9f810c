"""Two who write at the same moment, over HTTP: nothing is lost, nothing lands elsewhere, nobody hears of a fault."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any
from uuid import uuid4

import pytest
from tools.serving import Server, records
from tools.visits import SignedIn

from tests.conftest import OTHER_PASSWORD

from .test_frames import OPENED, frame

ROUNDS = 12


@pytest.fixture(scope="module")
def visitors(server: Server) -> dict[str, list[SignedIn]]:
    """Three devices of one account, and one of another; wrong passwords that another test tried here are forgotten."""
    with records(server) as database:
        database.execute("DELETE FROM records_signintries")
    return {
        "sanna": [SignedIn(server.url, "sanna", OTHER_PASSWORD) for _ in range(3)],
        "runa": [SignedIn(server.url, "runa", OTHER_PASSWORD)],
    }


def at_once(writes: list[tuple[SignedIn, str, Any]]) -> list[int]:
    """How each write was answered, all sent at the same moment."""
    with ThreadPoolExecutor(len(writes)) as threads:
        return list(threads.map(lambda each: each[0].ask("PUT", each[1], each[2])[0], writes))


def test_what_devices_write_of_one_frame_at_once_is_all_there(visitors: dict[str, list[SignedIn]]) -> None:
    devices = visitors["sanna"]
    for _ in range(ROUNDS):
        plain = frame()
        shifted = [
            {"id": str(uuid4()), "at": (OPENED + timedelta(seconds=at)).isoformat(), "kind": "shifted", "seconds": 1.0}
            for at in range(len(devices))
        ]
        asked = [{**plain, "events": [*plain["events"], each]} for each in shifted]
        path = f"/api/frames/{plain['id']}"
        told = at_once([(device, path, each) for device, each in zip(devices, asked, strict=True)])
        assert told == [200] * len(devices)
        kept = devices[0].ask("GET", path)[1]
        assert {event["id"] for event in shifted} <= {event["id"] for event in kept["events"]}
        assert len(kept["stack"]) == 1


def test_numbers_of_an_account_are_given_once(visitors: dict[str, list[SignedIn]]) -> None:
    devices = visitors["sanna"]
    account = devices[0].ask("GET", "/api/replica?limit=1")[1]["account"]

    def write(device: SignedIn) -> int:
        looks = [
            {
                "kind": "look",
                "id": str(uuid4()),
                "write": str(uuid4()),
                "base": 0,
                "changed_at": OPENED.isoformat(),
                "content": {"kind": "sea", "look": f"folds {turn}", "low": 4.0, "high": None},
            }
            for turn in range(ROUNDS)
        ]
        status, said = device.ask("POST", "/api/replica", {"account": account, "documents": looks})
        assert status == 200, said
        assert not any(each["refused"] for each in said["results"]), said
        return len(looks)

    with ThreadPoolExecutor(len(devices)) as threads:
        written = sum(threads.map(write, devices))
    documents: list[dict[str, Any]] = []
    until, head = 0, 1
    while until < head:
        page = devices[0].ask("GET", f"/api/replica?since={until}&limit=200")[1]
        documents, until, head = documents + page["documents"], page["until"], page["head"]
    assert len({each["number"] for each in documents}) == len(documents)
    assert sum(each["kind"] == "look" for each in documents) >= written


def test_of_two_accounts_that_give_a_frame_one_key_at_once_one_has_it(visitors: dict[str, list[SignedIn]]) -> None:
    both = [visitors["sanna"][0], visitors["runa"][0]]
    for _ in range(ROUNDS):
        key = str(uuid4())
        asked = [frame(id=key, note=name) for name in ("sanna's", "runa's")]
        told = at_once([(visit, f"/api/frames/{key}", each) for visit, each in zip(both, asked, strict=True)])
        assert sorted(told) == [200, 409]
        winner = told.index(200)
        assert both[winner].ask("GET", f"/api/frames/{key}")[1]["note"] == asked[winner]["note"]
        assert both[1 - winner].ask("GET", f"/api/frames/{key}")[0] == 404
