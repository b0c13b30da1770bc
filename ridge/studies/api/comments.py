"""The API of comments: written beside results by visitors with a link, teachers and the owner of the study."""

from __future__ import annotations

import secrets
import uuid
from datetime import datetime
from typing import Any, Literal, cast

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import Router, Schema

from ridge.accounts.guests import current_user
from ridge.studies.api.admission import link_used, only_looks, own_study, seen_study
from ridge.studies.content import fields
from ridge.studies.models import Comment
from ridge.studies.words.schemas import Message

router = Router(tags=["comments"])
MOST = 300
VISITOR = "visitor"
"""Key in the session of the random name of a visitor."""
FULL = f"There are {MOST} comments on this study already. Its owner can clear some."
NONE = "There is no such comment."


class CommentOut(Schema):
    """``about`` and ``place``: what it stands beside; ``role``: of its author; ``removable``: by the person who asks."""

    id: int
    about: str
    place: str
    author: str
    role: Literal["owner", "teacher", "visitor"]
    removable: bool
    text: str
    answer: str
    made: datetime


class CommentIn(Schema):
    about: fields.About = ""
    place: fields.CommentPlace = ""
    author: fields.Commenter = ""
    text: fields.CommentText


class CommentAnswerIn(Schema):
    """``text`` is empty to take an answer back."""

    text: fields.Question


def comments_of(request: HttpRequest) -> QuerySet[Comment]:
    """Return those that the person who asks may see: the owner all, a visitor those of the same link, a teacher the owner's and those of
    teachers."""
    every = seen_study(request).comments
    if not only_looks(request):
        return every.all()
    link = link_used(request)
    return every.filter(link=link) if link else every.exclude(role=Comment.Role.VISITOR)


def author_of(request: HttpRequest) -> tuple[str, str]:
    """Return the role of the person who asks, and the key of the person: an account, or a visitor's random one in the session."""
    link = link_used(request)
    if link is None:
        user = current_user(request)
        role = Comment.Role.TEACHER if only_looks(request) else Comment.Role.OWNER
        return role, f"user {user.pk if user else ''}"
    return Comment.Role.VISITOR, f"visitor {request.session.setdefault(VISITOR, secrets.token_hex(12))}"


def _is_removable(request: HttpRequest, one: Comment) -> bool:
    """The owner removes any comment, others their own."""
    if not only_looks(request):
        return True
    role, by = author_of(request)
    return one.role == role and one.by in (by, "")


@router.get("/studies/{study_id}/comments", response={200: list[CommentOut], 404: Message})
def comments(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """The oldest first."""
    return [_told(request, one) for one in comments_of(request)]


@router.post("/studies/{study_id}/comments", response={201: CommentOut, 400: Message, 404: Message})
def leave(request: HttpRequest, study_id: uuid.UUID, body: CommentIn) -> Any:
    """A comment beside a result."""
    study = seen_study(request)
    if study.comments.count() >= MOST:
        return 400, Message(message=FULL)
    role, by = author_of(request)
    made = study.comments.create(link=link_used(request), role=role, by=by, **body.model_dump())
    return 201, _told(request, made)


@router.put("/studies/{study_id}/comments/{comment_id}", response={200: CommentOut, 404: Message})
def answer_comment(request: HttpRequest, study_id: uuid.UUID, comment_id: fields.Serial, body: CommentAnswerIn) -> Any:
    """What the owner says to it."""
    found = own_study(request).comments.filter(pk=comment_id).first()
    if found is None:
        return 404, Message(message=NONE)
    found.answer = body.text.strip()
    found.save(update_fields=["answer"])
    return _told(request, found)


@router.delete("/studies/{study_id}/comments/{comment_id}", response={204: None, 404: Message})
def clear(request: HttpRequest, study_id: uuid.UUID, comment_id: fields.Serial) -> Any:
    """By the owner of the study, or the author of the comment."""
    found = comments_of(request).filter(pk=comment_id).first()
    if found is None or not _is_removable(request, found):
        return 404, Message(message=NONE)
    found.delete()
    return 204, None


def _told(request: HttpRequest, one: Comment) -> CommentOut:
    return CommentOut(
        id=one.pk, about=one.about, place=one.place, author=one.author, text=one.text, answer=one.answer, made=one.made,
        role=cast(Any, one.role), removable=_is_removable(request, one),
    )  # fmt: skip
