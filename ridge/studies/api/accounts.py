"""The API of accounts: keeping what a guest has made, signing in and out, and taking everything along."""

from __future__ import annotations

import io
import re
import zipfile
from datetime import datetime
from typing import Annotated, Any

from django.conf import settings
from django.contrib.auth import logout, update_session_auth_hash
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field, StringConstraints

from ridge.accounts.address import address_of
from ridge.accounts.attempts import remember_device
from ridge.accounts.guests import DEMO_USER, current_user, sign_in, take_over, user_or_new_guest
from ridge.accounts.keeping import (
    NotKept,
    check_name,
    end_all_sessions,
    hash_password,
    keep,
    known,
    new_codes,
    prove,
    recover,
)
from ridge.accounts.letters import are_sent, check_email, new_password, send_letter
from ridge.accounts.models import User
from ridge.accounts.outbox import letters
from ridge.accounts.rates import Rate, TooOften
from ridge.accounts.sessions import end_session
from ridge.studies.api.sent_files import as_file, gives_file
from ridge.studies.api.withheld import withheld_of
from ridge.studies.content.kept_pictures import kept
from ridge.studies.content.store import create_study, read_state
from ridge.studies.models import Study
from ridge.studies.out.study_file import write_study
from ridge.studies.words.schemas import Message

router = Router(tags=["accounts"])
ARCHIVE = "application/zip"
NO_ACCOUNT = "You are a guest: there is no account yet."
_letters_asked = Rate(10)
_proofs = Rate(10)
_codes_tried = Rate(10)
"""Recovery codes that may be tried from one address in a minute: of 10^22 codes nobody finds one so."""

Name = Annotated[str, StringConstraints(max_length=100)]
Password = Annotated[str, StringConstraints(max_length=200)]
Email = Annotated[str, StringConstraints(max_length=200)]


class AccountOut(Schema):
    """Who is asking. ``codes``: recovery codes that are left; ``shared``: the shelf of the demo, which belongs to everybody; ``letters``:
    whether e-mail is sent from here, and ``outbox``: kept here instead, for everybody to read."""

    guest: bool
    shared: bool
    letters: bool
    outbox: bool
    name: str
    email: str
    codes: int
    studies: int


class KeepIn(Schema):
    name: Name
    password: Password
    email: Email = ""


class SignInIn(Schema):
    name: Name
    password: Password


class NewPasswordIn(Schema):
    old: Password
    new: Password


class RecoverIn(Schema):
    """One of the codes that were told when the account was made, and the password to be had from now on."""

    name: Name
    code: Annotated[str, StringConstraints(max_length=40)]
    password: Password


class PasswordIn(Schema):
    password: Password


class EmailIn(Schema):
    password: Password
    email: Email


class LetterIn(Schema):
    """``name``: of the account, or its e-mail address."""

    name: Email


class ByLetterIn(Schema):
    """``key``: what stands behind the # in the link of the letter."""

    key: Annotated[str, StringConstraints(max_length=200)]
    password: Password


class LetterOut(Schema):
    to: str
    subject: str
    text: str
    sent: datetime | None


class OutboxOut(Schema):
    letters: list[LetterOut]


class CodesOut(Schema):
    """Recovery codes, told this once."""

    codes: list[str] = Field(max_length=20)


@router.get("/account", response=AccountOut)
def account(request: HttpRequest) -> AccountOut:
    return _told(current_user(request))


def _told(user: User | None) -> AccountOut:
    mail: dict[str, bool] = {"letters": are_sent(), "outbox": settings.OUTBOX}
    if user is None:
        return AccountOut(guest=True, shared=False, name="", email="", codes=0, studies=0, **mail)
    shared = user.username == DEMO_USER
    return AccountOut(
        guest=user.is_guest or shared, shared=shared, name="" if user.is_guest or shared else user.username,
        email="" if user.is_guest or shared else user.email, **mail, codes=user.recovery_codes.count(), studies=Study.objects.filter(owner=user, deleted=None).count(),
    )  # fmt: skip


