"""Somebody signed in at a running server, asking over HTTP."""

from __future__ import annotations

import json
from http.cookiejar import CookieJar
from typing import Any
from urllib.error import HTTPError
from urllib.request import HTTPCookieProcessor, Request, build_opener


class SignedIn:
    """A visit of its own with the page's token."""

    def __init__(self, url: str, name: str, password: str) -> None:
        self.url = url
        self._jar = CookieJar()
        self._opener = build_opener(HTTPCookieProcessor(self._jar))
        self.ask("GET", "/api/session")
        status, _ = self.ask("POST", "/api/session", {"username": name, "password": password})
        if status != 200:
            raise RuntimeError(f"{name} could not sign in: {status}")

    @property
    def cookies(self) -> dict[str, str]:
        return {cookie.name: cookie.value or "" for cookie in self._jar}

    @property
    def headers(self) -> dict[str, str]:
        return {"X-CSRFToken": self.cookies.get("jackstaff_csrf", ""), "Referer": self.url}

    def ask(self, method: str, path: str, body: Any = None) -> tuple[int, Any]:
        """Return the status and the answer's JSON."""
        status, content = self.fetch(method, path, body)
        return status, json.loads(content or b"null")

    def fetch(self, method: str, path: str, body: Any = None) -> tuple[int, bytes]:
        """Return the status and the answer as it comes."""
        content = None if body is None else json.dumps(body).encode()
        headers = {**self.headers, "Content-Type": "application/json"}
        request = Request(f"{self.url}{path}", content, headers, method=method)  # noqa: S310 (our own server)
        try:
            with self._opener.open(request, timeout=200) as answer:
                return answer.status, answer.read()
        except HTTPError as refused:
            return refused.code, refused.read()
