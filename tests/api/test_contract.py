"""The OpenAPI document is kept: whatever is sent, by whom, the answer is one that it declares (schemathesis makes the requests)."""

from __future__ import annotations

import json
import time
from typing import Any
from urllib.parse import urlsplit

import requests
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, given
from hypothesis.extra.django import TestCase
from schemathesis import Response
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from ridge.site.openapi import openapi_document
from tests.examples import examples

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
SAMPLES = ("mooring-line", "sheer-line", "tide")
EACH = 4
"""Requests of every operation; ``./run fuzz`` makes twenty times as many."""


class WhateverIsSent(TestCase):
    """One operation of the document after the other, on studies of whoever asks."""

    take_long = True

    def test_every_answer_is_as_declared(self) -> None:
        schema = schemathesis.openapi.from_dict(json.loads(openapi_document()))
        tried = 0
        for found in schema.get_all_operations():
            operation: Any = found.ok()  # type: ignore[union-attr]
            with self.subTest(operation.label):
                self._try(operation)
            tried += 1
        self.assertGreater(tried, 50)

    def _try(self, operation: Any) -> None:
        @examples(EACH, suppress_health_check=list(HealthCheck), phases=(Phase.generate, Phase.shrink))
        @given(operation.as_strategy())
        def send(self: WhateverIsSent, case: Any) -> None:
            if "study_id" in case.path_parameters:
                sample = SAMPLES[len(repr(case.body)) % len(SAMPLES)]
                made = self.client.post("/api/studies", {"sample": sample}, content_type="application/json")
                case.path_parameters["study_id"] = made.json()["id"]
            if isinstance(case.body, dict) and isinstance(case.body.get("version"), int):
                case.body["version"] = 0
            case.validate_response(answered(self.client, case), checks=CHECKS)

        send(self)


def answered(client: Client, case: Any) -> Response:
    """What the application says to a request."""
    request = requests.Request(**case.as_transport_kwargs(base_url="http://testserver")).prepare()
    began = time.monotonic()
    body = request.body.encode() if isinstance(request.body, str) else request.body or b""
    address = urlsplit(request.url or "")
    told = client.generic(
        case.method.upper(),
        address.path + (f"?{address.query}" if address.query else ""),
        body,
        content_type=str(request.headers.get("Content-Type", "application/json")),
    )
    headers = {name: [value] for name, value in told.headers.items()}
    return Response(told.status_code, headers, told.content, request, time.monotonic() - began, False)
