"""The interface of an instrument: what it measures, when it is read, and what it has read since."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import floor, isfinite
from typing import ClassVar

from ridge.core.errors import OutsideSense

SHORTEST, LONGEST = 0.1, 3600.0
"""Seconds from one reading to the next, at least and at most."""
MOST = 10_000
"""Readings of one run."""


@dataclass(frozen=True)
class Channel:
    """A quantity that is measured: its ``name``, ``symbol`` and ``unit``, the ``resolution`` of the display in that unit, and the standard
    ``uncertainty`` of one reading, None for what is taken as exact."""

    name: str
    symbol: str
    unit: str
    resolution: float
    uncertainty: float | None = None


@dataclass(frozen=True)
class Sample:
    """A reading: its ``number`` in the run, from 0; ``x``, and by channel what was read, as the display shows it. ``lost``: nothing came."""

    number: int
    x: str
    values: Mapping[str, str]
    lost: bool = False


@dataclass(frozen=True)
class Wanted:
    """A run: from one reading to the next so many seconds, until ``most`` are taken; of these channels; with this seed.

    Raises OutsideSense.
    """

    interval: float
    most: int = MOST
    channels: tuple[str, ...] = ()
    seed: int = 1

    def __post_init__(self) -> None:
        if not (isfinite(self.interval) and SHORTEST <= self.interval <= LONGEST):
            raise OutsideSense("interval", f"is from {SHORTEST:g} to {LONGEST:g} s.")
        if not 1 <= self.most <= MOST:
            raise OutsideSense("most", f"is from 1 to {MOST}.")


class Instrument(ABC):
    """What every instrument has. ``simulated``: whether what it reads is made up. ``x``: what its readings stand at; ``channels``: what it
    measures, the first one unless others are chosen."""

    key: ClassVar[str]
    title: ClassVar[str]
    about: ClassVar[str]
    simulated: ClassVar[bool]
    x: ClassVar[Channel]
    channels: ClassVar[tuple[Channel, ...]]

    @abstractmethod
    def read(self, number: int, seconds: float, seed: int) -> Sample:
        """Reading ``number`` of a run, so many seconds after its start, of all channels."""

    @abstractmethod
    def at(self, x: float, number: int, seed: int) -> Sample:
        """One reading at an x that whoever measures has set, never lost."""

    @abstractmethod
    def true_curve(self, channel: str) -> str | None:
        """The formula in x that its readings scatter about; None where nobody knows it."""

    def chosen(self, symbols: tuple[str, ...]) -> tuple[Channel, ...]:
        """The channels of these symbols; the first one for none. Raises OutsideSense."""
        held = {channel.symbol: channel for channel in self.channels}
        if unknown := [symbol for symbol in symbols if symbol not in held]:
            raise OutsideSense("channels", f"has no {unknown[0]!r}: there are {', '.join(held)}.")
        return tuple(held[symbol] for symbol in symbols) or self.channels[:1]


def due(instrument: Instrument, wanted: Wanted, since: int, elapsed: float) -> Iterator[Sample]:
    """The samples from number ``since`` on that are there so many seconds after the start, each once and in order, the lost ones too.

    >>> from ridge.instruments import INSTRUMENTS, Wanted, due
    >>> run = Wanted(interval=0.5, most=4)
    >>> [sample.number for sample in due(INSTRUMENTS["mug"], run, 1, 1.2)]
    [1, 2]
    """
    # A reading is there at its time: 3 × 0.1 s counts as 0.3 s.
    there = min(floor(max(elapsed, -1.0) / wanted.interval + 1e-9), wanted.most - 1)
    for number in range(max(since, 0), there + 1):
        yield instrument.read(number, number * wanted.interval, wanted.seed)
