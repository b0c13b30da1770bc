"""What is said of instruments, of a run and of keys."""

from __future__ import annotations

from datetime import datetime
from math import floor

from pydantic import BaseModel as Schema

from ridge.core.numerals import count_word
from ridge.core.wording.naming import with_unit
from ridge.instruments import Channel, Instrument
from ridge.studies.content.runs import instrument_of
from ridge.studies.models import PostKey, Run


class ChannelOut(Schema):
    symbol: str
    name: str
    unit: str
    resolution: float
    uncertainty: float | None


class InstrumentOut(Schema):
    """An instrument that can be chosen. ``simulated``: what it reads is made up."""

    key: str
    title: str
    about: str
    simulated: bool
    x: ChannelOut
    channels: list[ChannelOut]


class ShownValueOut(Schema):
    """What a channel shows at the moment."""

    name: str
    text: str


class RunOut(Schema):
    """A run: ``taken`` of its readings are in the table, ``gap`` says what is missing; ``shown``: what its display shows now."""

    id: int
    instrument: str
    title: str
    simulated: bool
    channels: list[str]
    interval: float
    most: int
    going: bool
    taken: int
    gap: str
    shown: list[ShownValueOut]


class KeyOut(Schema):
    """A key without itself."""

    id: int
    made: datetime
    withdrawn: bool
    posted: int


def instrument_out(one: Instrument) -> InstrumentOut:
    return InstrumentOut(
        key=one.key, title=one.title, about=one.about, simulated=one.simulated, x=_channel(one.x), channels=[_channel(c) for c in one.channels],
    )  # fmt: skip


def _channel(one: Channel) -> ChannelOut:
    return ChannelOut(
        symbol=one.symbol, name=one.name, unit=one.unit, resolution=one.resolution, uncertainty=one.uncertainty
    )


def run_out(run: Run, now: datetime) -> RunOut:
    instrument = instrument_of(run.instrument)
    until = run.stopped or now
    last = min(floor((until - run.started).total_seconds() / run.interval + 1e-9), run.most - 1)
    # Where the newest one is lost the display still shows the one before.
    newest = (
        instrument.read(number, number * run.interval, run.seed) for number in range(last, max(last - 20, -1), -1)
    )
    sample = next((one for one in newest if not one.lost), None)
    shown = []
    if sample is not None:
        shown.append(ShownValueOut(name=instrument.x.name, text=with_unit(sample.x, instrument.x.unit)))
        for channel in instrument.chosen(tuple(run.channels)):
            text = with_unit(sample.values[channel.symbol], channel.unit)
            shown.append(ShownValueOut(name=channel.name, text=text))
    lost = (
        ""
        if not run.lost
        else f"{count_word(run.lost, capital=True)} reading{'' if run.lost == 1 else 's'} never came."
    )
    return RunOut(
        id=run.pk, instrument=run.instrument, title=instrument.title, simulated=instrument.simulated, channels=list(run.channels),
        interval=run.interval, most=run.most, going=run.stopped is None, taken=run.taken - run.lost, gap=lost, shown=shown,
    )  # fmt: skip


def key_out(key: PostKey) -> KeyOut:
    return KeyOut(id=key.pk, made=key.made, withdrawn=key.withdrawn is not None, posted=key.posted)
