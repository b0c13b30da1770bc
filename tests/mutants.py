"""Deliberate mistakes, one at a time, and whether any test notices: ``./run mutants [MODULE …] [--each N]``.

A mutant is one function of a listed module with one place changed: a comparison turned round, a sum made a difference, a number
one larger, "and" made "or", a condition negated, least made greatest. First every test is run with a record of the lines that
it reaches; then each mutant faces only the tests that reach its line, those that reach least else first and a minute of them at most, in a process of its own. Places whose
change can make no difference that a test should see are left out: numbers that serve as tolerances, texts, and those of ``SAME``.

The first ``N`` places of each module are taken in an order that looks random and is the same every time.
"""

from __future__ import annotations

import argparse
import ast
import contextlib
import hashlib
import importlib
import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import types
import unittest
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import accumulate
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
LISTED = (
    "ridge/core/judging",
    "ridge/core/predicting",
    "ridge/studies/content/changes",
    "ridge/studies/content/store.py",
)
TESTS = ("tests.core", "tests.api", "tests.exchange")
EACH = 25
PROCESSES = os.cpu_count() or 2
ENOUGH = 60.0
"""Seconds of tests, as they took with the record of lines, that one mutant faces at most."""
LONGEST = 240
"""Seconds after which the tests of a mutant have no end, and it is noticed."""
TURNED: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.GtE, ast.GtE: ast.Lt, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.Is: ast.IsNot,
    ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In, ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult,
    ast.Pow: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
}  # fmt: skip
SAME = (
    (
        "judging/patterns.py",
        "np.clip(first @ second / spread, -1, 1)",
        "1 → 2",
        "a guard against rounding: r is within ±1 but for it",
    ),
    (
        "judging/quantiles.py",
        "np.ptp(observed) > 0",
        "0 → 1",
        "residuals over their own deviation lie apart by more than 1, or all at one place",
    ),
    (
        "judging/groups.py",
        "DEPENDENT * np.sqrt",
        "Mult → Div",
        "a tolerance against rounding, either way far below any part of the basis",
    ),
    ("judging/resampling.py", "start = None if", "", "where a search begins"),
    ("predicting/curve_at_y.py", "first = min(max((error", "", "how fine a grid is"),
    (
        "predicting/line_at_y.py",
        "if deviation is not None and width is not None",
        "And → Or",
        "neither is known without the other",
    ),
    ("changes/rows.py", "(2, 0.0,", "2 → 3", "a rank: only the order of the ranks counts"),
    ("changes/rows.py", "back = [0] * len", "0 → 1", "every place of the list is filled afterwards"),
)
"""Mutants that change nothing a test could see: part of the file's name, part of its line, what is changed (all of that line
where it is empty), and why."""
OTHER_NAME = {"min": "max", "max": "min", "any": "all", "all": "any", "argmin": "argmax", "argmax": "argmin"}


@dataclass(frozen=True)
class Mutant:
    """``place``: which of the changes that ``changes`` finds in the file; ``told``: what is changed."""

    file: str
    place: int
    line: int
    told: str

    @property
    def name(self) -> str:
        return f"{self.file}:{self.line} {self.told}"


def changes(tree: ast.AST) -> Iterator[tuple[ast.AST, str, Any, Any]]:
    """Every change within a function: the node, its field, what stands there now, and what is put there."""
    for function in _outermost(tree):
        for node in ast.walk(function):
            if isinstance(node, ast.Compare) and len(node.ops) == 1:
                yield node, "ops", node.ops, [TURNED[type(node.ops[0])]()]
            elif (isinstance(node, ast.BinOp) and type(node.op) in TURNED and not _of_texts(node)) or isinstance(
                node, ast.BoolOp
            ):
                yield node, "op", node.op, TURNED[type(node.op)]()
            elif isinstance(node, ast.Constant) and type(node.value) is bool:
                yield node, "value", node.value, not node.value
            elif isinstance(node, ast.Constant) and type(node.value) is int and abs(node.value) < 100:
                yield node, "value", node.value, node.value + 1
            elif isinstance(node, ast.Constant) and type(node.value) is float and 0.01 < abs(node.value) < 100:
                yield node, "value", node.value, node.value * 1.5
            elif isinstance(node, ast.If | ast.IfExp) and not isinstance(node.test, ast.Compare | ast.BoolOp):
                yield node, "test", node.test, ast.UnaryOp(ast.Not(), node.test)
            elif isinstance(node, ast.Name) and node.id in OTHER_NAME:
                yield node, "id", node.id, OTHER_NAME[node.id]
            elif isinstance(node, ast.Attribute) and node.attr in OTHER_NAME:
                yield node, "attr", node.attr, OTHER_NAME[node.attr]


def _outermost(tree: ast.AST) -> Iterator[ast.AST]:
    for node in ast.iter_child_nodes(tree):
        if isinstance(node, ast.FunctionDef):
            yield ast.Module(node.body, [])
        elif isinstance(node, ast.ClassDef):
            yield from _outermost(node)


