"""The API as a whole: its parts, strict JSON, and what errors look like."""

from __future__ import annotations

import logging
from typing import Any

import orjson
from django.conf import settings
from django.core.exceptions import ObjectDoesNotExist, RequestDataTooBig
from django.db import DatabaseError, DataError, IntegrityError, NotSupportedError, ProgrammingError
from django.http import HttpRequest, HttpResponse
from ninja.errors import HttpError, ValidationError
from ninja.parser import Parser
from ninja.renderers import BaseRenderer
from ninja.utils import check_csrf

from ridge.accounts.address import address_of
from ridge.accounts.rates import Rate, TooOften
from ridge.classes.student_routes import router as tasks
from ridge.classes.teacher_routes import router as worksheets
from ridge.exchange.nul import without_nul
from ridge.site.contract import Declared
from ridge.site.lane.lane import carry_out, is_inside
from ridge.site.lane.progress import router as waiting
from ridge.site.lane.which import takes_long
from ridge.site.views import CSRF_MESSAGE
from ridge.studies.apart import FAILED, number_of
from ridge.studies.api.accounts import router as accounts
from ridge.studies.api.admission import NotYours, admit
from ridge.studies.api.columns import router as columns
from ridge.studies.api.comments import router as comments
from ridge.studies.api.fits import router as fits
from ridge.studies.api.instruments import router as instruments
from ridge.studies.api.links import router as links
from ridge.studies.api.out import router as out
from ridge.studies.api.pictures import router as pictures
from ridge.studies.api.studies import router as studies
from ridge.studies.api.tables import router as tables
from ridge.studies.api.withheld import KeptBack, without_withheld
from ridge.studies.content.room import NoRoom

log = logging.getLogger(__name__)
NOT_KEPT = "The server cannot read or write its data now: its disk may be full. Nothing that was saved is lost; tell whoever runs it."


class StrictJSON(BaseRenderer):
    """JSON as the standard has it: NaN and infinities, which it does not know, are null."""

    media_type = "application/json"

    def render(self, request: HttpRequest, data: Any, *, response_status: int) -> bytes:
        data = without_withheld(request, data)
        return orjson.dumps(data, option=orjson.OPT_NON_STR_KEYS)


class FastJSON(Parser):
    """Reads a body without a second copy of it as text: tables of 20 MB come this way."""

    def parse_body(self, request: HttpRequest) -> Any:
        given = orjson.loads(request.body)
        return without_nul(given) if b"\\u0000" in request.body else given


class TakesLong(Exception):
    """The request is to be answered in the long lane."""


def admitted(request: HttpRequest) -> bool:
    """What every call passes, so that no route can forget it: Django's check against forged requests, and that a study named in
    the address is the asker's."""
    inside = is_inside(request)
    if not inside:
        _ = request.body  # kept whole before a form in it is read: it may be passed on
    if check_csrf(request) is not None:
        raise HttpError(403, CSRF_MESSAGE)
    if not inside:
        _refuse_too_often(request)
    admit(request)
    if settings.LANE and not inside and takes_long(request):
        raise TakesLong
    return True


_requests = Rate(settings.REQUESTS_A_MINUTE)


def _refuse_too_often(request: HttpRequest) -> None:
    """Raises TooOften."""
    whose = request.user.pk or address_of(request)
    if not _requests.is_kept(whose):
        raise TooOften("These are more requests than one person makes in a minute. Try again in a minute.")


api = Declared(title="Ridge", version="1", renderer=StrictJSON(), parser=FastJSON(), docs_url=None, auth=admitted)
api.add_router("", studies)
api.add_router("", fits)
api.add_router("", out)
api.add_router("", tables)
api.add_router("", columns)
api.add_router("", pictures)
api.add_router("", instruments)
api.add_router("", accounts)
api.add_router("", links)
api.add_router("", comments)
api.add_router("", worksheets)
api.add_router("", tasks)
api.add_router("", waiting)


NOT_SO = "this cannot stand here as it is written"


@api.exception_handler(ObjectDoesNotExist)
def deleted_meanwhile(request: HttpRequest, exception: ObjectDoesNotExist) -> HttpResponse:
    """It was there when it was asked whose it is. Noted, since it should be rare."""
    log.warning("%s %s: %s", request.method, request.path, exception)
    return not_yours(request, exception)


@api.exception_handler(NotYours)
def not_yours(request: HttpRequest, exception: Exception) -> HttpResponse:
    return api.create_response(request, {"message": "There is no such study on your shelf."}, status=404)


@api.exception_handler(TakesLong)
def in_the_long_lane(request: HttpRequest, exception: TakesLong) -> HttpResponse:
    return carry_out(request)


@api.exception_handler(TooOften)
def too_often(request: HttpRequest, exception: TooOften) -> HttpResponse:
    response = api.create_response(request, {"message": str(exception)}, status=429)
    response["Retry-After"] = "60"
    return response


@api.exception_handler(KeptBack)
def kept_back(request: HttpRequest, exception: KeptBack) -> HttpResponse:
    return api.create_response(request, {"message": str(exception)}, status=403)


@api.exception_handler(NoRoom)
def no_room(request: HttpRequest, exception: NoRoom) -> HttpResponse:
    return api.create_response(request, {"message": str(exception)}, status=400)


@api.exception_handler(HttpError)
def refused(request: HttpRequest, exception: HttpError) -> HttpResponse:
    return api.create_response(request, {"message": str(exception)}, status=exception.status_code)


@api.exception_handler(ValidationError)
def invalid(request: HttpRequest, exception: ValidationError) -> HttpResponse:
    """The first thing wrong with a request, and where."""
    first = exception.errors[0]
    if first.get("type") == "value_error":  # a sentence of Ridge's own
        return api.create_response(request, {"message": first["msg"].removeprefix("Value error, ")}, status=422)
    # The path also names the body's wrapper and the kind of change: the field is its last name.
    where = next((str(part) for part in reversed(first.get("loc", ())) if isinstance(part, str)), "request")
    # A pattern tells nobody what is wrong.
    said = NOT_SO if first.get("type") == "string_pattern_mismatch" else first.get("msg", "not understood")
    return api.create_response(request, {"message": f"{where}: {said}."}, status=422)


@api.exception_handler(ProgrammingError)
@api.exception_handler(NotSupportedError)
@api.exception_handler(DataError)
@api.exception_handler(IntegrityError)
@api.exception_handler(Exception)
def failed(request: HttpRequest, exception: Exception) -> HttpResponse:
    """What nobody foresaw, a wrong question to the database among it: noted with its traceback, told without it."""
    number = number_of(exception)
    log.error("%s %s failed, number %s", request.method, request.path, number, exc_info=exception)
    return api.create_response(request, {"message": f"{FAILED} Its number is {number}."}, status=500)


@api.exception_handler(DatabaseError)
def not_stored(request: HttpRequest, exception: DatabaseError) -> HttpResponse:
    """The disk is full or cannot be written, or somebody holds the database for too long."""
    number = number_of(exception)
    log.error("%s %s: %s, number %s", request.method, request.path, exception, number)
    return api.create_response(request, {"message": f"{NOT_KEPT} Its number is {number}."}, status=503)


@api.exception_handler(RequestDataTooBig)
def too_big(request: HttpRequest, exception: RequestDataTooBig) -> HttpResponse:
    return api.create_response(request, {"message": "That is more than 24 MB at once. Paste it in parts."}, status=413)
