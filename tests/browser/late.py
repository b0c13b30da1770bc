"""Answers that take their time, as on a busy machine or a slow network: what a test takes for there already is seen to be missing."""

from __future__ import annotations

import os
import random
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

LATE = float(os.environ.get("RIDGE_LATE_ANSWERS", "0"))
"""Seconds that a request of the API waits at most before it is worked on, and once more before it is answered."""


def late_answers(answer: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware, the outermost one."""

    def wait_and_answer(request: HttpRequest) -> HttpResponse:
        most = LATE if request.path.startswith("/api/") else 0
        time.sleep(random.uniform(0, most))
        response = answer(request)
        time.sleep(random.uniform(0, most))
        return response

    return wait_and_answer
