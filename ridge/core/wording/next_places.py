"""What is said of where to measure next."""

from __future__ import annotations

from collections import Counter

from ridge.core.carrying.next_reading import NextReading
from ridge.core.carrying.telling_apart import TellingApart
from ridge.core.numerals import join, significant
from ridge.core.readings import Readings
from ridge.core.wording.naming import Naming

FEW = 1e-3
"""A narrowing by less than this share is none to speak of."""
MOST_NAMED = 4
"""Places that are named one by one."""
CLEARLY = 2.0
"""Standard uncertainties from which on one reading says which model is wrong."""


def narrowing_sentence(found: NextReading, naming: Naming, called: str) -> str:
    """What one more reading at the best place is worth."""
    low, high = (_at(float(end), naming) for end in (found.x[0], found.x[-1]))
    left = float(found.standard_error.min()) / found.now if found.now > 0 else 1.0
    if 1 - left < FEW:
        return f"No one reading between {low} and {high} narrows {called} noticeably."
    at = _at(found.best, naming)
    return (
        f"One more reading narrows {called} most at {naming.x} = {at}: its standard uncertainty falls by "
        f"{significant(100 * (1 - left), 2).text}\u00a0%."
    )


def needed_sentence(found: NextReading, share: float, naming: Naming) -> str:
    """How many readings, and where, bring the uncertainty to a share of what it is now."""
    wanted = f"{significant(100 * share, 3, strip=True).text}\u00a0%"
    places = found.plan(share)
    if places is None:
        return f"No sensible number of readings brings it to {wanted}."
    alone = found.readings_needed(share)
    counted = Counter(float(significant(place, 3).plain) for place in places)
    places_said = [f"{count} at {naming.x} = {_at(place, naming)}" for place, count in sorted(counted.items())]
    if len(counted) == 1:
        said = f" {places_said[0].partition(' ')[2]}"
    else:
        said = f", {join(places_said)}" if len(counted) <= MOST_NAMED else f" over {len(counted)} places"
    text = f"To {wanted} of what it is now: {len(places)} more reading{'' if len(places) == 1 else 's'}{said}."
    if len(counted) > 1 and alone is not None:
        text += f" All at the best place: {alone}."
    return text


def resting_sentence(found: NextReading, model: str, readings: Readings) -> str:
    """What it rests on."""
    measured = readings.measured_range
    beyond = not measured[0] <= found.best <= measured[1]
    where = "; the best place lies beyond the readings, where nothing has tested it" if beyond else ""
    said = f"This rests on the {model} being the right model{where}."
    return (
        said if readings.equally_weighted else f"{said} A new reading is taken to be as uncertain as these on average."
    )


def apart_sentence(found: TellingApart, naming: Naming, first: str, second: str) -> str:
    """Where a reading tells two models apart."""
    at = _at(found.best, naming)
    by = significant(found.most, 2).text
    text = f"{first} and {second} differ most at {naming.x} = {at}: by {by} standard uncertainties of a reading there."
    if found.most < CLEARLY:
        return text + " One reading does not separate them; several there may."
    return text + " A reading there separates them."


def _at(x: float, naming: Naming) -> str:
    return naming.x_given(x) if naming.x_clock else naming.x_with_unit(significant(x, 3, strip=True).text)
