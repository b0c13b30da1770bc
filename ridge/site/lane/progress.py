"""The API of what waits in the long lane."""

from __future__ import annotations

from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema

from ridge.accounts.guests import current_user
from ridge.accounts.models import Waiting
from ridge.site.lane.noted import Ticket

router = Router(tags=["waiting"])


class WaitingOut(Schema):
    """``ahead``: how many come before it; ``seconds``: since its turn came, null as long as it waits."""

    ahead: int
    seconds: int | None


@router.get("/waiting/{ticket}", response=WaitingOut | None)
def how_far(request: HttpRequest, ticket: Ticket) -> WaitingOut | None:
    """How far a long request is that was made with ``?ticket=``; null where none waits under it."""
    found = Waiting.objects.filter(owner=current_user(request), ticket=ticket).first()
    if found is None:
        return None
    since = found.made_since
    return WaitingOut(
        ahead=found.ahead, seconds=None if since is None else int((timezone.now() - since).total_seconds())
    )


@router.delete("/waiting/{ticket}", response={204: None})
def stop(request: HttpRequest, ticket: Ticket) -> tuple[int, None]:
    """It is no longer wanted, should it still wait."""
    Waiting.objects.filter(owner=current_user(request), ticket=ticket).update(stopped=True)
    return 204, None
