"""How it is served: the signing key, the sign-in throttle, and standing behind a proxy that speaks TLS."""

from __future__ import annotations

import fcntl
import json
import socket
import threading
from collections.abc import Callable, Iterator
from http.client import HTTPConnection, HTTPResponse
from pathlib import Path
from urllib.parse import urlsplit

import pytest
from django.core.cache import cache
from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.test import Client
from ninja.conf import settings as ninja_settings
from tools.serving import serving

from jackstaff.site import deadline
from jackstaff.site.secret import secret_key


def test_whoever_comes_while_the_key_is_being_made_waits_for_it(tmp_path: Path) -> None:
    path = tmp_path / "secret_key"
    read: list[str] = []
    with path.open("w") as being_made:
        fcntl.flock(being_made, fcntl.LOCK_EX)
        late = threading.Thread(target=lambda: read.append(secret_key(path)))
        late.start()
        # An impatient reader is done here, with an empty key.
        late.join(0.2)
        being_made.write("made by the first")
    late.join(15)
    assert read == ["made by the first"]


@pytest.mark.parametrize("left", [None, "", "\n"])
def test_a_missing_or_empty_key_is_made_once_and_kept_from_others(tmp_path: Path, left: str | None) -> None:
    path = tmp_path / "secret_key"
    if left is not None:
        path.touch(0o600)
        path.write_text(left)
    key = secret_key(path)
    assert len(key) >= 50
    assert secret_key(path) == key
    assert path.stat().st_mode & 0o077 == 0


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("proxies", "forwarded", "last"),
    [
        # Nothing in front: what the sender claims counts for nothing.
        (0, "10.0.0.{turn}", 429),
        # One proxy: its own entry, the last, counts; what stands before it is the sender's claim.
        (1, "10.0.0.{turn}, 192.0.2.7", 429),
        (1, "192.0.2.7, 10.0.0.{turn}", 403),
    ],
)
def test_signing_in_is_throttled_whatever_the_sender_claims(
    monkeypatch: pytest.MonkeyPatch, proxies: int, forwarded: str, last: int
) -> None:
    if proxies:
        monkeypatch.setattr(ninja_settings, "NUM_PROXIES", proxies)
    cache.clear()
    client = Client(enforce_csrf_checks=True, REMOTE_ADDR="192.0.2.1")
    body = json.dumps({"username": "edda", "password": "x"})
    answers = [
        client.post(
            "/api/session", body, content_type="application/json", HTTP_X_FORWARDED_FOR=forwarded.format(turn=turn)
        ).status_code
        for turn in range(31)
    ]
    cache.clear()
    assert answers == [403] * 30 + [last]


@pytest.mark.parametrize("path", ["/", "/api/health", "/api/nowhere", "/api/exposure"])
def test_every_answer_keeps_foreign_scripts_and_frames_out(path: str) -> None:
    headers = Client().get(path).headers
    policy = dict(part.split(" ", 1) for part in headers["Content-Security-Policy"].split("; "))
    assert policy == {
        "default-src": "'self'", "script-src": "'self' 'wasm-unsafe-eval'", "style-src": "'self'",
        "worker-src": "'self'", "img-src": "'self' data: blob:", "object-src": "'none'", "base-uri": "'none'",
        "form-action": "'self'", "frame-ancestors": "'none'",
    }  # fmt: skip
    assert headers["X-Frame-Options"] == "DENY"
    assert headers["X-Content-Type-Options"] == "nosniff"
    assert headers["Referrer-Policy"] == headers["Cross-Origin-Opener-Policy"] == "same-origin"
    assert headers["Permissions-Policy"] == "camera=(), microphone=(), geolocation=(self)"
    # Over plain HTTP on one's own machine it would lock the browser out.
    assert "Strict-Transport-Security" not in headers


@pytest.fixture(scope="module")
def proxied(fresh_data: Callable[[str], Path]) -> Iterator[str]:
    """Host and port of a server that stands behind a proxy."""
    settings = {"JACKSTAFF_HOSTS": "rocks.test", "JACKSTAFF_PROXIES": "1"}
    with serving(fresh_data("served"), more=settings) as server:
        yield urlsplit(server.url).netloc


