"""Readings of instruments on their way into a study: runs of simulated ones, and rows that are posted with a key.

Nothing runs by itself: what a simulated instrument has read by now follows from when its run was started, so any process can take it,
and whoever asks later gets the rest. ``taken`` says how far the table is; it is moved in the transaction that adds the rows.
"""

from __future__ import annotations

import hashlib
import re
import secrets
import uuid
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import datetime
from itertools import pairwise
from math import nan
from threading import Lock

from django.db import transaction

from ridge.core.errors import OutsideSense
from ridge.core.formula.parse import rename
from ridge.core.numerals import capital
from ridge.exchange.cells import NotANumber, read_number
from ridge.instruments import INSTRUMENTS, Channel, Instrument, Sample, Wanted, due
from ridge.studies.content.changes.base import ChangeRefused
from ridge.studies.content.changes.fits import AddFit
from ridge.studies.content.changes.sampled import AddSamples, SampledColumn
from ridge.studies.content.state import ColumnSettings, ColumnState, StudyState
from ridge.studies.content.store import add_samples, commit, read_state
from ridge.studies.models import PostKey, Run, Study

MOST_POSTED = 1000
"""Rows of one request."""
MOST_KEYS = 5
"""Keys of one study that are in force at once."""
KEY_BYTES = 24


class NoSuchKey(Exception):
    """The key is wrong, or was withdrawn."""


@dataclass(frozen=True)
class PostedRow:
    """A row as it was posted: each value as it is typed; None for a y that was not read."""

    x: str
    y: str
    series: str = ""


@dataclass(frozen=True)
class Posted:
    """How many rows the study has now, and what is odd about those that were added."""

    rows: int
    remark: str


def instrument_of(key: str) -> Instrument:
    """Raises ChangeRefused for a name that is none."""
    if key not in INSTRUMENTS:
        raise ChangeRefused(f"There is no instrument {key[:40]!r}. There are: {', '.join(INSTRUMENTS)}.")
    return INSTRUMENTS[key]


def wanted_of(run: Run) -> Wanted:
    return Wanted(run.interval, run.most, tuple(run.channels), run.seed)


def running(study: Study) -> Run | None:
    """The run that is going on, or whose last readings are not all taken."""
    return study.runs.filter(stopped=None).order_by("-started").first()


def is_read(study: Study) -> bool:
    """Whether rows may come by themselves: a run is going on, or a key is in force."""
    return study.attached and (running(study) is not None or study.keys.filter(withdrawn=None).exists())


def _attach(study: Study) -> None:
    if not study.attached:
        study.attached = True
        study.save(update_fields=["attached"])


@transaction.atomic
def start(study_id: uuid.UUID, instrument: str, wanted: Wanted, now: datetime) -> Run:
    """Begin a run; one that is going on ends. Raises ChangeRefused."""
    study = Study.objects.select_for_update().get(pk=study_id)
    one = instrument_of(instrument)
    try:
        channels = one.chosen(wanted.channels)
    except OutsideSense as problem:
        raise ChangeRefused(str(problem)) from None
    _attach(study)
    study.runs.filter(stopped=None).update(stopped=now)
    return Run.objects.create(
        study=study, instrument=instrument, channels=[channel.symbol for channel in channels], seed=wanted.seed,
        interval=wanted.interval, most=wanted.most, started=now,
    )  # fmt: skip


@transaction.atomic
def take(study_id: uuid.UUID, now: datetime, *, stop: bool = False) -> Run | None:
    """Bring what the run has read by now into the table; it ends when it is to, or has taken all that it was to. Raises ChangeRefused."""
    study = Study.objects.select_for_update().get(pk=study_id)
    run = running(study)
    if run is None:
        return None
    instrument = instrument_of(run.instrument)
    elapsed = (now - run.started).total_seconds()
    samples = list(due(instrument, wanted_of(run), run.taken, elapsed))
    if samples:
        there = [sample for sample in samples if not sample.lost]
        run.taken, run.lost = samples[-1].number + 1, run.lost + len(samples) - len(there)
        if there:
            channels = instrument.chosen(tuple(run.channels))
            add_samples(study_id, _rows(read_state(study), f"run-{run.pk}", there, instrument, channels))
    if stop or run.taken >= run.most:
        run.stopped = now
    run.save()
    return run


@transaction.atomic
def take_single(study_id: uuid.UUID, instrument: str, x: str) -> None:
    """One reading now, at an x that is typed. Raises ChangeRefused."""
    study = Study.objects.select_for_update().get(pk=study_id)
    one = instrument_of(instrument)
    try:
        number = read_number(x)
    except NotANumber as problem:
        raise ChangeRefused(f"{capital(str(problem))}.") from None
    if number is None:
        raise ChangeRefused("Type the value at which it is read.")
    # Another reading each time, and the same for whoever repeats it on this version.
    reading = one.at(float(number), study.version, study.pk.int % 2**31)
    add_samples(study_id, _rows(read_state(study), "single", [replace(reading, x=x.strip())], one, one.chosen(())))


def _rows(
    state: StudyState, run: str, samples: Sequence[Sample], instrument: Instrument, channels: Sequence[Channel]
) -> AddSamples:
    """The rows of samples, one a channel; several channels are told apart by the series column."""
    rows = [
        PostedRow(sample.x, sample.values[channel.symbol], channel.name if len(channels) > 1 else "")
        for sample in samples
        for channel in channels
    ]
    headings = _headings(state, instrument.x, channels)
    return rows_below(state, run, rows, headings)


