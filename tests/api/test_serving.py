"""How it is served: the signing key, the sign-in throttle, and standing behind a proxy that speaks TLS."""

from __future__ import annotations

import fcntl
import gzip
import itertools
import json
import os
import signal
import socket
import ssl
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from http.client import HTTPConnection, HTTPResponse, HTTPSConnection
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import pytest
from django.contrib.auth.models import User
from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from django.test import Client
from ninja.conf import settings as ninja_settings
from tools.serving import ROOT, serving

import serve
from jackstaff.demo.load import ACCOUNT as DEMO_ACCOUNT
from jackstaff.records.models import SignInTries
from jackstaff.records.transactions import all_or_none
from jackstaff.site import deadline
from jackstaff.site.certificate import own_certificate
from jackstaff.site.compress import CompressJson
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


def try_in(name: str, password: str, address: str = "192.0.2.1", **headers: str) -> tuple[int, str, str]:
    """Sign in from an address: the status, the cure, and how long to wait."""
    client = Client(REMOTE_ADDR=address)
    body = json.dumps({"username": name, "password": password})
    response = client.post("/api/session", body, content_type="application/json", headers=headers)
    cure = response.json()["errors"][0]["instead"] if response.status_code != 200 else ""
    return response.status_code, cure, response.headers.get("Retry-After", "")


@pytest.fixture
def edda(db: None) -> User:
    return User.objects.create_user("edda", password="the-tarn-at-noon")


@pytest.mark.usefixtures("edda")
def test_wrong_passwords_are_counted_by_name_whatever_address_is_claimed(monkeypatch: pytest.MonkeyPatch) -> None:
    clock = [1000.0]
    monkeypatch.setattr("jackstaff.accounts.throttle.uptime_seconds", lambda: clock[0])
    answers = [try_in("Edda", "x", f"192.0.2.{turn}")[0] for turn in range(11)]
    assert answers == [401] * 10 + [429]
    # The right one has to wait as well, and is told for how long; nobody else does.
    clock[0] += 60
    assert try_in("edda", "the-tarn-at-noon", "198.51.100.1") == (429, "Try again in 4 min.", "240")
    assert try_in("joar", "x", "198.51.100.1")[0] == 401
    # What a clock says is nothing to it; when the window is over it is over.
    clock[0] += 241
    assert try_in("edda", "the-tarn-at-noon", "198.51.100.1")[0] == 200


@pytest.mark.usefixtures("edda")
@pytest.mark.parametrize(
    ("proxies", "forwarded", "last"),
    [
        # Nothing in front: what the sender claims counts for nothing.
        (0, "10.0.0.{turn}", 429),
        # One proxy: its own entry, the last, counts; what stands before it is the sender's claim.
        (1, "10.0.0.{turn}, 192.0.2.7", 429),
        (1, "192.0.2.7, 10.0.0.{turn}", 401),
    ],
)
def test_wrong_passwords_are_counted_by_address_whatever_name_is_tried(
    monkeypatch: pytest.MonkeyPatch, proxies: int, forwarded: str, last: int
) -> None:
    if proxies:
        monkeypatch.setattr(ninja_settings, "NUM_PROXIES", proxies)
    given = [{"X-Forwarded-For": forwarded.format(turn=turn)} for turn in range(31)]
    answers = [try_in(f"nobody-{turn}", "x", **headers)[0] for turn, headers in enumerate(given)]
    assert answers == [401] * 30 + [last]
    # A right password gives the name its tries back, and the address none.
    assert SignInTries.objects.count() <= 62


@pytest.mark.django_db
def test_an_ipv6_network_is_one_sender_and_its_neighbour_another() -> None:
    answers = [try_in(f"nobody-{turn}", "x", f"2001:db8:1:2:{turn:x}::{turn:x}")[0] for turn in range(1, 32)]
    assert answers == [401] * 30 + [429]
    assert try_in("nobody", "x", "2001:db8:1:3::1")[0] == 401
    # Written as IPv6 an IPv4 sender is still one of many in its network.
    assert try_in("nobody", "x", "::ffff:192.0.2.8")[0] == 401


