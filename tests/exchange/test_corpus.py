"""Tables as people have them: each comes out as it was meant or is asked about, none is silently wrong."""

from __future__ import annotations

import contextlib
from unittest import TestCase

from ridge.exchange.files import read_file
from ridge.exchange.tables import Choices, NoTable, TextTable, read_text_table
from tests.exchange.corpus import CASES, Case


def written(table: TextTable) -> list[tuple[str, ...]]:
    return [(c.role, c.name, c.symbol, c.unit, *c.cells) for c in table.columns]


def expected(case: Case) -> list[tuple[str, ...]]:
    columns = []
    for line in case.columns:
        role, name, symbol, unit, cells = line.split("|")
        spaced = [cell.replace("_", " ") if cell not in ("u_h",) else cell for cell in cells.split()]
        columns.append(
            (
                role,
                name.replace("_", " "),
                symbol,
                unit.replace("_", " "),
                *("" if cell == "·" else cell for cell in spaced),
            )
        )
    return columns


def differs(case: Case, table: TextTable) -> str:
    """What is not as it should be; empty if nothing. A column whose name stands for its role alone may have any name."""
    found, wanted = written(table), expected(case)
    if case.name.startswith("uncertainty named") or "ncertaint" in case.name:
        found = [
            (role, "", "", unit, *cells) if role.endswith("_error") else (role, n, s, unit, *cells)
            for role, n, s, unit, *cells in found
        ]
        wanted = [
            (role, "", "", unit, *cells) if role.endswith("_error") else (role, n, s, unit, *cells)
            for role, n, s, unit, *cells in wanted
        ]
    if found != wanted:
        return f"is {found}, not {wanted}"
    named = {number for one in table.passed_over for number in range(one.first, one.last + 1)}
    if missing := set(case.passed) - named:
        return f"lines {sorted(missing)} are not named among {table.passed_over}"
    if surplus := named - set(case.passed) if case.passed and len(table.tables) < 2 else set():
        return f"lines {sorted(surplus)} are left out"
    wrong = {
        (place, row)
        for place, column in enumerate(table.columns)
        if column.role not in ("other", "series", "skip")
        for row, _, _ in column.wrong
    }
    if wrong != set(case.wrong):
        return f"cells {sorted(wrong)} are named, not {sorted(case.wrong)}"
    return ""


def judge(case: Case) -> tuple[str, str]:
    """``right``, ``asked`` or ``wrong``, and what is wrong."""
    try:
        table = read_text_table(case.text)
    except NoTable as reason:
        return ("right", "") if case.refused and case.refused in str(reason) else ("wrong", f"refused: {reason}")
    if case.refused:
        return "wrong", f"not refused, but {written(table)}"
    asked = next((question for question in table.questions if question.about == case.asks), None)
    if case.asks and asked is None:
        return "wrong", f"{case.asks} is not asked: {written(table)}"
    if not case.asks and table.questions:
        return "wrong", f"asked needlessly: {table.questions}"
    if asked is not None:
        picked = asked.options[case.pick]
        table = read_text_table(case.text, Choices(**picked.choices))
        if any(question.about == case.asks for question in table.questions):
            return "wrong", "asked again after the answer"
    problem = differs(case, table)
    return ("wrong", problem) if problem else ("asked" if case.asks else "right", "")


class Corpus(TestCase):
    def test_every_table_is_right_or_asked(self) -> None:
        scores = {"right": 0, "asked": 0, "wrong": 0}
        problems = []
        for case in CASES:
            how, problem = judge(case)
            scores[how] += 1
            if problem:
                problems.append(f"{case.name}: {problem}")
        print(
            f"tables: {len(CASES)}, right {scores['right']}, right after asking {scores['asked']}, wrong {scores['wrong']}"
        )
        self.assertGreaterEqual(len(CASES), 150)
        self.assertEqual(problems, [], "\n".join(problems))

    def test_as_files_they_are_read_alike(self) -> None:
        for case in CASES:
            if case.refused or case.text.lstrip()[:2] in ("[[", "[{"):  # JSON, when it comes as a file
                continue
            for encoding in ("utf-8-sig", "utf-16", "cp1252"):
                with contextlib.suppress(UnicodeEncodeError):
                    found = read_file(
                        "table.csv", case.text.encode(encoding), encoding="windows-1252" if encoding == "cp1252" else ""
                    )
                    self.assertEqual(
                        written(read_text_table(found.text)), written(read_text_table(case.text)), (case.name, encoding)
                    )

    def test_a_survey_and_the_whole_agree(self) -> None:
        for case in CASES:
            if case.refused:
                continue
            survey, whole = read_text_table(case.text, wanted=frozenset()), read_text_table(case.text)
            self.assertEqual(survey, whole, case.name)  # none of them has more rows than a survey shows
