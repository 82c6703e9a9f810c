"""One's own account: another password, and an end with everything in it. Its export is the archive (logfiles.py)."""

from __future__ import annotations

from typing import Annotated

from django.contrib.auth import logout, update_session_auth_hash
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.http import HttpRequest, HttpResponse
from ninja import Router
from pydantic import Field

from jackstaff.accounts.own import end_sessions, erase_account
from jackstaff.accounts.throttle import guessed
from jackstaff.demo.load import ACCOUNT as DEMO_ACCOUNT
from jackstaff.records.transactions import all_or_none
from jackstaff_core.words.refusal import Refusal, Refusals

from .door import account_of, own_account
from .refusals import Faults
from .schemas import Input
from .session import Session, here

router = Router(tags=["account"], auth=own_account)

Password = Annotated[str, Field(min_length=1, max_length=120)]


class PasswordInput(Input):
    """The password until now, and the one from now on."""

    current: Password
    new: Password


class EndInput(Input):
    """The password, so that nobody else ends the account on an open page."""

    password: Password


@router.post("/password", response={200: Session, 429: Faults})
def change_password(request: HttpRequest, payload: PasswordInput) -> dict[str, object]:
    """Change the password; whoever is signed in elsewhere is signed out there."""
    account = account_of(request)
    _theirs("current", request, payload.current)
    try:
        validate_password(payload.new, account)
    except ValidationError as error:
        raise Refusals([Refusal("new", problem, "Choose another one.") for problem in error.messages]) from None
    with all_or_none(account):
        account.set_password(payload.new)
        account.save(update_fields=["password"])
    update_session_auth_hash(request, account)
    return here(request)


@router.post("/elsewhere", response=Session)
def sign_out_elsewhere(request: HttpRequest) -> dict[str, object]:
    """Sign every other browser of this account out; this one stays."""
    end_sessions(account_of(request), request.session.session_key)
    return here(request)


@router.post("/end", response={200: Session, 429: Faults})
def end(request: HttpRequest, response: HttpResponse, payload: EndInput) -> dict[str, object]:
    """Erase the account with everything that was kept for it, at once and for good."""
    _theirs("password", request, payload.password)
    erase_account(account_of(request))
    logout(request)
    return here(request)


def _theirs(field: str, request: HttpRequest, password: str) -> None:
    account = account_of(request)
    if account.get_username() == DEMO_ACCOUNT:
        raise Refusal(field, "The demo account stays as it is.", "Make an account of your own.")
    if guessed(request, account.get_username(), lambda: account if account.check_password(password) else None) is None:
        raise Refusal(field, "This is not the account's password.", "Type it again, capitals count.")