@pytest.mark.django_db
@pytest.mark.parametrize(("demo", "status"), [(False, 401), (True, 200)])
def test_the_published_password_opens_nothing_where_there_is_no_demo(settings: Any, demo: bool, status: int) -> None:
    settings.DEMO = demo
    User.objects.create_user(DEMO_ACCOUNT, password="published-to-all")
    assert try_in(DEMO_ACCOUNT, "published-to-all")[0] == status


def test_answers_go_out_compressed_where_that_is_taken_and_pictures_as_they_are() -> None:
    raw = Client().get("/api/start")
    small = Client().get("/api/start", headers={"Accept-Encoding": "gzip"})
    assert small.headers["Content-Encoding"] == "gzip"
    assert len(small.content) < len(raw.content) / 3
    assert "Accept-Encoding" in small.headers["Vary"]
    assert json.loads(gzip.decompress(small.content)).keys() == raw.json().keys()
    request = HttpRequest()
    request.META["HTTP_ACCEPT_ENCODING"] = "gzip"
    picture = HttpResponse(b"x" * 5000, content_type="image/png")
    drawn = CompressJson(lambda _request: picture).process_response(request, picture)
    assert "Content-Encoding" not in drawn.headers


@pytest.mark.usefixtures("edda")
def test_a_right_password_forgets_the_wrong_ones_before_it(monkeypatch: pytest.MonkeyPatch) -> None:
    for _ in range(2):
        assert [try_in("edda", "x")[0] for _ in range(9)] == [401] * 9
        assert try_in("edda", "the-tarn-at-noon")[0] == 200
    # Another start of the machine counts anew.
    assert [try_in("edda", "x", "192.0.2.9")[0] for _ in range(11)][-1] == 429
    monkeypatch.setattr("jackstaff.accounts.throttle.uptime_count", lambda: "another")
    assert try_in("edda", "x", "192.0.2.9")[0] == 401


def test_the_demo_starts_the_server_that_the_tests_start() -> None:
    started = [line.strip() for line in (ROOT / "Makefile").read_text().splitlines() if "gunicorn" in line]
    assert started == ["exec $(BIN)/gunicorn -c server/gunicorn.conf.py"]


@pytest.mark.usefixtures("edda")
def test_strangers_lock_nobody_out_of_the_browser_they_sign_in_with() -> None:
    own, other = Client(), Client()

    def sign_in(client: Client, name: str, password: str) -> int:
        body = json.dumps({"username": name, "password": password})
        return client.post("/api/session", body, content_type="application/json").status_code

    assert sign_in(own, "edda", "the-tarn-at-noon") == 200
    assert sign_in(other, "edda", "the-tarn-at-noon") == 200
    assert [try_in("edda", "x", f"192.0.2.{turn}")[0] for turn in range(11)][-1] == 429
    assert sign_in(own, "edda", "the-tarn-at-noon") == 200
    # By itself it may not guess without end either, and not by another name.
    assert [sign_in(own, "edda", "x") for _ in range(11)] == [401] * 10 + [429]
    assert sign_in(other, "edda", "the-tarn-at-noon") == 200
    other.cookies["jackstaff_known"] = other.cookies["jackstaff_known"].value + "x"
    assert sign_in(other, "edda", "the-tarn-at-noon") == 429


@pytest.mark.parametrize(("path", "field"), [("password", "current"), ("end", "password")])
def test_an_open_page_is_no_place_to_guess_passwords_either(edda: User, path: str, field: str) -> None:
    client = Client()
    client.force_login(edda)
    body = json.dumps({field: "x", **({"new": "the-mole-at-noon"} if path == "password" else {})})
    answers = [
        client.post(f"/api/account/{path}", body, content_type="application/json").status_code for _ in range(11)
    ]
    assert answers == [422] * 10 + [429]
    # They are the same tries, wherever the password is asked for.
    assert try_in("edda", "the-tarn-at-noon", "198.51.100.1")[0] == 429


def test_signing_out_elsewhere_ends_every_other_visit_of_this_account_alone(edda: User) -> None:
    joar = User.objects.create_user("joar", password="the-tarn-at-noon")
    here, there, another = Client(), Client(), Client()
    for client, account in ((here, edda), (there, edda), (another, joar)):
        client.force_login(account)
    answered = here.post("/api/account/elsewhere", "{}", content_type="application/json")
    assert (answered.status_code, answered.json()["username"]) == (200, "edda")
    assert [client.get("/api/session").json()["username"] for client in (here, there, another)] == [
        "edda",
        None,
        "joar",
    ]
    assert Client().post("/api/account/elsewhere").status_code == 401


