"""Whose turn it is: a bounded queue that goes round the people in it, so that nobody's twenty things go before another's one."""

from __future__ import annotations

from collections import OrderedDict, deque
from collections.abc import Hashable
from threading import Condition


class Full(Exception):
    """There is no room in the queue, or no more for one person: ``of_person``."""

    def __init__(self, of_person: bool) -> None:
        super().__init__("the queue is full")
        self.of_person = of_person


class Turn:
    """A place in the queue."""

    def __init__(self, person: Hashable) -> None:
        self.person = person
        self.has_come = False


class Turns:
    """One thing at a time. At most ``room`` wait or are under way, ``room_each`` of one person."""

    def __init__(self, room: int, room_each: int) -> None:
        self._room, self._room_each = room, room_each
        self._waiting: OrderedDict[Hashable, deque[Turn]] = OrderedDict()
        self._now: Turn | None = None
        self._changed = Condition()

    def enter(self, person: Hashable) -> Turn:
        """A new place at the end. Raises Full."""
        with self._changed:
            held = [turn.person for line in self._waiting.values() for turn in line]
            held += [self._now.person] if self._now else []
            if len(held) >= self._room or held.count(person) >= self._room_each:
                raise Full(of_person=held.count(person) >= self._room_each)
            turn = Turn(person)
            self._waiting.setdefault(person, deque()).append(turn)
            self._next()
            return turn

    def wait(self, turn: Turn, seconds: float | None = None) -> bool:
        """Whether its turn comes within so many seconds."""
        with self._changed:
            return self._changed.wait_for(lambda: turn.has_come, seconds)

    def ahead(self, turn: Turn) -> int:
        """How many come before it, the one under way among them."""
        with self._changed:
            if turn.has_come or turn.person not in self._waiting:
                return 0
            own = self._waiting[turn.person].index(turn)
            now = self._now.person if self._now else None
            people = sorted(self._waiting, key=lambda person: person == now)  # whoever has the turn now comes last
            first = people.index(turn.person)
            others = [min(len(self._waiting[p]), own + (i < first)) for i, p in enumerate(people) if i != first]
            return own + sum(others) + (self._now is not None)

    def leave(self, turn: Turn) -> None:
        """Done, or no longer wanted."""
        with self._changed:
            if self._now is turn:
                self._now = None
                if turn.person in self._waiting:
                    self._waiting.move_to_end(turn.person)
            elif turn.person in self._waiting and turn in self._waiting[turn.person]:
                self._waiting[turn.person].remove(turn)
                if not self._waiting[turn.person]:
                    del self._waiting[turn.person]
            self._next()

    def _next(self) -> None:
        """Give the turn to the first of whoever has waited longest since their last one."""
        if self._now is None and self._waiting:
            person, line = next(iter(self._waiting.items()))
            self._now = line.popleft()
            self._now.has_come = True
            if not line:
                del self._waiting[person]
        self._changed.notify_all()
