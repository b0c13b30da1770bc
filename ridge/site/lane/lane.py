"""From a request that takes its time to its answer: waiting for its turn, carried out elsewhere, stopped when it is no longer wanted."""

from __future__ import annotations

from collections.abc import Hashable
from concurrent.futures import TimeoutError as TookTooLong
from time import monotonic

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from pebble import ProcessExpired, ProcessFuture

from ridge.accounts.address import address_of
from ridge.accounts.guests import current_user
from ridge.site.lane.elsewhere import INSIDE, Answered, answer, begin, ready
from ridge.site.lane.noted import STOPPED, Note, note
from ridge.site.lane.turns import Full, Turns
from ridge.studies.one_at_a_time import waiting
from ridge.studies.processes import Broken, Processes, ran_out, schedule

LOOK = 0.3
"""Seconds after which it is looked whether something is still wanted."""
PASSED_ON = (str, int, bool, tuple)

_turns = Turns(settings.LANE_ROOM, settings.LANE_ROOM_EACH)
_processes = Processes(
    1,
    begin,
    (settings.LANE_MEMORY,),
    ["ridge.site.lane.elsewhere", "ridge.studies.analysis.worker", "ridge.site.wsgi"],
)


def is_inside(request: HttpRequest) -> bool:
    """Whether a request is being answered in the long lane already."""
    return INSIDE in request.META


IN_THE_LANE = "ridge.lane_seconds"


def in_the_lane(request: HttpRequest) -> float:
    """Seconds that an answered request has spent in the long lane."""
    return float(request.META.get(IN_THE_LANE, 0.0))


def carry_out(request: HttpRequest) -> HttpResponse:
    """The answer to an admitted request, from another process. What is waited for can be looked at and stopped by its ticket, a name
    that whoever asks gives it (``ridge.site.lane.noted``)."""
    user = current_user(request)
    person: Hashable = user.pk if user else address_of(request)
    began = monotonic()
    try:
        turn = _turns.enter(person)
    except Full as full:
        whose = "You have" if full.of_person else "Others have"
        return _refused(
            429, f"{whose} as many files and long computations under way as there is room for. Try again soon."
        )
    try:
        with waiting(), note(request.GET.get("ticket", ""), user) as noted:
            while not _turns.wait(turn, LOOK if noted else None):
                if noted and noted.waits(_turns.ahead(turn)):
                    return _refused(409, STOPPED)
            return _carried_out(request, noted)
    finally:
        _turns.leave(turn)
        request.META[IN_THE_LANE] = monotonic() - began


def _carried_out(request: HttpRequest, noted: Note | None) -> HttpResponse:
    environment = {name: value for name, value in request.META.items() if isinstance(value, PASSED_ON)}
    for _ in range(2):
        pool = _processes.running()
        try:
            future = schedule(pool, settings.LANE_SECONDS, answer, environment, request.body)
            found = _result(future, noted)
        except TookTooLong:
            return _refused(503, "The server is busy, so this was stopped. Try again in a minute.")
        except ProcessExpired as expired:
            if ran_out(expired):
                return _refused(
                    503,
                    f"This took more than {settings.LANE_SECONDS} seconds of processor time and was stopped. Ask for less at once.",
                )
            if request.method != "GET":
                break  # it may have been carried out already
            continue
        except Broken:
            _processes.replace(pool)
            continue
        if found is None:
            return _refused(409, STOPPED)
        if found.size > settings.LANE_LARGE:
            _processes.replace(pool)
        return _as_response(found)
    return _refused(503, "This needed more memory than there is, and was stopped. Ask for less of it at once.")


def _result(future: ProcessFuture[Answered], noted: Note | None) -> Answered | None:
    """What came of it; None where it was stopped."""
    while True:
        try:
            return future.result(LOOK if noted else None)
        except TookTooLong:
            if future.done():
                return future.result()  # its own timeout, or an answer that has come since
            if noted and noted.is_made():
                future.cancel()  # type: ignore[no-untyped-call]
                return None


def _as_response(found: Answered) -> HttpResponse:
    response = HttpResponse(found.body, status=found.status)
    del response["Content-Type"]
    for name, value in found.headers:
        if name.lower() == "set-cookie":
            response.cookies.load(value)
        elif name.lower() != "content-length":
            response[name] = value
    return response


def _refused(status: int, message: str) -> HttpResponse:
    return JsonResponse({"message": message}, status=status)


def get_ready() -> None:
    """Start the process before it is needed."""
    if settings.LANE:
        _processes.running().schedule(ready)
