"""Teachers look at the copies of their worksheets."""

from __future__ import annotations

from django.http import HttpRequest

from ridge.accounts.guests import current_user
from ridge.classes.models import Copy
from ridge.studies.models import Study


def teaches(request: HttpRequest, study: Study) -> Copy | None:
    """The copy of a worksheet that a study is, where whoever asks has made that worksheet."""
    user = current_user(request)
    if user is None:
        return None
    return Copy.objects.filter(study=study, worksheet__owner=user).first()