@pytest.mark.parametrize(
    ("method", "path", "status", "field"),
    [
        ("PUT", "/api/exposure", 405, "request"),
        ("DELETE", "/api/health", 405, "request"),
        ("GET", "/api/exposure", 405, "request"),
        ("GET", "/api/nowhere", 404, "path"),
        ("GET", "/api/frames", 401, "session"),
        ("POST", "/api/frames/photo", 400, "request"),
    ],
)
def test_every_refusal_has_the_agreed_body(method: str, path: str, status: int, field: str) -> None:
    form = "multipart/form-data; boundary=" if path.endswith("photo") else "application/json"
    response = Client().generic(method, path, "{}", content_type=form)
    (fault,) = response.json()["errors"]
    assert (response.status_code, fault["field"]) == (status, field)
    assert all(fault[part].endswith(".") for part in ("problem", "instead"))
    if status == 405:
        assert method in fault["problem"]
        assert not response.headers["Allow"] or response.headers["Allow"] in fault["instead"]


@pytest.mark.django_db
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
    assert headers["Permissions-Policy"] == "camera=(self), microphone=(), geolocation=(self)"
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


def served_environment(data: Path) -> dict[str, str]:
    """Ours without what is set for tests alone."""
    own = {
        name: value for name, value in os.environ.items() if name not in ("DJANGO_ALLOW_ASYNC_UNSAFE", "JACKSTAFF_DEMO")
    }
    return {**own, "JACKSTAFF_DATA_DIR": str(data)}


OWN_TLS = {"JACKSTAFF_CERT": "x", "JACKSTAFF_KEY": "x", "JACKSTAFF_HOSTS": "rocks.test"}


@pytest.mark.parametrize(
    ("more", "fit"),
    [
        ({}, False),
        ({"JACKSTAFF_PROXIES": "1", "JACKSTAFF_HOSTS": "rocks.test"}, True),
        (OWN_TLS, True),
        ({**OWN_TLS, "JACKSTAFF_AUTHORITY": "x"}, True),
    ],
)
def test_what_is_served_to_others_passes_django_s_own_check(tmp_path: Path, more: dict[str, str], fit: bool) -> None:
    command = [sys.executable, str(ROOT / "server/manage.py"), "check", "--deploy", "--fail-level", "WARNING"]
    environment = {**served_environment(tmp_path), **more}
    assert (subprocess.run(command, env=environment, check=False, capture_output=True).returncode == 0) == fit


@pytest.mark.parametrize(
    ("asked", "said"),
    [
        ({}, "HOST is missing"),
        ({"HOST": "https://rocks.test"}, "no name or address"),
        ({"HOST": "rocks.test", "PORT": "door"}, "no port"),
        ({"HOST": "rocks.test", "CERT": "chain.pem"}, "belong together"),
        ({"HOST": "rocks.test", "CERT": "a", "KEY": "b", "PROXIES": "1"}, "belong to the proxy"),
        ({"HOST": "rocks.test", "PROXIES": "one"}, "no number of proxies"),
        ({"HOST": "rocks.test", "JACKSTAFF_DEMO": "1"}, "for this machine alone"),
    ],
)
def test_what_is_missing_to_serve_is_said(asked: dict[str, str], said: str) -> None:
    with pytest.raises(serve.Unclear, match=said):
        serve.read(asked)


@pytest.mark.parametrize(
    ("asked", "address"),
    [
        ({"HOST": "192.0.2.7"}, "https://192.0.2.7:8443"),
        ({"HOST": "Rocks.test,192.0.2.7", "PORT": "443"}, "https://rocks.test"),
        ({"HOST": "2001:db8::7"}, "https://[2001:db8::7]:8443"),
        ({"HOST": "rocks.test", "PROXIES": "1"}, "https://rocks.test"),
    ],
)
def test_where_a_phone_finds_it(asked: dict[str, str], address: str) -> None:
    assert serve.read(asked).address == address


