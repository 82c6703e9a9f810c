"""Who is here: signing in, signing out, and the demo visit."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Router, Schema, Status
from ninja.errors import HttpError
from ninja.utils import check_csrf

from jackstaff.accounts.throttle import guessed, remember_browser
from jackstaff.demo.load import ACCOUNT as DEMO_ACCOUNT
from jackstaff.records.account import Account

from .refusals import Faults
from .schemas import Input, Text

router = Router(tags=["session"])

VISITED = "jackstaff_visited"
_HANDED_ON = ("HTTP_FORWARDED", "HTTP_VIA", "HTTP_X_FORWARDED_FOR", "HTTP_X_FORWARDED_HOST", "HTTP_X_REAL_IP")
"""What a proxy adds: the visitor beside it may be anywhere, whatever host it names."""
_A_YEAR = 60 * 60 * 24 * 365


class SignIn(Input):
    """A name and its password."""

    username: Text
    password: Text


class Session(Schema):
    """Who is here; ``account`` is the number that a page names with what it reads and writes for them."""

    signed_in: bool
    account: int | None
    username: str | None
    demo: bool


@router.get("", response=Session)
def look(request: HttpRequest, response: HttpResponse) -> dict[str, object]:
    """Return who is signed in. Sets the cookie that later writes must echo."""
    return visited(request, response)


def visited(request: HttpRequest, response: HttpResponse) -> dict[str, object]:
    """Return the session of this visit, a first demo visit signed in."""
    if _first_demo_visit(request):
        login(request, Account.objects.get(username=DEMO_ACCOUNT))
        response.set_cookie(VISITED, "1", max_age=_A_YEAR, samesite="Lax", httponly=True)
    get_token(request)
    return here(request)


@router.post("", response={200: Session, 401: Faults, 429: Faults})
def sign_in(request: HttpRequest, response: HttpResponse, credentials: SignIn) -> object:
    """Sign in with Django's accounts; whoever was wrong too often waits."""
    _own_page_only(request)
    name, password = credentials.username, credentials.password
    user = guessed(request, name, lambda: _known(authenticate(request, username=name, password=password)))
    if user is None:
        fault = {
            "field": "password",
            "problem": "This name and password do not belong together.",
            "instead": "Check both, capitals count.",
        }
        return Status(401, {"errors": [fault]})
    login(request, user)
    remember_browser(response, name)
    return Status(200, here(request))


@router.delete("", response=Session)
def sign_out(request: HttpRequest, response: HttpResponse) -> dict[str, object]:
    """Sign out, and stay signed out even where a first demo visit would sign in."""
    _own_page_only(request)
    logout(request)
    response.set_cookie(VISITED, "1", max_age=_A_YEAR, samesite="Lax", httponly=True)
    return here(request)


def here(request: HttpRequest) -> dict[str, object]:
    """Return who is here now."""
    signed_in = request.user.is_authenticated
    return {
        "signed_in": signed_in,
        "account": request.user.pk if signed_in else None,
        "username": request.user.get_username() if signed_in else None,
        "demo": settings.DEMO,
    }


def _known(user: Account | None) -> Account | None:
    """Return whoever may sign in.

    The demo account's password is published, so it opens nothing where there is no demo.
    """
    return None if user is not None and user.get_username() == DEMO_ACCOUNT and not settings.DEMO else user


def _first_demo_visit(request: HttpRequest) -> bool:
    return (
        settings.DEMO
        and VISITED not in request.COOKIES
        and not request.user.is_authenticated
        and request.META.get("REMOTE_ADDR") == "127.0.0.1"
        and not any(name in request.META for name in _HANDED_ON)
        and request.get_host().partition(":")[0] in settings.LOCAL_HOSTS
        and Account.objects.filter(username=DEMO_ACCOUNT).exists()
    )


def _own_page_only(request: HttpRequest) -> None:
    if check_csrf(request):
        raise HttpError(403, "This page is out of date; load it again")