def _of_texts(node: ast.BinOp) -> bool:
    return any(isinstance(part, ast.Constant | ast.JoinedStr) and not _is_number(part) for part in ast.walk(node))


def _is_number(node: ast.AST) -> bool:
    return isinstance(node, ast.Constant) and isinstance(node.value, int | float)


def mutants_of(file: Path, each: int) -> list[Mutant]:
    name = str(file.relative_to(ROOT))
    lines = file.read_text().splitlines()
    found = [
        Mutant(name, place, node.lineno, f"{_told(field, now)} → {_told(field, then)}")  # type: ignore[attr-defined]
        for place, (node, field, now, then) in enumerate(changes(ast.parse(file.read_text())))
    ]
    found = [one for one in found if not _same(one, lines[one.line - 1])]
    found.sort(key=lambda one: hashlib.blake2b(f"{name}{one.place}".encode()).digest())
    return found[:each]


def _same(mutant: Mutant, line: str) -> bool:
    return any(file in mutant.file and part in line and told in mutant.told for file, part, told, _ in SAME)


def _told(field: str, value: Any) -> str:
    if isinstance(value, list):
        value = value[0]
    return (
        ast.unparse(value) if field == "test" else type(value).__name__ if isinstance(value, ast.AST) else repr(value)
    )


def put_in_place(mutant: Mutant) -> None:
    """Give the running function the mutant's code, wherever it is held."""
    tree = ast.parse((ROOT / mutant.file).read_text())
    node, field, _, then = list(changes(tree))[mutant.place]
    setattr(node, field, then)
    ast.fix_missing_locations(tree)
    code = compile(tree, str(ROOT / mutant.file), "exec", dont_inherit=True)
    module = importlib.import_module(mutant.file.removesuffix(".py").replace("/", "."))
    put = 0
    for inner in _codes(code):
        function = _function(module, inner.co_qualname)
        if function is not None and function.__code__.co_freevars == inner.co_freevars:
            function.__code__ = inner
            put += 1
    assert put, mutant


def _codes(code: types.CodeType) -> Iterator[types.CodeType]:
    for part in code.co_consts:
        if isinstance(part, types.CodeType):
            yield part
            if part.co_flags & 0x2 == 0:  # the body of a class, not of a function
                yield from _codes(part)


def _function(module: types.ModuleType, path: str) -> types.FunctionType | None:
    found: Any = module
    for name in path.split("."):
        found = vars(found).get(name) if isinstance(found, type | types.ModuleType) else None
    if isinstance(found, classmethod | staticmethod):
        found = found.__func__
    if isinstance(found, property):
        found = found.fget
    if isinstance(found, cached_property):
        found = found.func
    while hasattr(found, "__wrapped__"):
        found = found.__wrapped__
    return found if isinstance(found, types.FunctionType) else None


def all_tests(names: tuple[str, ...]) -> dict[str, unittest.TestCase]:
    """Every test by its id."""
    suites: list[Any] = [
        unittest.defaultTestLoader.discover(str(ROOT / name.replace(".", "/")), top_level_dir=str(ROOT))
        for name in names
    ]
    found: dict[str, unittest.TestCase] = {}
    while suites:
        one = suites.pop()
        if isinstance(one, unittest.TestSuite):
            suites.extend(one)
        else:
            found[one.id()] = one
    return found


def set_up() -> None:
    import django
    from django.test.utils import setup_databases, setup_test_environment

    django.setup()
    setup_test_environment()
    setup_databases(verbosity=0, interactive=False)


def reached(part: int, parts: int) -> dict[str, Any]:
    """By id of each test of this part: seconds, and the lines of the listed files that it reaches."""
    files = {str(file) for file in listed()}
    found: dict[str, Any] = {}
    hit: set[tuple[str, int]] = set()

    def within(frame: types.FrameType, event: str, _: Any) -> Any:
        hit.add((frame.f_code.co_filename, frame.f_lineno))
        return within

    def entered(frame: types.FrameType, event: str, _: Any) -> Any:
        return within(frame, event, _) if frame.f_code.co_filename in files else None

    # Whole classes together, so that what they set up serves all their tests.
    classes: dict[str, list[unittest.TestCase]] = {}
    for name, test in sorted(all_tests(TESTS).items()):
        classes.setdefault(name.rpartition(".")[0], []).append(test)
    for place, tests in enumerate(classes.values()):
        if place % parts != part:
            continue
        for test in tests:
            hit.clear()
            start = time.perf_counter()
            sys.settrace(entered)
            outcome = unittest.TestResult()
            try:
                unittest.TestSuite([test]).run(outcome)
            finally:
                sys.settrace(None)
            lines: dict[str, list[int]] = {}
            for file, line in sorted(hit):
                lines.setdefault(str(Path(file).relative_to(ROOT)), []).append(line)
            if lines and outcome.wasSuccessful():
                found[test.id()] = {"seconds": time.perf_counter() - start, "lines": lines}
    return found


