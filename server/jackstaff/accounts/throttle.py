"""How often somebody may be wrong about a password, wherever one is asked for, whatever page or worker they ask."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from ipaddress import IPv4Address, ip_address, ip_network
from typing import TypeVar

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.core import signing
from django.http import HttpRequest, HttpResponse
from ninja.throttling import BaseThrottle

from jackstaff.uptime import uptime_count, uptime_seconds

from .tries import count_wrong, forget_wrong, seconds_to_wait

Somebody = TypeVar("Somebody", bound=AbstractBaseUser)
KNOWN = "jackstaff_known"
_A_YEAR = 60 * 60 * 24 * 365
_SENDER = BaseThrottle()
"""Who asks: the connection's own address, or what a proxy of one's own says of it."""


class TooManyGuesses(Exception):
    """There were too many wrong passwords: the next one has to wait."""

    def __init__(self, seconds: int) -> None:
        super().__init__(seconds)
        self.seconds = seconds


def _network(address: str) -> str:
    """Return where a sender is: of IPv6 the network, in which anybody has more addresses than could be counted."""
    try:
        sender = ip_address(address.partition("%")[0])
    except ValueError:
        return address
    if isinstance(sender, IPv4Address):
        return str(sender)
    return str(sender.ipv4_mapped or ip_network((sender, 64), strict=False))


def remember_browser(response: HttpResponse, name: str) -> None:
    """Somebody has signed in with this browser: it counts by itself from now on."""
    value = signing.dumps([name.casefold(), secrets.token_hex(8)], salt=KNOWN)
    response.set_cookie(KNOWN, value, max_age=_A_YEAR, samesite="Lax", httponly=True, secure=settings.SECURE)


def _known_browser(request: HttpRequest, name: str) -> str | None:
    """Return which browser it is, where this name has signed in with it before."""
    try:
        known, browser = signing.loads(request.COOKIES.get(KNOWN, ""), salt=KNOWN, max_age=_A_YEAR)
    except (signing.BadSignature, ValueError, TypeError):
        return None
    return browser if known == name.casefold() else None


def guessed(request: HttpRequest, name: str, check: Callable[[], Somebody | None]) -> Somebody | None:
    """Return whoever the password belongs to by ``check``; None is counted as wrong.

    Raises
    ------
    TooManyGuesses
        For this name or from this address; the password was not looked at.
    """
    who = {"name": name.casefold(), "address": _network(_SENDER.get_ident(request) or "")}
    if browser := _known_browser(request, name):
        # What strangers try, by this name or from this address, locks nobody out of their own browser.
        who = {kind: f"{value} in {browser}" for kind, value in who.items()}
    count = uptime_count()
    if wait := seconds_to_wait(who, uptime_seconds(), count):
        raise TooManyGuesses(wait)
    found = check()
    if found is None:
        count_wrong(who, uptime_seconds(), count)
    else:
        forget_wrong(who)
    return found