def test_one_s_own_certificate_is_made_anew_for_other_names_and_before_its_end(tmp_path: Path) -> None:
    now = datetime(2027, 4, 17, tzinfo=UTC)
    made = [
        own_certificate(tmp_path / "tls", hosts, now + timedelta(days=days))
        for hosts, days in (
            (["192.0.2.7"], 0), (["192.0.2.7"], 789), (["rocks.test", "192.0.2.7"], 789),
            (["rocks.test", "192.0.2.7"], 789 + 789), (["rocks.test", "192.0.2.7"], 789 + 791),
        )
    ]  # fmt: skip
    assert made == [True, False, True, False, True]
    (tmp_path / "tls" / "server.key").unlink()
    assert own_certificate(tmp_path / "tls", ["rocks.test", "192.0.2.7"], now + timedelta(days=789 + 791))
    assert all(path.stat().st_mode & 0o077 == 0 for path in (tmp_path / "tls").iterdir())


def test_a_phone_that_trusts_the_certificate_is_served_over_tls(tmp_path: Path) -> None:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    environment = {**served_environment(tmp_path / "data"), "HOST": "127.0.0.1", "PORT": str(port)}
    command = [sys.executable, str(ROOT / "server/serve.py")]
    with subprocess.Popen(
        command, env=environment, stdout=subprocess.PIPE, start_new_session=True, text=True
    ) as served:
        try:
            assert served.stdout is not None
            said = list(itertools.takewhile(lambda line: "is ready" not in line, served.stdout))
            assert f"Jackstaff at https://127.0.0.1:{port}\n" in said
            # Handshakes that are begun and left cost nobody anything.
            left = [socket.create_connection(("127.0.0.1", port), timeout=60) for _ in range(20)]
            trusting = ssl.create_default_context(cafile=str(tmp_path / "data/tls/authority.crt"))

            def ask(method: str, path: str, body: str | None = None) -> HTTPResponse:
                connection = HTTPSConnection("127.0.0.1", port, context=trusting, timeout=60)
                connection.request(method, path, body, {"Content-Type": "application/json"})
                return connection.getresponse()

            session = ask("GET", "/api/session")
            assert "Secure" in (session.headers["Set-Cookie"] or "")
            assert json.load(session)["signed_in"] is False
            # A name of one's own may serve other things without TLS.
            assert session.headers["Strict-Transport-Security"] is None
            # Longer than what one record holds, in both directions.
            assert ask("POST", "/api/readout", json.dumps({"text": "9" * 3_000_000})).status == 422
            assert len(ask("GET", "/").read()) > 500
            phone = json.load(ask("GET", "/api/phone"))
            assert (phone["address"], phone["own_certificate"]) == (f"https://127.0.0.1:{port}", True)
            assert {len(row) for row in phone["code"]} == {len(phone["code"])}
            authority = ask("GET", "/authority.crt")
            assert authority.read() == (tmp_path / "data/tls/authority.crt").read_bytes()
            assert authority.headers["Content-Type"] == "application/x-x509-ca-cert"
            with pytest.raises(OSError, match="CERTIFICATE_VERIFY_FAILED"):
                HTTPSConnection("127.0.0.1", port, timeout=60).request("GET", "/")
            for connection in left:
                connection.close()
        finally:
            os.killpg(served.pid, signal.SIGTERM)
    assert {path.name for path in (tmp_path / "data").iterdir() if path.stat().st_mode & 0o077} <= {"postgres"}