def noticed(mutant: Mutant, tests: list[unittest.TestCase]) -> bool:
    """Whether one of the tests fails, in a process of its own."""
    child = os.fork()
    if child:
        return os.waitpid(child, 0)[1] != 0
    os.setpgid(0, 0)
    signal.alarm(LONGEST)
    with open(os.devnull, "w") as nowhere, contextlib.redirect_stdout(nowhere), contextlib.redirect_stderr(nowhere):
        try:
            put_in_place(mutant)
        except BaseException:
            os.write(1, f"cannot be put in place: {mutant.name}\n".encode())
            os._exit(0)
        try:
            outcome = unittest.TextTestRunner(stream=nowhere, failfast=True).run(unittest.TestSuite(tests))
            os._exit(not outcome.wasSuccessful())
        except BaseException:
            os._exit(1)


def listed(only: tuple[str, ...] = ()) -> list[Path]:
    given = [ROOT / name for name in (only or LISTED)]
    return sorted(file for path in given for file in (path.rglob("*.py") if path.is_dir() else [path]))


def face(part: int, parts: int, only: tuple[str, ...], each: int, lines: Path) -> list[dict[str, Any]]:
    """What became of this part's share of the mutants."""
    from django.db import connections

    known: dict[str, Any] = json.loads(lines.read_text())
    tests = all_tests(TESTS)
    everyone = [mutant for file in listed(only) for mutant in mutants_of(file, each)]
    connections.close_all()
    found = []
    for mutant in everyone[part::parts]:
        reaching = [name for name, one in known.items() if mutant.line in one["lines"].get(mutant.file, ())]
        # Those that reach little else look closest.
        reaching.sort(key=lambda name: sum(map(len, known[name]["lines"].values())))
        so_far = accumulate(known[name]["seconds"] for name in reaching)
        chosen = [
            tests[name]
            for place, (name, spent) in enumerate(zip(reaching, so_far, strict=True))
            if spent < ENOUGH or not place
        ]
        killed = bool(chosen) and noticed(mutant, chosen)
        found.append({"file": mutant.file, "name": mutant.name, "noticed": killed, "reached": len(reaching)})
        print("." if killed else f"\nnot noticed by {len(reaching)} tests: {mutant.name}\n", end="", flush=True)
    return found


def side_by_side(task: str, arguments: list[str], folder: Path) -> list[Any]:
    """The same task in several processes, each with a database of its own; what each wrote."""
    running = []
    for part in range(PROCESSES):
        out = folder / f"{task}-{part}.json"
        environment = {
            **os.environ,
            "RIDGE_MODE": "test",
            "RIDGE_DATA": str(folder / f"data-{part}"),
            "DJANGO_SETTINGS_MODULE": "ridge.site.settings",
        }
        command = [sys.executable, "-m", "tests.mutants", f"--{task}", f"{part}/{PROCESSES}", str(out), *arguments]
        running.append((subprocess.Popen(command, cwd=ROOT, env=environment), out))
    for process, _ in running:
        if process.wait():
            raise SystemExit(f"mutants: {task} stopped")
    return [json.loads(out.read_text()) for _, out in running]


def score(found: list[dict[str, Any]]) -> str:
    """A table in Markdown: by file, how many of its mutants were noticed."""
    rows = ["| module | mutants | noticed | share |", "| --- | ---: | ---: | ---: |"]
    files = sorted({one["file"] for one in found})
    for name in (*files, ""):
        own = [one for one in found if not name or one["file"] == name]
        if own:
            killed = sum(one["noticed"] for one in own)
            rows.append(f"| {name or '**all**'} | {len(own)} | {killed} | {killed / len(own):.0%} |")
    left = "\n".join(f"- {one['name']} (reached by {one['reached']})" for one in found if not one["noticed"])
    return "\n".join(rows) + f"\n\nNot noticed:\n\n{left or 'none'}\n"


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("modules", nargs="*", help="files or folders; those listed when left out")
    parser.add_argument("--each", type=int, default=EACH, help="mutants a file at most")
    parser.add_argument("--lines", type=Path, default=None, help=argparse.SUPPRESS)
    parser.add_argument("--reach", nargs=2, help=argparse.SUPPRESS)
    parser.add_argument("--face", nargs=2, help=argparse.SUPPRESS)
    given = parser.parse_args()
    only = tuple(given.modules)
    for task in ("reach", "face"):
        if asked := getattr(given, task):
            part, parts = (int(number) for number in asked[0].split("/"))
            set_up()
            made: Any = reached(part, parts) if task == "reach" else face(part, parts, only, given.each, given.lines)
            Path(asked[1]).write_text(json.dumps(made))
            return
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        lines = given.lines or folder / "lines.json"
        if not lines.exists():
            lines.write_text(
                json.dumps({name: one for part in side_by_side("reach", [], folder) for name, one in part.items()})
            )
        facing = ["--lines", str(lines), "--each", str(given.each), *only]
        found = sorted(
            (one for part in side_by_side("face", facing, folder) for one in part), key=lambda one: one["name"]
        )
    print("\n\n" + score(found))


if __name__ == "__main__":
    main()
