"""The values that a fit was set to by hand, one after the other, as the history of the study has them."""

from __future__ import annotations

from ridge.studies.models import Study

MOST_LOOKED_AT = 400
"""Changes back to which attempts are looked for."""


def attempts_of(study: Study, letter: str, most: int = 20) -> list[dict[str, float]]:
    """Earlier values of the fit of this letter while it was set by hand, the oldest first, each once; not those that it has now.

    They are read from what each change has undone: the state of the fits before it.
    """
    found: list[dict[str, float]] = []
    revisions = study.revisions.filter(number__lte=study.version).order_by("-number")[:MOST_LOOKED_AT]
    for inverse in revisions.values_list("inverse", flat=True):
        if inverse.get("kind") != "put_fits":
            continue
        fit = next((one for one in inverse.get("fits", []) if one.get("letter") == letter), None)
        if fit is None or not fit.get("by_hand") or not fit.get("values"):
            continue
        values = {name: float(value) for name, value in fit["values"].items()}
        if values not in found:
            found.append(values)
            if len(found) == most:
                break
    return found[::-1]