def test_slow_senders_hold_nobody_up_and_a_body_too_large_is_not_taken_in(proxied: str) -> None:
    host, port = proxied.split(":")

    def begun(path: str, length: int) -> socket.socket:
        connection = socket.create_connection((host, int(port)), timeout=60)
        head = f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: {length}\r\n\r\n"
        connection.sendall(head.encode() + b"{")
        return connection

    slow = [begun("/api/exposure", 100) for _ in range(440)]
    asked = HTTPConnection(proxied, timeout=60)
    asked.request("GET", "/api/health")
    assert asked.getresponse().status == 200
    for path, length, taken in (
        ("/api/exposure", 8_000_001, False), ("/api/frames/photo", 121_000_001, False),
        ("/api/frames/pair", 241_000_001, False), ("/api/account/archive", 401_000_001, False),
        ("/api/exposure", 7_900_000, True), ("/api/looks", 7_900_000, True),
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
    for line, status, said in (
        ("GET /api/exposure?" + "x" * 300_000 + " HTTP/1.1", 414, b"too large"),
        ("GET /api/health HTTP/1.1\r\nContent-Length: nothing", 400, b"Content-Length"),
        ("GET /api/health HTTP/1.1\r\nHost: elsewhere.test", 400, b"does not answer to that name"),
        # A hyphen and an underscore are not one name: what a proxy says of addresses is said by nobody else.
        ("GET /api/health HTTP/1.1\r\nHost: 127.0.0.1\r\nX_Forwarded_Proto: https", 200, b"ok"),
        # More than anybody may send without an account, to an address that needs one.
        ("POST /api/replica HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 100000", 401, b"not signed in"),
        (
            "POST /api/replica HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: jackstaff_session=x\r\n"
            "Transfer-Encoding: chunked\r\n\r\n11170\r\n" + 70_000 * "x" + "\r\n0",
            401,
            b"not signed in",
        ),
    ):
        with socket.create_connection((host, int(port)), timeout=60) as connection:
            connection.sendall(f"{line}\r\n\r\n".encode())
            answer = HTTPResponse(connection)
            answer.begin()
            assert (answer.status, said in answer.read()) == (status, True)


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("said", "status", "cure"),
    [
        ("database is locked", 503, "in a few seconds"),
        ("database or disk is full", 507, "make room"),
        ("disk I/O error", 503, "look at its disk"),
        ("attempt to write a readonly database", 503, "let it write"),
        ("unable to open database file", 503, "make restore"),
        ("server closed the connection unexpectedly", 503, "is sent again"),
        ("something else", 500, "Try again"),
    ],
)
def test_a_database_that_fails_is_said_in_words(
    monkeypatch: pytest.MonkeyPatch, said: str, status: int, cure: str
) -> None:
    def fail(*_: object, **__: object) -> None:
        raise OperationalError(said)

    monkeypatch.setattr("jackstaff.api.session.authenticate", fail)
    client = Client(raise_request_exception=False)
    body = json.dumps({"username": "edda", "password": "x"})
    response = client.post("/api/session", body, content_type="application/json")
    assert response.status_code == status
    (fault,) = response.json()["errors"]
    assert cure in fault["instead"]
    assert "Retry-After" in response.headers or status == 500


@pytest.mark.django_db(transaction=True)
def test_a_late_request_ends_between_two_transactions_and_never_within_one(monkeypatch: pytest.MonkeyPatch) -> None:
    done: list[str] = []

    def late(request: HttpRequest) -> HttpResponse:
        with all_or_none():
            # Time runs out with the write lock held: what was begun is ended by itself.
            time.sleep(0.15)
            User.objects.create(username=f"late{len(done)}")
            done.append("first")
        with all_or_none():
            done.append("second")
        return HttpResponse()

    monkeypatch.setattr(deadline, "MOST_SECONDS", 0.1)
    response = deadline.Deadline(late)(HttpRequest())
    assert response.status_code == 503
    assert "nothing was kept" in json.loads(response.content)["errors"][0]["problem"]
    assert (done, User.objects.filter(username="late0").count()) == (["first"], 1)
    # Nothing holds the lock: the next one writes at once.
    with all_or_none():
        User.objects.create(username="next")
    # A log that goes in by chunks may be kept in part, and that is said.
    monkeypatch.setattr(deadline, "MOST_SECONDS_FILES", 0.1)
    taking_in = HttpRequest()
    taking_in.path = "/api/log/read"
    said = json.loads(deadline.Deadline(late)(taking_in).content)["errors"][0]
    assert ("a part of it may be kept" in said["problem"], "again" in said["instead"]) == (True, True)
    # Many that just make it are left alone, in the same thread.
    watched = deadline.Deadline(lambda _request: HttpResponse("in time"))
    assert all(watched(HttpRequest()).status_code == 200 for _ in range(2000))
    with pytest.raises(ZeroDivisionError):
        deadline.Deadline(lambda _request: HttpResponse(1 // 0))(HttpRequest())
