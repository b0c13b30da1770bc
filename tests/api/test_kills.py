"""Servers killed at random while people work; ``./run chaos`` does it a thousand times."""

from __future__ import annotations

from unittest import TestCase

from tests.kills import run


class Killed(TestCase):
    take_long = True

    def test_nothing_acknowledged_is_lost_and_nothing_is_made_twice(self) -> None:
        for servers, kills in ((1, 40), (2, 10)):
            found = run(kills, seed=servers, servers=servers, whole=0.1)
            self.assertEqual(found.kills, kills)
            self.assertGreater(found.acknowledged, kills)
            self.assertGreater(found.whole, 0)
