"""The API of comments: left beside results by those who look by a link, answered and cleared by the owner of the study."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from django.db.models import QuerySet
from django.http import HttpRequest
from ninja import Router, Schema

from ridge.studies.api.admission import link_used, only_looks, own_study, seen_study
from ridge.studies.content import fields
from ridge.studies.models import Comment
from ridge.studies.words.schemas import Message

router = Router(tags=["comments"])
MOST = 300
FULL = f"There are {MOST} comments on this study already. Its owner can clear some."
NONE = "There is no such comment."


class CommentOut(Schema):
    """``about`` and ``place``: what it stands beside; ``own``: made by the owner of the study."""

    id: int
    about: str
    place: str
    author: str
    own: bool
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
    """Those that whoever asks may see: of the owner all, of others those of their own link, or those made without one."""
    study = seen_study(request)
    return study.comments.filter(link=link_used(request)) if only_looks(request) else study.comments.all()


@router.get("/studies/{study_id}/comments", response={200: list[CommentOut], 404: Message})
def comments(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """The oldest first."""
    return [_told(one) for one in comments_of(request)]


@router.post("/studies/{study_id}/comments", response={201: CommentOut, 400: Message, 404: Message})
def leave(request: HttpRequest, study_id: uuid.UUID, body: CommentIn) -> Any:
    """A comment beside a result."""
    study = seen_study(request)
    if study.comments.count() >= MOST:
        return 400, Message(message=FULL)
    return 201, _told(study.comments.create(link=link_used(request), **body.model_dump()))


@router.put("/studies/{study_id}/comments/{comment_id}", response={200: CommentOut, 404: Message})
def answer_comment(request: HttpRequest, study_id: uuid.UUID, comment_id: fields.Serial, body: CommentAnswerIn) -> Any:
    """What the owner says to it."""
    found = own_study(request).comments.filter(pk=comment_id).first()
    if found is None:
        return 404, Message(message=NONE)
    found.answer = body.text.strip()
    found.save(update_fields=["answer"])
    return _told(found)


@router.delete("/studies/{study_id}/comments/{comment_id}", response={204: None, 404: Message})
def clear(request: HttpRequest, study_id: uuid.UUID, comment_id: fields.Serial) -> Any:
    """By the owner, or by whoever looks with the link that it was made with."""
    if not comments_of(request).filter(pk=comment_id).delete()[0]:
        return 404, Message(message=NONE)
    return 204, None


def _told(one: Comment) -> CommentOut:
    return CommentOut(
        id=one.pk, about=one.about, place=one.place, author=one.author, own=one.link_id is None and not one.author, text=one.text,
        answer=one.answer, made=one.made,
    )  # fmt: skip
