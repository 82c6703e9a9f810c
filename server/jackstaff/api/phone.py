"""Where a phone finds this server, as an address and as a code to point its camera at."""

from __future__ import annotations

import segno
from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema

router = Router(tags=["phone"])


class PhoneAnswer(Schema):
    """The address, none where only this machine is served; ``code`` is its drawing, a text of 0 and 1 a row."""

    address: str | None
    code: list[str]
    own_certificate: bool


@router.get("/phone", response=PhoneAnswer)
def phone(request: HttpRequest) -> dict[str, object]:
    """Return what *Open on my phone* shows."""
    address = settings.SERVED_AT or None
    rows = segno.make(address, micro=False).matrix if address else ()
    code = ["".join("01"[bit] for bit in row) for row in rows]
    return {"address": address, "code": code, "own_certificate": settings.AUTHORITY is not None}