def rows_below(state: StudyState, run: str, rows: Sequence[PostedRow], headings: list[ColumnSettings]) -> AddSamples:
    """The change that adds rows below what is typed. Raises ChangeRefused where a column for them is missing."""
    x, y, series = (state.column(role) for role in ("x", "y", "series"))
    assert x is not None and y is not None
    columns = [
        SampledColumn(key=x.key, cells=tuple(row.x for row in rows)),
        SampledColumn(key=y.key, cells=tuple(row.y for row in rows)),
    ]
    if any(row.series for row in rows):
        if series is None:
            raise ChangeRefused("Several series need a column for their names: add one with the role “series” first.")
        columns.append(SampledColumn(key=series.key, cells=tuple(row.series for row in rows)))
    return AddSamples(run=run, at=state.filled_rows, columns=columns, headings=headings)


def _headings(state: StudyState, x: Channel, channels: Sequence[Channel]) -> list[ColumnSettings]:
    """Of columns that have no name yet and hold nothing: what the instrument measures, and how uncertain it is."""
    if state.filled_rows:
        return []
    found = []
    for role, channel in (("x", x), ("y", channels[0])):
        column = state.column(role)
        if column is None or column.name or column.symbol or column.unit or column.formula:
            continue
        error = f"{channel.uncertainty:g}" if channel.uncertainty and role == "y" else ""
        found.append(
            ColumnSettings(
                key=column.key,
                name=channel.name,
                symbol=channel.symbol,
                unit=channel.unit,
                role=column.role,
                uncertainty=error,
            )
        )
    return found


def reveal(
    study_id: uuid.UUID, version: int, run: Run, symbol: str, request_key: str = ""
) -> tuple[Study, StudyState, StudyState]:
    """The curve that the readings of a run scatter about, as a known curve. Raises ChangeRefused, StaleVersion."""
    formula = instrument_of(run.instrument).true_curve(symbol or run.channels[0])
    if formula is None:
        raise ChangeRefused("Nobody knows the true curve of this instrument.")
    text = _in_symbol(formula, read_state(Study.objects.get(pk=study_id)).column("x"))
    change = AddFit.like(family="formula", options={"text": text}, name="true curve")
    return commit(study_id, version, change, request_key)


def _in_symbol(formula: str, column: ColumnState | None) -> str:
    """A formula in x, in the symbol of the x column where that is a name in formulas."""
    symbol = column.symbol if column else ""
    return rename(formula, "x", symbol) if re.fullmatch(r"[^\W\d]\w*", symbol) else formula


def new_key(study: Study) -> str:
    """A key that lets whoever holds it add rows to a study; only its hash is kept. Raises ChangeRefused."""
    if study.keys.filter(withdrawn=None).count() >= MOST_KEYS:
        raise ChangeRefused(f"A study has {MOST_KEYS} keys at most: withdraw one first.")
    key = secrets.token_urlsafe(KEY_BYTES)
    _attach(study)
    PostKey.objects.create(study=study, digest=_digest(key))
    return key


def _digest(key: str) -> str:
    # A random key of 24 bytes cannot be guessed from its hash: no slow one is needed (common practice).
    return hashlib.sha256(key.encode()).hexdigest()


_turn = Lock()
"""Senders of one process wait for each other here: SQLite lets those that wait for it try again at ever longer intervals."""


def post(key: str, rows: Sequence[PostedRow]) -> Posted:
    """Add rows with a key. Raises NoSuchKey, ChangeRefused."""
    _check_posted(rows)
    with _turn, transaction.atomic():
        return _post(key, rows)


def _post(key: str, rows: Sequence[PostedRow]) -> Posted:
    held = PostKey.objects.filter(digest=_digest(key), withdrawn=None).select_related("study").first()
    if held is None or held.study.deleted is not None:
        raise NoSuchKey
    study = Study.objects.select_for_update().get(pk=held.study_id)
    before = read_state(study)
    _, after = add_samples(study.pk, rows_below(before, f"key-{held.pk}", rows, []))
    held.posted += len(rows)
    held.save(update_fields=["posted"])
    return Posted(after.filled_rows, _backwards(before, rows))


def _backwards(before: StudyState, rows: Sequence[PostedRow]) -> str:
    """What is odd about the order of x: each is kept as it came."""
    column = before.column("x")
    last = [] if column is None or not before.filled_rows else [column.cells[before.filled_rows - 1]]
    numbers = [_number(text) for text in (*last, *(row.x for row in rows))]
    back = [place for place, (one, other) in enumerate(pairwise(numbers), 1 - len(last)) if other < one]
    if not back:
        return ""
    return f"Reading {back[0] + 1} has a smaller x than the one before it. All are kept as they came."


def _number(text: str) -> float:
    try:
        number = read_number(text)
    except NotANumber:
        return nan
    return nan if number is None else number


def _check_posted(rows: Sequence[PostedRow]) -> None:
    """All rows or none: what is no number is said with its place."""
    if not rows:
        raise ChangeRefused("There are no readings in the request.")
    for place, row in enumerate(rows):
        for name, text in (("x", row.x), ("y", row.y)):
            try:
                number = read_number(text)
            except NotANumber as problem:
                raise ChangeRefused(
                    f"Reading {place + 1}, {name}: {problem}. None of the readings was added."
                ) from None
            if number is None and name == "x":
                raise ChangeRefused(f"Reading {place + 1} has no x. None of the readings was added.")
