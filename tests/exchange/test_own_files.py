"""Readings that go out of Ridge come back as they were: values, names, units, excluded rows with their reasons, unknown samples."""

from __future__ import annotations

import math
from dataclasses import replace

from django.test import SimpleTestCase

from ridge.core.decimal_sign import written_with
from ridge.exchange.data_files import write_csv, write_ods, write_xlsx
from ridge.exchange.files import read_file
from ridge.exchange.tables import Choices, read_text_table
from ridge.studies.content.changes.tables import TakenColumn, TakeTable
from ridge.studies.content.readings import Status, read_table
from ridge.studies.content.samples import SAMPLES, build_sample
from ridge.studies.content.state import StudyState, empty_study
from ridge.studies.out.data import readings_sheet
from tests.api.test_columns import column, study


def imported(name: str, data: bytes) -> StudyState:
    """The study that begins with a file, as it is proposed."""
    text = read_file(name, data).text
    found = read_text_table(text, Choices())
    columns = [TakenColumn(name=one.name, symbol=one.symbol, unit=one.unit, role=one.role) for one in found.columns]  # type: ignore[arg-type]
    return TakeTable(text=text, columns=columns).apply(empty_study("again")).state


def essence(state: StudyState) -> list[tuple[Status, float, float, str]]:
    """Each row that holds anything: its status, x and y, and why it is excluded."""
    table = read_table(state)
    rows = []
    for row in range(state.filled_rows):
        status = Status(int(table.status[row]))
        x, y = (float(f"{float(values[row]):.9g}") for values in (table.readings.x, table.readings.y))
        rows.append(
            (status, math.inf if math.isnan(x) else x, math.inf if math.isnan(y) else y, state.aside.get(row, ""))
        )
    return rows


class OwnFiles(SimpleTestCase):
    def test_every_sample_in_every_format(self) -> None:
        for sample in SAMPLES:
            state = build_sample(sample.name)
            sheet = readings_sheet(state)
            with written_with("comma"):
                commas = write_csv(sheet)
            for kind, data in (
                ("csv", write_csv(sheet)),
                ("csv", commas),
                ("xlsx", write_xlsx([sheet])),
                ("ods", write_ods([sheet])),
            ):
                with self.subTest(sample=sample.name, kind=kind):
                    again = imported(f"readings.{kind}", data)
                    self.assertEqual(essence(again), essence(state))
                    for role in ("x", "y"):
                        one, other = again.column(role), state.column(role)
                        assert one is not None and other is not None
                        # A symbol that a fit may have, such as E, stays in the name.
                        self.assertEqual(f"{one.name} {one.symbol}".strip(), f"{other.name} {other.symbol}".strip())
                    self.assertNotIn("series", [column.role for column in again.columns])

    def test_a_row_without_x_stays_an_unknown_sample_and_an_excluded_one_excluded(self) -> None:
        state = build_sample("salinity-probe")
        state = replace(state, aside={2: "bubble on the probe", 4: "read twice"})
        again = imported("readings.csv", write_csv(readings_sheet(state)))
        self.assertEqual(again.aside, state.aside)
        self.assertEqual(len(read_table(again).unknowns), 3)

    def test_columns_without_names_are_x_and_y(self) -> None:
        state = build_sample("mooring-line")
        columns = tuple(replace(column, name="", symbol="", unit="") for column in state.columns)
        self.assertEqual(readings_sheet(replace(state, columns=columns, fits=())).headings[:3], ["row", "x", "y"])

    def test_a_status_column_of_somebody_else_stays(self) -> None:
        again = imported("readings.csv", b"x,y,status\n1,2,good\n2,4,bad\n3,6.1,good\n")
        self.assertIn("status", [column.name for column in again.columns])
        self.assertEqual(again.aside, {})

    def test_clock_times_stay_clock_times(self) -> None:
        for unit, cells in (
            ("h:min", "13:30 14:00 14:30 15:10"), ("h:min:s", "13:30:05 14:00:10 14:30:15 15:10:59"),
            ("min:s", "0:30 1:15.5 2:00 3:10"), ("h:min", "23:30 24:15 25:00 26:10"),
        ):  # fmt: skip
            state = study(column("t", "x", cells, unit=unit), column("h", "y", "1 2 3 4.5", unit="m"))
            sheet = readings_sheet(state)
            for kind, data in (("csv", write_csv(sheet)), ("xlsx", write_xlsx([sheet])), ("ods", write_ods([sheet]))):
                with self.subTest(unit=unit, kind=kind):
                    again = imported(f"readings.{kind}", data)
                    time = again.column("x")
                    assert time is not None
                    self.assertEqual((time.unit, " ".join(time.cells[:4])), (unit, cells))
                    self.assertEqual(essence(again), essence(state))


class PowersOfTen(SimpleTestCase):
    def test_a_power_of_ten_before_a_unit_is_the_multiplier(self) -> None:
        for unit, wanted in (
            ("10^14 Hz", (14, "Hz")), ("10¹⁴ Hz", (14, "Hz")), ("10⁻³ m", (-3, "m")), ("10^(-4) s", (-4, "s")), ("100 m", (0, "100 m")),
            ("m", (0, "m")),
        ):  # fmt: skip
            state = imported("a.csv", f"f / {unit},U / V\n5.19,0.35\n5.49,0.48\n6.88,1.05\n".encode())
            column = state.column("x")
            assert column is not None
            self.assertEqual((column.exponent, column.unit), wanted)
            self.assertAlmostEqual(read_table(state).readings.x[0] / (5.19 * 10.0 ** wanted[0]), 1)


class SecondHeading(SimpleTestCase):
    def test_symbols_with_units_below_the_names(self) -> None:
        found = read_text_table("Zeit\tKraft\nt (s)\tF (N)\n1\t2\n2\t3,5\n3\t5\n", Choices()).columns
        self.assertEqual([(one.name, one.symbol, one.unit) for one in found], [("Zeit", "t", "s"), ("Kraft", "F", "N")])
        whole = read_text_table("Messung 1\t\nZeit t (s)\tKraft F (N)\n1\t2\n2\t3,5\n3\t5\n", Choices()).columns
        self.assertEqual([one.unit for one in whole], ["s", "N"])
