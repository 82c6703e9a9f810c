"""Whose it is: every operation of an account walked signed out, for another account, and with somebody else's keys."""

from __future__ import annotations

import json
from typing import Any
from uuid import uuid4

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db.models import QuerySet
from django.test import Client

from jackstaff.demo import load as demo
from jackstaff.records.models import Frame, FrameEvent, FrameGlass, FramePicture, KitItem, Outing, Revision

from .conftest import SCHEMA
from .shots import jpeg

pytestmark = pytest.mark.django_db

OWN = [
    (method, path)
    for path, operations in SCHEMA["paths"].items()
    for method, operation in operations.items()
    if "security" in operation
]
KEYED = [(method, path) for method, path in OWN if "{key}" in path]


class Two:
    """The demo account with all it holds, and somebody with nothing."""

    def __init__(self) -> None:
        self.owner, self.stranger = Client(), Client()
        account, other = demo.load(), User.objects.create_user("joar")
        self.owner.force_login(account)
        self.stranger.force_login(other)
        self.account = account.pk
        pictured = FramePicture.objects.filter(frame__account=account).first()
        assert pictured is not None
        self.frame = str(pictured.frame_id)
        self.outing = self.owner.get("/api/outings").json()["outings"][0]["id"]
        self.thing = next(item["id"] for item in reversed(self.owner.get("/api/kit").json()["items"]))

    def held(self) -> dict[str, list[dict[str, Any]]]:
        """Everything of the owner, row by row, with their count of changes."""
        rows: list[QuerySet[Any]] = [
            *(model.objects.filter(account=self.account) for model in (Frame, KitItem, Outing, Revision)),
            *(model.objects.filter(frame__account=self.account) for model in (FrameEvent, FrameGlass, FramePicture)),
        ]
        return {found.model.__name__: list(found.order_by("pk").values()) for found in rows}

    def key(self, path: str) -> str:
        """A key of the owner's that fits this path."""
        return next(key for part, key in self._keys().items() if part in path)

    def body(self, path: str) -> Any:
        """What the owner themselves could write there."""
        if "picture" in path:
            return {"file": SimpleUploadedFile("a.jpg", jpeg())}
        return json.dumps(self.owner.get("/api/outings").json()["outings"][0] if "outings" in path else self._frame())

    def _keys(self) -> dict[str, str]:
        return {"frames": self.frame, "outings": self.outing, "kit": self.thing}

    def _frame(self) -> dict[str, Any]:
        shown = self.owner.get(f"/api/frames/{self.frame}").json()
        more = ("actual_seconds", "error", "pictured", "refused")
        return {name: value for name, value in shown.items() if name not in more} | {"note": "mine now"}


@pytest.fixture
def two() -> Two:
    return Two()


def call(client: Client, method: str, path: str, body: Any = None, **headers: str) -> int:
    how: dict[str, Any] = {"content_type": "application/json"} if not isinstance(body, dict) else {}
    if method == "get":
        return client.get(path, **headers).status_code  # type: ignore[arg-type]
    status: int = getattr(client, method)(path, body if body is not None else "{}", **how, **headers).status_code
    return status


def test_nobody_and_nobody_else_passes_the_door(two: Two) -> None:
    before = two.held()
    for method, path in OWN:
        address = path.replace("{key}", two.key(path) if "{key}" in path else "")
        assert call(Client(), method, address) == 401, (method, path)
        # A page that shows the owner, where somebody else has signed in meanwhile.
        assert call(two.stranger, method, address, HTTP_X_JACKSTAFF_ACCOUNT=str(two.account)) == 409, (method, path)
        assert two.held() == before, (method, path)


def test_a_key_of_somebody_else_s_opens_nothing(two: Two) -> None:
    before = two.held()
    # An outing's key is the account's own: the stranger makes one of theirs. A frame's is everybody's, and taken.
    expected = {("put", "/api/outings/{key}"): 200, ("put", "/api/frames/{key}"): 409}
    for method, path in sorted(KEYED):
        body = two.body(path) if method in ("put", "post") else None
        if (method, path) == ("delete", "/api/outings/{key}"):
            assert not Outing.objects.filter(account__username="joar").exists()
        status = call(two.stranger, method, path.replace("{key}", two.key(path)), body)
        assert status == expected.get((method, path), 404), (method, path)
        assert two.held() == before, (method, path)


def test_a_forged_key_is_not_there(two: Two) -> None:
    before = two.held()
    for method, path in KEYED:
        body = two.body(path) if method in ("put", "post") else None
        status = call(two.owner, method, path.replace("{key}", str(uuid4())), body)
        # What is put must stand at its own address.
        assert status == (422 if method == "put" else 404), (method, path)
        assert two.held() == before, (method, path)


def test_a_parcel_for_another_account_or_with_their_frame_changes_nothing_of_theirs(two: Two) -> None:
    before = two.held()
    frame = json.loads(two.body("/api/frames/"))
    change = {"kind": "frame", "id": two.frame, "write": str(uuid4()), "base": 0, "changed_at": frame["opened_at"]}
    for account, content in ((two.account, frame), (None, frame), (None, None)):
        named = account or User.objects.get(username="joar").pk
        parcel = {"account": named, "documents": [{**change, "write": str(uuid4()), "content": content}]}
        response = two.stranger.post("/api/replica", json.dumps(parcel), content_type="application/json")
        assert response.status_code == (409 if account else 200)
        if content and not account:
            assert response.json()["results"][0]["refused"][0]["problem"] == "This key is taken by somebody else."
        assert two.held() == before
