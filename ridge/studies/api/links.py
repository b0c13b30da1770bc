"""The API of links: made, ended, withdrawn by the owner of a study, and opened by whoever has one."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Schema
from pydantic import StringConstraints

from ridge.accounts.address import address_of
from ridge.accounts.rates import Rate, TooOften
from ridge.studies.api.admission import own_study
from ridge.studies.content.fields import Serial
from ridge.studies.content.links import TooManyLinks, digest_of, link_of, new_link, note_opened
from ridge.studies.content.looking import begin_to_look
from ridge.studies.models import Link
from ridge.studies.words.schemas import Message

router = Router(tags=["links"])
NO_LINK = "This link does not hold: it was withdrawn, has ended, or is not complete. Ask whoever gave it to you."
_tried = Rate(120)
"""Links opened from one address in a minute: a class behind one opens them together, and nobody finds one of 2^192 so."""

Called = Annotated[str, StringConstraints(max_length=60, strip_whitespace=True)]


class LinkOut(Schema):
    """``called``: for whom it was made, as its owner noted it; ``ends``: its last day; ``opened``: how often, by whomever."""

    id: int
    called: str
    made: datetime
    ends: date | None
    opened: int


class NewLinkIn(Schema):
    called: Called = ""
    ends: date | None = None


class NewLinkOut(Schema):
    """A link with its address, told this once."""

    link: LinkOut
    address: str


class EndsIn(Schema):
    ends: date | None


class TokenIn(Schema):
    """What stands at the end of a link's address."""

    token: Annotated[str, StringConstraints(max_length=100)]


class ShownOut(Schema):
    """The study that a link shows."""

    study: uuid.UUID


@router.get("/studies/{study_id}/links", response={200: list[LinkOut], 404: Message})
def links(request: HttpRequest, study_id: uuid.UUID) -> Any:
    """The links of a study, without their addresses."""
    return [_told(link) for link in own_study(request).links.order_by("pk")]


@router.post("/studies/{study_id}/links", response={201: NewLinkOut, 400: Message, 404: Message})
def make(request: HttpRequest, study_id: uuid.UUID, body: NewLinkIn) -> Any:
    """An address at which whoever has it can look at the study, and change nothing."""
    try:
        link, token = new_link(own_study(request), body.called, body.ends)
    except TooManyLinks as why:
        return 400, Message(message=str(why))
    return 201, NewLinkOut(link=_told(link), address=request.build_absolute_uri(f"/look/{token}"))


@router.put("/studies/{study_id}/links/{link_id}", response={200: LinkOut, 404: Message})
def end(request: HttpRequest, study_id: uuid.UUID, link_id: Serial, body: EndsIn) -> Any:
    """Another last day, or none."""
    link = own_study(request).links.filter(pk=link_id).first()
    if link is None:
        return 404, Message(message="There is no such link.")
    link.ends = body.ends
    link.save(update_fields=["ends"])
    return _told(link)


@router.delete("/studies/{study_id}/links/{link_id}", response={204: None, 404: Message})
def withdraw(request: HttpRequest, study_id: uuid.UUID, link_id: Serial) -> Any:
    """The link shows nothing any more, also to those who have it open."""
    if not own_study(request).links.filter(pk=link_id).delete()[0]:
        return 404, Message(message="There is no such link.")
    return 204, None


@router.post("/look", response={200: ShownOut, 404: Message})
def look(request: HttpRequest, body: TokenIn) -> Any:
    """Begin to look at the study that a link shows: from now on this browser may, as long as the link holds."""
    if not _tried.is_kept(address_of(request)):
        raise TooOften("These are too many links for one minute. Try again in a minute.")
    link = link_of(digest_of(body.token))
    if link is None:
        return 404, Message(message=NO_LINK)
    note_opened(link)
    begin_to_look(request, link)
    return ShownOut(study=link.study_id)


def _told(link: Link) -> LinkOut:
    return LinkOut(id=link.pk, called=link.called, made=link.made, ends=link.ends, opened=link.opened)
