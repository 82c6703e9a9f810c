"""Bodies on their way in: how large, how slow, of whom, and how many at once."""

from __future__ import annotations

import asyncio
import re
from collections.abc import Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from tools.serving import ROOT

from jackstaff.site import asgi, intake
from jackstaff.site.intake import Body, Gone, Intake, Refused
from jackstaff_core.answering import LONG

LAST: dict[str, Any] = {"type": "http.request", "body": b"", "more_body": False}
GONE = {"type": "http.disconnect"}


def piece(size: int) -> dict[str, Any]:
    return {"type": "http.request", "body": b"x" * size, "more_body": True}


def take(
    messages: Iterable[dict[str, Any]],
    *,
    path: str = "/api/exposure",
    length: int | None = None,
    known: bool = False,
    into: Intake | None = None,
) -> Body:
    """Take a body in; after the last message nothing more comes."""
    coming = iter(messages)

    async def receive() -> dict[str, Any]:
        message = next(coming, None)
        if message is None:
            await asyncio.sleep(60)
        return message or LAST

    async def is_known() -> bool:
        return known

    # Beside a browser test this thread has a loop of its own already.
    with ThreadPoolExecutor(1) as thread:
        return thread.submit(asyncio.run, (into or Intake()).body(path, length, receive, is_known)).result()


@pytest.mark.parametrize(
    ("path", "queue"),
    [
        ("/api/health", "health"),
        ("/api/exposure", "quick"),
        ("/api/looks", "quick"),
        ("/api/replica", "quick"),
        ("/api/frames/9d0b1de6-7a1c-4a34-8c58-2f1d2b7f0a02", "quick"),
        ("/", "quick"),
        # What a hand waits for at the shutter, and right after it.
        ("/api/standins/trigger/open", "quick"),
        ("/api/log/again", "quick"),
        ("/api/light-of-another-name", "quick"),
        ("/api/stacks", "long"),
        ("/api/outing/days", "long"),
        ("/api/log/read", "long"),
        ("/api/frames/photo", "long"),
        ("/api/frames/specks", "long"),
        ("/api/frames/9d0b1de6-7a1c-4a34-8c58-2f1d2b7f0a02/picture", "long"),
    ],
)
def test_a_key_press_waits_for_nothing_that_takes_long(path: str, queue: str) -> None:
    assert asgi.queue_of(path) == queue


def test_what_takes_long_in_the_browser_takes_long_here() -> None:
    source = (ROOT / "web/src/engine/engines.ts").read_text()
    names = re.findall(r'"([a-z/]+)"', source[source.index("new Set([") : source.index("]);")])
    assert set(names) == LONG
    assert {asgi.queue_of(f"/api/{name}") for name in names} == {"long"}


PICTURE = "/api/frames/9d0b1de6-7a1c-4a34-8c58-2f1d2b7f0a02/picture"


@pytest.mark.parametrize(
    ("messages", "how", "status"),
    [
        ([LAST], {"length": 8_000_001}, 413),
        # Whatever its head says, or does not say.
        ([piece(5_000_000), piece(3_000_001), LAST], {}, 413),
        ([piece(100), LAST], {"length": 90}, 400),
        ([LAST], {"length": 64_001, "path": "/api/replica"}, 401),
        ([piece(64_001), LAST], {"path": "/api/replica"}, 401),
        ([piece(64_001), LAST], {"path": PICTURE}, 401),
    ],
)
def test_what_is_not_taken_in(messages: list[dict[str, Any]], how: dict[str, Any], status: int) -> None:
    with pytest.raises(Refused) as refused:
        take(messages, **how)
    assert refused.value.status == status


@pytest.mark.parametrize(
    ("sizes", "how"),
    [
        ([100], {"length": 100}),
        ([], {}),
        ([64_000], {"path": "/api/replica"}),
        ([64_001], {"path": "/api/replica", "known": True}),
        ([64_001], {"path": "/api/exposure"}),
        ([200_000, 200_000], {"path": PICTURE, "known": True}),
    ],
)
def test_what_is_taken_in_is_there_from_its_beginning(sizes: list[int], how: dict[str, Any]) -> None:
    body = take([*map(piece, sizes), LAST], **how)
    assert (body.length, len(body.file.read())) == (sum(sizes), sum(sizes))
    body.close()


def test_a_sender_who_dawdles_or_leaves_is_let_go(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(intake, "BEGINS_SECONDS", 0.01)
    into = Intake()
    with pytest.raises(Refused) as refused:
        take([piece(10)], length=100, into=into)
    assert refused.value.status == 408
    with pytest.raises(Gone):
        take([piece(10), GONE], length=100, into=into)
    # Neither holds anything any more.
    monkeypatch.setattr(intake, "MOST_HELD", 100)
    take([piece(100), LAST], into=into)


def test_all_bodies_together_have_one_bound(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(intake, "MOST_HELD", 100)
    into = Intake()
    first = take([piece(60), LAST], into=into)
    with pytest.raises(Refused) as refused:
        take([piece(60), LAST], into=into)
    assert (refused.value.status, refused.value.retry) == (503, 5)
    first.close()
    take([piece(60), LAST], into=into)
