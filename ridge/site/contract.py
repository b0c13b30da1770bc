"""The OpenAPI document: what the routes say of themselves, and what any request may be told."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI

REFUSED = {
    400: "The body cannot be read, or has no meaning here.",
    403: "It could be a forged request.",
    409: "It was stopped, or overtaken.",
    413: "It is too large.",
    422: "It is not as declared.",
    429: "There is no room for it now, or it is one too many.",
    503: "It took too long, or more memory than there is.",
}
OF_BODIES = (400, 413)
METHODS = ("get", "post", "put", "patch", "delete")


class Declared(NinjaAPI):
    """An API whose document tells of every route why it may refuse."""

    def get_openapi_schema(self, **where: Any) -> Any:
        document = super().get_openapi_schema(**where)
        said = {"application/json": {"schema": {"$ref": "#/components/schemas/Message"}}}
        document["components"]["responses"] = {
            f"Refused{status}": {"description": why, "content": said} for status, why in REFUSED.items()
        }
        for methods in document["paths"].values():
            for method in METHODS:
                if method in methods:
                    _refusing(methods[method])
        return document


def _refusing(operation: dict[str, Any]) -> None:
    for status in REFUSED:
        if status not in OF_BODIES or "requestBody" in operation:
            operation["responses"].setdefault(status, {"$ref": f"#/components/responses/Refused{status}"})
