"""Which requests take the long lane."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest

LONG = {
    "figure", "report", "readings", "study_file", "open_study_file", "rank_candidates", "better", "resampling", "refined", "workings",
    "working", "where_to_measure_next", "open_file", "follow", "from_file", "everything",
}  # fmt: skip
"""Names of the operations that take their time on any study."""


def takes_long(request: HttpRequest) -> bool:
    """Whether an admitted request is one of these, brings much, or is about a study of many rows."""
    if request.resolver_match and request.resolver_match.url_name in LONG:
        return True
    study = getattr(request, "study", None)
    brings = int(request.META.get("CONTENT_LENGTH") or 0)
    return brings > settings.LANE_BODY or (study is not None and study.rows > settings.LANE_ROWS)
