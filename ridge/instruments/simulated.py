"""Three made-up instruments of the field week. Each is a process whose course is known, with noise, dropouts and a resolution of its
display; nothing that they read was measured."""

from __future__ import annotations

from collections.abc import Mapping
from math import exp, pi, sin

import numpy as np

from ridge.core.numerals import write
from ridge.instruments.interface import Channel, Instrument, Sample

LOST = 0.02
"""Share of the readings that never come."""


class Simulated(Instrument):
    """A process and the noise of its display. The same number, time and seed give the same reading, whoever asks."""

    simulated = True

    def read(self, number: int, seconds: float, seed: int) -> Sample:
        draw = np.random.default_rng([seed, number])
        if draw.random() < LOST:
            return Sample(number, "", {}, lost=True)
        return self._shown_at(self.x_at(seconds), number, draw)

    def at(self, x: float, number: int, seed: int) -> Sample:
        return self._shown_at(x, number, np.random.default_rng([seed, number, 1]))

    def _shown_at(self, x: float, number: int, draw: np.random.Generator) -> Sample:
        shown = _shown(x + _noise(self.x, draw), self.x)
        with np.errstate(all="ignore"):
            values = {
                channel.symbol: _shown(self.value_at(channel.symbol, x) + _noise(channel, draw), channel)
                for channel in self.channels
            }
        return Sample(number, shown, values)

    def x_at(self, seconds: float) -> float:
        """What x is so many seconds after the start."""
        return seconds

    def value_at(self, channel: str, x: float) -> float:
        """What a channel would read without noise."""
        raise NotImplementedError


def _noise(channel: Channel, draw: np.random.Generator) -> float:
    # The display adds its own share by rounding: JCGM 100:2008, 4.3.7.
    return float(draw.normal(0.0, channel.uncertainty)) if channel.uncertainty else 0.0


def _shown(value: float, channel: Channel) -> str:
    """As a display of this resolution shows it."""
    step = channel.resolution
    decimals = max(0, -int(np.floor(np.log10(step) + 1e-9)))
    return write(round(value / step) * step, decimals).plain


class Mug(Simulated):
    """T = T_a + (T_0 − T_a)·exp(−t/τ), Newton's law of cooling, sixty times as fast as a real mug."""

    key = "mug"
    title = "Temperature probe in a cooling mug"
    about = (
        "A mug of tea cools in a breezy galley, sixty times as fast as it would. A second probe hangs in the galley."
    )
    x = Channel("time", "t", "s", 0.01)
    channels = (
        Channel("temperature of the tea", "T", "°C", 0.1, 0.15),
        Channel("temperature of the galley", "T_g", "°C", 0.1, 0.15),
    )
    AIR, RISE, TIME = 16.5, 65.5, 22.0

    def value_at(self, channel: str, x: float) -> float:
        return self.AIR + (self.RISE * exp(-max(x, -60.0) / self.TIME) if channel == "T" else 0.0)

    def true_curve(self, channel: str) -> str | None:
        return f"{self.AIR} + {self.RISE}*exp(-x/{self.TIME:g})" if channel == "T" else f"{self.AIR} + 0*x"


class TideStaff(Simulated):
    """h = M + A·sin(2π(t − t_0)/P): one tide, half an hour to each second."""

    key = "tide"
    title = "Tide staff in fast motion"
    about = "The water at a staff, half an hour to each second."
    x = Channel("time", "t", "h", 0.01)
    channels = (Channel("height of the water", "h", "m", 0.01, 0.04),)
    MEAN, RANGE, PERIOD, BEGIN, FAST = 3.05, 1.82, 12.42, 2.3, 0.5

    def x_at(self, seconds: float) -> float:
        return seconds * self.FAST

    def value_at(self, channel: str, x: float) -> float:
        return self.MEAN + self.RANGE * sin(2 * pi * (x - self.BEGIN) / self.PERIOD)

    def true_curve(self, channel: str) -> str | None:
        return f"{self.MEAN} + {self.RANGE}*sin(2*pi*(x - {self.BEGIN})/{self.PERIOD})"


class LightSensor(Simulated):
    """E = I/d² + E_0: the inverse square, and what shines besides."""

    key = "light"
    title = "Light sensor carried away from a lantern"
    about = (
        "Somebody walks away from a lantern with a sensor; a wheel counts how far. A lamp on the quay shines besides."
    )
    x = Channel("distance", "d", "m", 0.01)
    channels = (Channel("illuminance", "E", "lx", 0.01, 0.05),)
    BRIGHT, REST, BEGIN, PACE = 41.0, 0.35, 0.6, 0.25

    def x_at(self, seconds: float) -> float:
        return self.BEGIN + self.PACE * seconds

    def value_at(self, channel: str, x: float) -> float:
        # Nearer than a centimetre the sensor shows all that it can.
        away = max(abs(x), 0.01)
        return self.BRIGHT / away / away + self.REST

    def true_curve(self, channel: str) -> str | None:
        return f"{self.BRIGHT}/x^2 + {self.REST}"


INSTRUMENTS: Mapping[str, Instrument] = {one.key: one() for one in (Mug, TideStaff, LightSensor)}
"""Every instrument that Ridge has, by its key."""