@router.post("/account", response={201: CodesOut, 400: Message})
def keep_studies(request: HttpRequest, response: HttpResponse, body: KeepIn) -> Any:
    """Make an account out of the guest who asks: all studies stay. From the shelf of the demo, which belongs to everybody, copies go
    along."""
    user = user_or_new_guest(request)
    try:
        email = check_email(body.email)
        check_name(body.name)
        hashed = hash_password(User(username=body.name, email=email), body.password)
        with transaction.atomic():  # of what is refused no copies are left
            if user.username == DEMO_USER:
                user = _copied(user, body.name)
            codes = keep(user, body.name, hashed, email)
    except NotKept as why:
        return 400, Message(message=str(why))
    sign_in(request, user)
    remember_device(response, user)
    return 201, CodesOut(codes=codes)


def _copied(shared: User, name: str) -> User:
    """A guest with copies of all studies of a shared shelf."""
    check_name(name)
    guest = User(username=f"guest-of-{name}"[:150], is_guest=True)
    guest.set_unusable_password()
    guest.save()
    for study in Study.objects.filter(owner=shared, deleted=None).order_by("changed"):
        state = read_state(study)
        create_study(guest, state, picture=kept(shared, state.picture.digest) if state.picture else None)
    return guest


@router.post("/account/sign_in", response={200: AccountOut, 400: Message})
def enter(request: HttpRequest, response: HttpResponse, body: SignInIn) -> Any:
    """Sign in; what was made as a guest before goes along."""
    before = current_user(request)
    try:
        user = known(request, body.name, body.password)
    except NotKept as why:
        return 400, Message(message=str(why))
    return _entered(request, response, before, user)


def _entered(request: HttpRequest, response: HttpResponse, before: User | None, user: User) -> AccountOut:
    """Sign in; what was made as a guest goes along."""
    if before is not None and before.is_guest:
        take_over(before, user)
    sign_in(request, user)
    remember_device(response, user)
    return _told(user)


@router.post("/account/sign_out", response={204: None})
def leave(request: HttpRequest) -> tuple[int, None]:
    """From now on a guest who has nothing yet. A guest stays who they are: nobody could bring them back."""
    if (user := current_user(request)) and not user.is_guest:
        if not end_session(request) and user.username != DEMO_USER:
            end_all_sessions(user)
        logout(request)
    return 204, None


@router.post("/account/password", response={200: AccountOut, 400: Message})
def change_password(request: HttpRequest, response: HttpResponse, body: NewPasswordIn) -> Any:
    """All other sessions end."""
    try:
        user = _proven(request, body.old)
        user.password = hash_password(user, body.new)
    except NotKept as why:
        return 400, Message(message=str(why))
    user.save(update_fields=["password"])
    update_session_auth_hash(request, user)
    remember_device(response, user)
    return _told(user)


@router.post("/account/sign_out_everywhere", response={200: AccountOut, 400: Message})
def leave_everywhere(request: HttpRequest) -> Any:
    """All other sessions end; this one goes on."""
    user = current_user(request)
    if user is None or user.is_guest or user.username == DEMO_USER:
        return 400, Message(message=NO_ACCOUNT)
    end_all_sessions(user)
    update_session_auth_hash(request, user)
    return _told(user)


@router.post("/account/codes", response={201: CodesOut, 400: Message})
def codes(request: HttpRequest, body: PasswordIn) -> Any:
    """New recovery codes in place of the old ones."""
    try:
        return 201, CodesOut(codes=new_codes(_proven(request, body.password)))
    except NotKept as why:
        return 400, Message(message=str(why))


@router.post("/account/recover", response={200: AccountOut, 400: Message})
def let_back_in(request: HttpRequest, response: HttpResponse, body: RecoverIn) -> Any:
    """A new password by a recovery code, and signed in with it."""
    if not _codes_tried.is_kept(address_of(request)):
        raise TooOften("These are too many codes for one minute. Try again in a minute.")
    before = current_user(request)
    try:
        user = recover(body.name, body.code, body.password)
    except NotKept as why:
        return 400, Message(message=str(why))
    return _entered(request, response, before, user)


