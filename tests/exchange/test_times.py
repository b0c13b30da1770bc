"""Dates and clock times as elapsed time; expected values by Python's datetime."""

from __future__ import annotations

from datetime import datetime, timedelta
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from ridge.exchange.tables import Choices, read_text_table
from ridge.exchange.tables.times import find_times
from tests.examples import examples


class Dates(TestCase):
    @examples(100)
    @given(
        st.lists(
            st.datetimes(datetime(1900, 1, 1), datetime(2099, 1, 1)).map(lambda d: d.replace(microsecond=0)), min_size=2
        ),
        st.sampled_from(["%Y-%m-%d %H:%M:%S", "%Y-%m-%dT%H:%M:%S", "%d.%m.%Y %H:%M:%S", "%Y/%m/%d %H:%M:%S"]),
    )
    def test_seconds_since_the_first(self, moments: list[datetime], pattern: str) -> None:
        found = find_times([moment.strftime(pattern) for moment in moments])
        assert found is not None
        self.assertEqual(found.kind, "date")
        self.assertEqual(found.seconds, tuple((moment - moments[0]).total_seconds() for moment in moments))

    def test_days_and_months_told_apart_where_one_way_is_possible(self) -> None:
        for cells, day_first, days in (
            (["3/4/2026", "25/4/2026"], None, 22),
            (["4/3/2026", "4/25/2026"], None, 22),
            (["3/4/2026", "5/4/2026"], True, 2),
            (["3/4/2026", "5/4/2026"], False, 61),
            (["03.04.26", "05.04.26"], None, 2),
        ):
            found = find_times(cells, day_first)
            assert found is not None
            self.assertEqual(found.seconds[1], days * 86400, cells)
            self.assertEqual(found.ambiguous, cells[0] == "3/4/2026" and cells[1] == "5/4/2026", cells)

    def test_no_such_day(self) -> None:
        found = find_times(["2026-02-27", "2026-02-30", "2026-03-01"])
        assert found is not None
        self.assertEqual((found.seconds[1], found.wrong), (None, (1,)))


class Clocks(TestCase):
    def test_past_midnight_and_half_days(self) -> None:
        found = find_times(["23:30", "23:59:30", "0:15", "1:00"])
        assert found is not None
        self.assertEqual(found.seconds, (0, 1770, 2700, 5400))
        found = find_times(["11:50 am", "12:10 pm", "1:05 pm"])
        assert found is not None
        self.assertEqual(found.seconds, (0, 1200, 4500))

    def test_gaps_and_words_stay(self) -> None:
        found = find_times(["9:00", "", "later", "9:10"])
        assert found is not None
        self.assertEqual((found.seconds, found.wrong), ((0, None, None, 600), (2,)))
        self.assertEqual(found.elapsed("min"), ["0", None, None, "10"])

    def test_numbers_are_no_times(self) -> None:
        for cells in (["1.5", "2.5"], ["1", "2"], ["a", "b"], [""], []):
            self.assertIsNone(find_times(cells))

    def test_a_unit_that_suits_the_steps(self) -> None:
        for step, unit in ((0.5, "s"), (1, "s"), (100, "min"), (7200, "h"), (86400, "d"), (604800, "d")):
            start = datetime(2026, 5, 4, 8)
            found = find_times([str(start + timedelta(seconds=i * step)) for i in range(10)])
            assert found is not None
            self.assertEqual(found.fitting_unit, unit)


class InTables(TestCase):
    TABLE = "when;depth (m)\n2026-05-04 08:00;1.2\n2026-05-04 09:30;2.4\n2026-05-04 11:00;n/a\n"

    def test_a_column_of_dates_becomes_elapsed_time(self) -> None:
        table = read_text_table(self.TABLE)
        when = table.columns[0]
        self.assertEqual((when.cells, when.unit, when.role, when.times), (("0", "1.5", "3"), "h", "x", "date"))
        minutes = read_text_table(self.TABLE, Choices(elapsed={0: "min"})).columns[0]
        self.assertEqual((minutes.cells, minutes.unit), (("0", "90", "180"), "min"))
        left = read_text_table(self.TABLE, Choices(elapsed={0: ""})).columns[0]
        self.assertEqual((left.cells[1], left.times), ("2026-05-04 09:30", ""))

    def test_lines_above_the_table_are_passed_over(self) -> None:
        text = "Sallow Quay, station 4\nmeasured by hand\n\ntime (s),height (m)\n0,1\n1,2\n2,4\n"
        table = read_text_table(text)
        self.assertEqual((table.header, [one.first for one in table.passed_over], table.row_count), (3, [1, 2], 3))
        self.assertEqual([column.unit for column in table.columns], ["s", "m"])
        second = read_text_table(text, Choices(header=4))
        self.assertEqual((second.header, second.row_count), (4, 2))
        self.assertEqual(read_text_table("a\n1,2\n3,4", Choices(header=0)).row_count, 3)
