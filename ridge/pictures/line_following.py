"""A line in a picture followed by itself: step by step along it, each step set on the middle of what has its colour, or on the border
between two shades.

Across the line a profile is taken at every step; its place is the centroid of the colour (for a border, where it passes from one shade to
the other half-way), which is found to a fraction of a pixel. Common practice in reading curves off pictures.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import median
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy.ndimage import distance_transform_edt, map_coordinates

from ridge.core.errors import OutsideSense
from ridge.core.readings import Array
from ridge.pictures.opening import Picture

Point = tuple[float, float]
FEWEST, MOST = 5, 200
LEAST_CONTRAST = 24.0
"""By how much a line differs from what lies around it, in 0 to 255 for each of three colours together."""
_WINDOW = 14
_STEP = 2.0
_FINE = 0.5
_NEAR = 4.0
_GAP = 14.0
"""Pixels without the line that are stepped over: of a dashed one its gaps."""
_LEAST_SHARE = 0.3
_WIDEST, _SEEN = 40, 64
"""Pixels up to which a stripe of one shade is a line; and how far around the start its width is measured."""
_THIN, _REMEMBERED = 0.5, 15
"""A line that has less than this part of what it had on the steps before is another one."""
_ENDLESS = 40_000


@dataclass(frozen=True)
class Followed(Sequence[Point]):
    """Places along a line in pixels, evenly spaced, from the end that lies farther left. ``ends``: why it stops at each end, as sentences.
    ``kind``: "line", or "border" between two shades."""

    points: Array
    ends: tuple[str, str]
    kind: Literal["line", "border"]

    def __len__(self) -> int:
        return len(self.points)

    def __getitem__(self, place):  # type: ignore[no-untyped-def]
        return self.points[place]

    def __iter__(self) -> Iterator[Point]:
        return ((float(x), float(y)) for x, y in self.points)


def follow_line(
    picture: Picture, start: Point, stop: Point | None = None, count: int = 50, near: float = _NEAR
) -> Followed:
    """Follow what lies at ``start`` both ways, or towards ``stop``, and lay ``count`` places on its middle. ``near``: pixels by which the
    line may lie beside the start.

    Raises OutsideSense for a start outside the picture, for a number of places that is too small or too large, and where there is
    nothing to be followed.

    >>> import numpy as np
    >>> from ridge.pictures import Picture, follow_line
    >>> rgb = np.full((60, 100, 3), 255, dtype=np.uint8)
    >>> rgb[29:32] = (20, 60, 120)
    >>> line = follow_line(Picture(rgb, "PNG"), (50, 30), count=5)
    >>> sorted({round(y, 2) for _, y in line})
    [30.0]
    """
    if not FEWEST <= count <= MOST:
        raise OutsideSense("count", f"is a whole number from {FEWEST} to {MOST}.")
    for name, point in (("start", start), ("stop", stop)):
        if point is not None and not (0 <= point[0] < picture.width and 0 <= point[1] < picture.height):
            raise OutsideSense(name, "lies outside the picture.")
    sight = _look(picture, start, near)
    first = sight.settled(sight.start, sight.direction)
    if first is None:
        raise OutsideSense("start", "lies on nothing that can be followed: press on the line itself.")
    ways = [_walk(sight, first, sign * sight.direction, stop) for sign in (1.0, -1.0)]
    if stop is not None:
        way = min(ways, key=lambda one: one.to_stop)
        places, ends = way.cut(first, stop), ("It begins where it was pressed.", way.end_at(stop))
    else:
        ahead, back = ways
        places, ends = np.vstack([back.places[::-1], first[None], ahead.places]), (back.why, ahead.why)
    if places[0, 0] > places[-1, 0] and stop is None:
        places, ends = places[::-1], ends[::-1]
    return Followed(_evenly(places, count), ends, sight.kind)


def _evenly(places: Array, count: int) -> Array:
    """So many places at equal distances along a path."""
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(places, axis=0).T))])
    wanted = np.linspace(0.0, along[-1], count)
    return np.column_stack([np.interp(wanted, along, places[:, axis]) for axis in (0, 1)])


@dataclass(frozen=True)
class _Sight:
    """What is followed: a line of a ``colour``, or the border between that colour and ``other``, from beside a ``start``. ``reach``: pixels
    to either side that are looked at."""

    pixels: npt.NDArray[np.uint8]
    kind: Literal["line", "border"]
    colour: Array
    other: Array
    start: Array
    direction: Array
    reach: float

    def settled(self, at: Array, direction: Array) -> Array | None:
        """The middle of the line beside a place; None where there is none."""
        found = self.beside(at, direction)
        return None if found is None else at + found[0] * _normal(direction)

    def beside(self, at: Array, direction: Array) -> tuple[float, float] | None:
        """How far to the side what is followed lies, and how much of it there is across: its width in pixels times its share of the
        colour (of a border always one)."""
        shares, across = self._profile(at, direction)
        if self.kind == "line":
            return _middle(shares, across)
        passed = _passage(shares, across)
        return None if passed is None else (passed, 1.0)

    def branches(self, at: Array, direction: Array) -> bool:
        """Whether two lines lie side by side there."""
        if self.kind == "border":
            return False
        shares, _ = self._profile(at, direction)
        strong = shares > 0.6
        return int(np.sum(np.diff(np.concatenate([[False], strong]).astype(int)) == 1)) > 1

    def _profile(self, at: Array, direction: Array) -> tuple[Array, Array]:
        """Across the line: how much each place has of the colour, 0 to 1."""
        across = np.arange(-self.reach, self.reach + _FINE / 2, _FINE)
        places = at[None] + across[:, None] * _normal(direction)[None]
        seen = np.stack(
            [
                map_coordinates(
                    self.pixels[:, :, channel], [places[:, 1], places[:, 0]], output=np.float64, order=1, mode="nearest"
                )
                for channel in range(3)
            ],
            axis=1,
        )
        span = self.colour - self.other
        along = (seen - self.other) @ span / (span @ span)
        # What is far from the way between both colours belongs to something else.
        off = np.linalg.norm(seen - (self.other + along[:, None] * span), axis=1) / np.linalg.norm(span)
        return np.clip(along, 0.0, 1.0) * np.clip(1.5 - 2 * off, 0.0, 1.0), across


def _normal(direction: Array) -> Array:
    return np.array([-direction[1], direction[0]])


def _middle(shares: Array, across: Array) -> tuple[float, float] | None:
    """Centroid of the piece of colour nearest to the middle of the profile, and how much of it there is."""
    there = shares > _LEAST_SHARE
    if not there.any():
        return None
    edges = np.flatnonzero(np.diff(np.concatenate([[False], there, [False]]).astype(int)))
    pieces = edges.reshape(-1, 2)
    begin, end = min(pieces, key=lambda piece: float(np.abs(across[piece[0] : piece[1]]).min()))
    if end - begin >= len(across) - 1:
        return None  # all of it has the colour: that is an area
    # The flanks count too, so that the middle is found between pixels.
    wide = slice(max(0, begin - 3), min(len(across), end + 3))
    weights = shares[wide]
    return float(weights @ across[wide] / weights.sum()), float(weights.sum()) * _FINE


def _passage(shares: Array, across: Array) -> float | None:
    """Where the profile passes from one shade to the other, half-way, nearest to its middle."""
    over = shares > 0.5
    turns = np.flatnonzero(over[1:] != over[:-1])
    if not len(turns):
        return None
    places = across[turns] + (0.5 - shares[turns]) / (shares[turns + 1] - shares[turns]) * _FINE
    nearest = int(np.argmin(np.abs(places)))
    side = slice(0, turns[nearest] + 1), slice(turns[nearest] + 1, None)
    if abs(float(shares[side[0]].mean()) - float(shares[side[1]].mean())) < _LEAST_SHARE:
        return None
    return float(places[nearest])


def _look(picture: Picture, start: Point, reach: float) -> _Sight:
    """What lies at a place."""
    pixels = picture.rgb
    column, row = round(start[0]), round(start[1])
    rows = slice(max(0, row - _WINDOW), row + _WINDOW + 1)
    columns = slice(max(0, column - _WINDOW), column + _WINDOW + 1)
    window = pixels[rows, columns].astype(np.float64)
    y, x = np.mgrid[rows.start : rows.start + window.shape[0], columns.start : columns.start + window.shape[1]]
    near = np.hypot(x - start[0], y - start[1]) <= reach
    around = np.median(window.reshape(-1, 3), axis=0)
    contrast = np.linalg.norm(window - around, axis=2)
    strongest = float(np.where(near, contrast, 0.0).max())
    if strongest < LEAST_CONTRAST:
        # The median may be the one shade of two: then the other is what differs.
        strongest = float(contrast.max())
        if strongest < LEAST_CONTRAST:
            thick = _inside_a_thick_line(pixels, start, reach)
            if thick is None:
                raise OutsideSense("start", "lies on nothing that stands out from what is around it.")
            return thick
    share = float((contrast > strongest / 2).mean())
    beside_nothing = float(np.where(near, contrast, 0.0).max()) < LEAST_CONTRAST
    if beside_nothing and (thick := _inside_a_thick_line(pixels, start, reach)) is not None:
        return thick
    if share > 0.3 or beside_nothing:
        colour, rest, there = _two_shades(window, contrast > strongest / 2)
        return _thick_line(pixels, start, colour, rest, reach) or _border(pixels, start, colour, rest, there, x, y)
    peak = near & (contrast > 0.7 * strongest)
    colour = window[peak].mean(axis=0)
    like = np.clip(1 - np.linalg.norm(window - colour, axis=2) / strongest, 0.0, 1.0)
    # The line may lie beside what was pressed: it is followed from its nearest pixel on.
    nearest = np.unravel_index(np.argmin(np.where(peak, np.hypot(x - start[0], y - start[1]), np.inf)), peak.shape)
    at = np.array(
        start if peak[row - rows.start, column - columns.start] else (x[nearest], y[nearest]), dtype=np.float64
    )
    return _Sight(pixels, "line", colour, around, at, _along(like, x, y, (at[0], at[1])), float(_WINDOW) / 2)


def _along(weights: Array, x: Array, y: Array, start: Point) -> Array:
    """The direction in which a line runs through a place: that in which most of its colour lies."""
    from_start = np.stack([x - start[0], y - start[1]], axis=-1)
    angles = np.linspace(0, np.pi, 72, endpoint=False)

    def held(angle: float) -> float:
        direction = np.array([np.cos(angle), np.sin(angle)])
        aside = from_start @ _normal(direction)
        return float((weights * np.exp(-((aside / 2) ** 2))).sum())

    best = max(angles, key=held)
    return np.array([np.cos(best), np.sin(best)])


def _inside_a_thick_line(pixels: npt.NDArray[np.uint8], start: Point, reach: float) -> _Sight | None:
    """Where all near the start has one colour: a stripe of it, whose edges are farther off. None where that is an area."""
    column, row = round(start[0]), round(start[1])
    top, left = max(0, row - _SEEN), max(0, column - _SEEN)
    seen = pixels[top : row + _SEEN + 1, left : column + _SEEN + 1].astype(np.float64)
    colour = np.median(pixels[max(0, row - 2) : row + 3, max(0, column - 2) : column + 3].reshape(-1, 3), axis=0)
    others = seen[np.linalg.norm(seen - colour, axis=2) > LEAST_CONTRAST]
    return _thick_line(pixels, start, colour, np.median(others, axis=0), reach) if len(others) else None


def _two_shades(window: Array, other_side: npt.NDArray[np.bool_]) -> tuple[Array, Array, npt.NDArray[np.bool_]]:
    """The two colours that meet there, and which pixels have the first."""
    if (
        not 0 < other_side.mean() < 1
        or np.linalg.norm(_medians(window, other_side)[0] - _medians(window, other_side)[1]) < LEAST_CONTRAST
    ):
        # Where both have an equal share neither is what lies around: the farthest from each other are taken.
        flat = window.reshape(-1, 3)
        first = flat[np.argmax(np.linalg.norm(flat - flat.mean(axis=0), axis=1))]
        second = flat[np.argmax(np.linalg.norm(flat - first, axis=1))]
        other_side = np.linalg.norm(window - first, axis=2) < np.linalg.norm(window - second, axis=2)
        if np.linalg.norm(first - second) < LEAST_CONTRAST:
            raise OutsideSense("start", "lies on nothing that stands out from what is around it.")
    return *_medians(window, other_side), other_side


def _medians(window: Array, there: npt.NDArray[np.bool_]) -> tuple[Array, Array]:
    return np.median(window[there], axis=0), np.median(window[~there], axis=0)


def _thick_line(
    pixels: npt.NDArray[np.uint8], start: Point, first: Array, second: Array, reach: float
) -> _Sight | None:
    """A stripe of either shade, at most 40 pixels wide, at the start or within ``reach`` of it; None where there is none. The shade that
    was pressed is tried first."""
    span = second - first
    column, row = round(start[0]), round(start[1])
    top, left = max(0, row - _SEEN), max(0, column - _SEEN)
    seen = pixels[top : row + _SEEN + 1, left : column + _SEEN + 1].astype(np.float64)
    is_second = ((seen - first) @ span) / (span @ span) > 0.5
    y, x = np.mgrid[top : top + seen.shape[0], left : left + seen.shape[1]]
    distance = np.hypot(x - start[0], y - start[1])
    shades = [(first, second, ~is_second), (second, first, is_second)]
    if is_second[row - top, column - left]:
        shades.reverse()
    for colour, other, there in shades:
        beside = np.where(there, distance, np.inf)
        if beside.min() > reach:
            continue
        nearest = np.unravel_index(np.argmin(beside), there.shape)
        half, middle = _middle_of_stripe(there, (int(nearest[0]), int(nearest[1])))
        if 2 * half - 2 <= _WIDEST:  # distances are to the middles of pixels outside
            direction = _longest_way(there, middle)
            return _Sight(pixels, "line", colour, other, middle + [left, top], direction, 1.5 * half + _WINDOW / 2)  # noqa: RUF005
    return None


def _middle_of_stripe(there: npt.NDArray[np.bool_], at: tuple[int, int]) -> tuple[float, Array]:
    """Half the width of a stripe and its middle, uphill from a place of it (row, column) in distance from its edge."""
    depth = distance_transform_edt(there)
    row, column = at
    while True:
        rows, columns = max(0, row - 2), max(0, column - 2)
        around = depth[rows : row + 3, columns : column + 3]
        best = np.unravel_index(int(np.argmax(around)), around.shape)
        if around[best] <= depth[row, column]:
            return float(depth[row, column]), np.array([column, row], dtype=np.float64)
        row, column = rows + int(best[0]), columns + int(best[1])


def _longest_way(there: npt.NDArray[np.bool_], at: Array) -> Array:
    """The direction in which a stripe goes on farthest through a place, both ways together."""
    steps = np.arange(1, 2 * _SEEN)

    def length(angle: float) -> float:
        way = np.array([np.cos(angle), np.sin(angle)])
        found = 0
        for sign in (1, -1):
            columns, rows = np.rint(at[:, None] + sign * way[:, None] * steps).astype(int)
            inside = (columns >= 0) & (columns < there.shape[1]) & (rows >= 0) & (rows < there.shape[0])
            out = np.flatnonzero(~there[rows[inside], columns[inside]])
            found += int(out[0]) if len(out) else int(inside.sum())
        return found

    best = max(np.linspace(0, np.pi, 72, endpoint=False), key=length)
    return np.array([np.cos(best), np.sin(best)])


def _border(
    pixels: npt.NDArray[np.uint8], start: Point, colour: Array, rest: Array, other_side: npt.NDArray[np.bool_], x: Array, y: Array
) -> _Sight:  # fmt: skip
    # From the one side to the other, and the border square to that.
    across = np.array([x[other_side].mean() - x[~other_side].mean(), y[other_side].mean() - y[~other_side].mean()])
    length = float(np.hypot(*across)) or 1.0
    at = np.array(start, dtype=np.float64)
    return _Sight(pixels, "border", colour, rest, at, _normal(across / length), float(_WINDOW) / 2)


@dataclass(frozen=True)
class _Way:
    """Places that were come to, shape (n, 2), why it went no farther, and how near to the stop it came."""

    places: Array
    why: str
    to_stop: float

    def cut(self, first: Array, stop: Point) -> Array:
        """Up to the place nearest to the stop."""
        whole = np.vstack([first[None], self.places])
        nearest = int(np.argmin(np.hypot(*(whole - np.array(stop)).T)))
        return whole[: max(nearest, 1) + 1]

    def end_at(self, stop: Point) -> str:
        return (
            "It ends where it was pressed."
            if self.to_stop <= 2 * _NEAR
            else f"It did not come to the second place. {self.why}"
        )


def _walk(sight: _Sight, first: Array, direction: Array, stop: Point | None) -> _Way:
    height, width = sight.pixels.shape[:2]
    places: list[Array] = []
    at, heading, gap, doubled, thin, nearest = first, direction, 0.0, 0, 0, np.inf
    wide: deque[float] = deque(maxlen=_REMEMBERED)
    why = "It is longer than can be followed."
    for number in range(_ENDLESS):
        ahead = at + _STEP * heading
        if not (0 <= ahead[0] <= width - 1 and 0 <= ahead[1] <= height - 1):
            why = "It comes to the edge of the picture."
            break
        beside = sight.beside(ahead, heading)
        if beside is None or abs(beside[0]) > _NEAR:
            gap += _STEP
            at = ahead
            if gap > _GAP:
                why = "The line ends there, or is too faint to be followed farther."
                break
            continue
        offset, mass = beside
        thin = thin + 1 if wide and mass < _THIN * median(wide) else 0
        if thin * _STEP > _GAP:
            places = places[: -thin + 1]
            why = "It becomes thinner or paler there, and may be another line: press on that one to follow it."
            break
        if not thin:
            wide.append(mass)
        doubled = doubled + 1 if sight.branches(ahead, heading) else 0
        if doubled > 4:
            places = places[:-4]
            why = "Two lines lie side by side there: press on the one that is meant."
            break
        found = ahead + offset * _normal(heading)
        went = found - (places[-1] if places else first)
        heading = heading + 0.5 * went / (float(np.hypot(*went)) or 1.0)
        heading = heading / float(np.hypot(*heading))
        at, gap = found, 0.0
        places.append(found)
        if stop is not None:
            nearest = min(nearest, float(np.hypot(*(found - np.array(stop)))))
            if nearest < _STEP:
                break
        if number > 20 and float(np.hypot(*(found - first))) < 1.5 * _STEP:
            why = "It comes back to where it began."
            break
    return _Way(np.array(places).reshape(-1, 2), why, nearest)