@router.put("/account/email", response={200: AccountOut, 400: Message})
def change_email(request: HttpRequest, body: EmailIn) -> Any:
    """Where letters go; empty for nowhere."""
    try:
        user = _proven(request, body.password)
        user.email = check_email(body.email)
    except NotKept as why:
        return 400, Message(message=str(why))
    user.save(update_fields=["email"])
    return _told(user)


@router.post("/account/letter", response={204: None, 400: Message})
def ask_for_letter(request: HttpRequest, body: LetterIn) -> Any:
    """By which a new password can be chosen, to the e-mail address of an account. The answer is the same where there is none."""
    if not are_sent():
        return 400, Message(
            message="No e-mail is sent from here. Use a recovery code, or ask whoever runs Ridge for one."
        )
    if not _letters_asked.is_kept(address_of(request)):
        raise TooOften("These are too many letters for one minute. Try again in a minute.")
    send_letter(body.name, request.build_absolute_uri("/account"))
    return 204, None


@router.post("/account/by_letter", response={200: AccountOut, 400: Message})
def let_in_by_letter(request: HttpRequest, response: HttpResponse, body: ByLetterIn) -> Any:
    """A new password by the key in a letter, and signed in with it; all other sessions end."""
    before = current_user(request)
    try:
        user = new_password(body.key, body.password)
    except NotKept as why:
        return 400, Message(message=str(why))
    return _entered(request, response, before, user)


@router.get("/outbox", response={200: OutboxOut, 404: Message})
def outbox(request: HttpRequest) -> Any:
    """The letters of a demo, which has no mail server."""
    if not settings.OUTBOX:
        return 404, Message(message="There is nothing at this address.")
    return OutboxOut(letters=[LetterOut(**one._asdict()) for one in letters()])


@router.delete("/account", response={204: None, 400: Message})
def delete(request: HttpRequest, body: PasswordIn) -> Any:
    """The account and everything in it, for good."""
    try:
        user = _proven(request, body.password)
    except NotKept as why:
        return 400, Message(message=str(why))
    logout(request)
    user.delete()
    return 204, None


def _proven(request: HttpRequest, password: str) -> User:
    """The account that asks, if it knows its password. Raises NotKept."""
    user = current_user(request)
    if user is None or user.is_guest or user.username == DEMO_USER:
        raise NotKept(NO_ACCOUNT)
    if not _proofs.is_kept(user.pk):
        raise TooOften("These are too many passwords for one minute. Try again in a minute.")
    prove(user, password)
    return user


@router.get("/account/studies.zip", openapi_extra=gives_file(ARCHIVE))
def everything(request: HttpRequest) -> Any:
    """All studies as files that can be opened again, in one archive. A copy with something locked is named in place of its file."""
    held, names, left_out = io.BytesIO(), set[str](), list[str]()
    user = current_user(request)
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as archive:
        for study in Study.objects.filter(owner=user, deleted=None).order_by("created") if user else ():
            state = read_state(study)
            if withheld := withheld_of(study):
                left_out.append(f"{state.title}: locked until step {max(withheld.values())} of its worksheet is done.")
                continue
            picture = kept(user, state.picture.digest) if user and state.picture else None
            archive.writestr(_free_name(state.title, names), write_study(state, picture.data if picture else None))
        if left_out:
            archive.writestr("Not included.txt", "\n".join(left_out) + "\n")
    return as_file(held.getvalue(), ARCHIVE, "Ridge studies", "zip")


def _free_name(title: str, names: set[str]) -> str:
    """A name for a file that no other one of the archive has."""
    plain = re.sub(r"[^\w]+", "-", title).strip("-").lower()[:60] or "study"
    name, count = f"{plain}.ridge.json", 1
    while name in names:
        count += 1
        name = f"{plain}-{count}.ridge.json"
    names.add(name)
    return name
