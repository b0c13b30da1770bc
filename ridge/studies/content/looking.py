"""Who looks at a study by a link: noted in the signed cookie of their session, and asked of the database at every request."""

from __future__ import annotations

from django.http import HttpRequest

from ridge.studies.content.links import link_of
from ridge.studies.models import Link, Study

LOOKS = "looks"
MOST = 12
"""Studies that one browser may look at by links at the same time: a cookie has no room for many more."""


def begin_to_look(request: HttpRequest, link: Link) -> None:
    before = {key: digest for key, digest in _noted(request).items() if key != str(link.study_id)}
    request.session[LOOKS] = dict([*before.items(), (str(link.study_id), link.digest)][-MOST:])


def looks_at(request: HttpRequest, study: Study) -> Link | None:
    """The link by which whoever asks may look at a study; None where there is none, or it holds no more."""
    digest = _noted(request).get(str(study.pk))
    link = link_of(digest) if digest else None
    return link if link is not None and link.study_id == study.pk else None


def _noted(request: HttpRequest) -> dict[str, str]:
    found = request.session.get(LOOKS, {})
    return found if isinstance(found, dict) else {}
