"""Values that a caller cannot change, since others remember them too."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TypeVar

import numpy as np
import numpy.typing as npt

Value = TypeVar("Value")
AnyArray = TypeVar("AnyArray", bound=npt.NDArray[np.generic])


def frozen(array: AnyArray) -> AnyArray:
    """The same array, closed to writing."""
    array.flags.writeable = False
    return array


class ReadOnly(Mapping[str, Value]):
    """A mapping without a way to change it; unlike ``MappingProxyType`` it can go to another process."""

    def __init__(self, values: Mapping[str, Value]) -> None:
        self._values = dict(values)

    def __getitem__(self, name: str) -> Value:
        return self._values[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._values)

    def __len__(self) -> int:
        return len(self._values)

    def __repr__(self) -> str:
        return repr(self._values)
