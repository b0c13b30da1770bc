"""What measures: one interface, and behind it three simulated instruments. Without Django, and without a clock: what an instrument reads
depends on its seed and the time that it is asked for."""

from ridge.instruments.interface import Channel, Instrument, Sample, Wanted, due
from ridge.instruments.simulated import INSTRUMENTS

__all__ = ["INSTRUMENTS", "Channel", "Instrument", "Sample", "Wanted", "due"]
