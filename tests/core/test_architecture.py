"""The core stays free of Django, files and network, and imports point downwards."""

from __future__ import annotations

import ast
import re
import subprocess
import sys
import tomllib
from pathlib import Path
from unittest import TestCase

RIDGE = Path(__file__).parent.parent.parent / "ridge"
# Lowest first; a part may import itself and what stands before it.
LAYERS = ["core", "pictures", "instruments", "exchange", "accounts", "studies", "classes", "site"]
# Within the core, the same: plain values, formulas, families, results, solving, prediction, judgement, words, the public face.
CORE_LAYERS = [
    "decimal_sign", "errors", "readings", "numerals", "formula", "models", "results", "fitting", "predicting", "interpolation", "catalogue", "judging",
    "by_hand", "carrying", "wording", "face", "workings",
]  # fmt: skip
# The rooms of studies: what a study is, what is computed from it, what is said of it, what goes out, the API; below them the tables and three helpers.
ROOMS = ["apart", "recent", "one_at_a_time", "processes", "models", "content", "analysis", "words", "out", "api"]
FORBIDDEN_IN_CORE = {
    "django",
    "ninja",
    "pydantic",
    "matplotlib",
    "os",
    "io",
    "pathlib",
    "socket",
    "http",
    "urllib",
    "subprocess",
    "time",  # what is computed depends on values alone, never on the clock
    "datetime",
    "random",
}


def imported(file: Path) -> set[str]:
    names: set[str] = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names.add(node.module)
    return names


def imported_modules(file: Path) -> set[str]:
    """Modules by their full names, also where a name of a package is a module."""
    found = imported(file)
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found


class Imports(TestCase):
    def test_core_imports_numbers_only(self) -> None:
        files = list((RIDGE / "core").rglob("*.py"))
        self.assertGreater(len(files), 15)
        for file in files:
            used = {name.split(".")[0] for name in imported(file)}
            self.assertFalse(used & FORBIDDEN_IN_CORE, file)
            self.assertNotIn("open(", file.read_text(), file)

    def test_what_the_core_imports_is_installed_with_it(self) -> None:
        """``pip install .`` gives the core with its direct dependencies, no more and no less."""
        project = tomllib.loads((RIDGE.parent / "pyproject.toml").read_text())["project"]
        named = {re.split("[><=]", one)[0].replace("python-flint", "flint") for one in project["dependencies"]}
        used = {name.split(".")[0] for file in (RIDGE / "core").rglob("*.py") for name in imported(file)}
        self.assertEqual({name for name in used if name not in sys.stdlib_module_names} - {"ridge"}, named)

    def test_core_loads_without_django(self) -> None:
        code = "import sys, ridge.core, ridge.core.wording.judgement; sys.exit('django' in sys.modules)"
        self.assertEqual(subprocess.run([sys.executable, "-c", code], cwd=RIDGE.parent).returncode, 0)

    def test_imports_point_downwards(self) -> None:
        for height, layer in enumerate(LAYERS):
            for file in (RIDGE / layer).rglob("*.py"):
                for name in imported(file):
                    parts = name.split(".")
                    if parts[0] == "ridge" and len(parts) > 1 and parts[1] in LAYERS:
                        self.assertLessEqual(LAYERS.index(parts[1]), height, f"{file} imports {name}")

    def test_layers_of_the_core(self) -> None:
        """Every package and module of the core has its place, and imports nothing above it, in functions neither."""
        core = RIDGE / "core"
        parts = {path.stem for path in core.iterdir() if path.suffix == ".py" or (path / "__init__.py").exists()}
        self.assertEqual(parts - {"__init__"}, set(CORE_LAYERS))
        for file in core.rglob("*.py"):
            own = file.relative_to(core).parts[0].removesuffix(".py")
            if own == "__init__":
                continue
            for name in imported(file):
                if name.startswith("ridge.core."):
                    other = name.split(".")[2]
                    self.assertLessEqual(CORE_LAYERS.index(other), CORE_LAYERS.index(own), f"{file} imports {name}")

    def test_no_circles_in_the_core(self) -> None:
        """Also within one package, where the layers do not look."""
        files = {
            ".".join(file.relative_to(RIDGE.parent).with_suffix("").parts): file
            for file in (RIDGE / "core").rglob("*.py")
        }
        left = {name: {other for other in imported_modules(file) if other in files} for name, file in files.items()}
        while left:
            free = {name for name, needs in left.items() if not needs & left.keys()}
            self.assertTrue(free, f"these import one another: {sorted(left)}")
            left = {name: needs for name, needs in left.items() if name not in free}

    def test_imports_stand_at_the_top(self) -> None:
        for file in (file for part in ("core", "studies") for file in (RIDGE / part).rglob("*.py")):
            for node in ast.walk(ast.parse(file.read_text())):
                if isinstance(node, ast.FunctionDef | ast.If):
                    hidden = [inner for inner in ast.walk(node) if isinstance(inner, ast.Import | ast.ImportFrom)]
                    self.assertEqual(hidden, [], f"{file}, line {node.lineno}")

    def test_no_eval_anywhere(self) -> None:
        for file in RIDGE.rglob("*.py"):
            calls = {
                n.func.id
                for n in ast.walk(ast.parse(file.read_text()))
                if isinstance(n, ast.Call) and isinstance(n.func, ast.Name)
            }
            self.assertFalse(calls & {"eval", "exec", "compile", "__import__"}, file)