def test_behind_a_proxy_with_tls_the_page_can_sign_in_and_its_cookies_are_secure(proxied: str) -> None:
    def ask(method: str, origin: str, body: object = None, **more: str) -> HTTPResponse:
        connection = HTTPConnection(proxied, timeout=60)
        headers = {"Host": "rocks.test", "X-Forwarded-Proto": "https", "Origin": origin, **more}
        connection.request(method, "/api/session", json.dumps(body), headers)
        return connection.getresponse()

    assert ask("GET", "https://rocks.test").headers["Strict-Transport-Security"] == "max-age=31536000"
    cookies = ask("GET", "https://rocks.test").headers.get_all("set-cookie") or []
    assert [cookie.split("=")[0] for cookie in cookies] == ["jackstaff_csrf"]
    assert "Secure" in cookies[0]
    pair = cookies[0].split(";")[0]
    token = {"X-CSRFToken": pair.split("=")[1], "Cookie": pair, "Content-Type": "application/json"}
    who = {"username": "edda", "password": "no such"}
    assert ask("POST", "https://rocks.test", who, **token).status == 401
    assert ask("POST", "https://elsewhere.test", who, **token).status == 403


def test_slow_senders_hold_nobody_up_and_a_body_too_large_is_not_taken_in(proxied: str) -> None:
    host, port = proxied.split(":")

    def begun(path: str, length: int) -> socket.socket:
        connection = socket.create_connection((host, int(port)), timeout=60)
        head = f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {length}\r\n\r\n"
        connection.sendall(head.encode() + b"{")
        return connection

    slow = [begun("/api/exposure", 100) for _ in range(40)]
    asked = HTTPConnection(proxied, timeout=60)
    asked.request("GET", "/api/health")
    assert asked.getresponse().status == 200
    for path, length, taken in (
        ("/api/exposure", 8_000_000, False), ("/api/frames/photo", 121_000_000, False),
        ("/api/frames/pair", 241_000_000, False), ("/api/account/archive", 401_000_000, False),
        ("/api/exposure", 7_900_000, True), ("/api/account/archive", 400_000_000, True),
    ):  # fmt: skip
        connection = begun(path, length)
        if taken:
            connection.settimeout(0.2)
            with pytest.raises(TimeoutError):
                connection.recv(1)
        else:
            answer = HTTPResponse(connection)
            answer.begin()
            assert (answer.status, json.load(answer)["errors"][0]["field"]) == (413, "body")
        connection.close()
    for connection in slow:
        connection.close()


@pytest.mark.django_db
@pytest.mark.parametrize(("said", "status"), [("database is locked", 503), ("disk I/O error", 500)])
def test_a_database_that_fails_is_said_in_words(monkeypatch: pytest.MonkeyPatch, said: str, status: int) -> None:
    def fail(*_: object, **__: object) -> None:
        raise OperationalError(said)

    monkeypatch.setattr("jackstaff.api.session.authenticate", fail)
    client = Client(raise_request_exception=False)
    body = json.dumps({"username": "edda", "password": "x"})
    response = client.post("/api/session", body, content_type="application/json")
    assert response.status_code == status
    assert "nothing was kept" in response.json()["errors"][0]["problem"]


def test_a_request_past_its_time_is_ended_with_words_and_the_thread_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    def endless(request: HttpRequest) -> HttpResponse:
        while True:
            pass

    monkeypatch.setattr(deadline, "MOST_SECONDS", 0.1)
    response = deadline.Deadline(endless)(HttpRequest())
    assert response.status_code == 503
    assert "nothing was kept" in json.loads(response.content)["errors"][0]["problem"]
    # A log that goes in by chunks may be kept in part, and that is said.
    monkeypatch.setattr(deadline, "MOST_SECONDS_FILES", 0.1)
    taking_in = HttpRequest()
    taking_in.path = "/api/log/read"
    said = json.loads(deadline.Deadline(endless)(taking_in).content)["errors"][0]
    assert ("a part of it may be kept" in said["problem"], "again" in said["instead"]) == (True, True)
    # Many that just make it are left alone, in the same thread.
    watched = deadline.Deadline(lambda _request: HttpResponse("in time"))
    assert all(watched(HttpRequest()).status_code == 200 for _ in range(2000))
    with pytest.raises(ZeroDivisionError):
        deadline.Deadline(lambda _request: HttpResponse(1 // 0))(HttpRequest())
