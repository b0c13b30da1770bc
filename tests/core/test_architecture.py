"""The core stays free of Django, files and network, and imports point downwards."""

from __future__ import annotations

import ast
import subprocess
import sys
from pathlib import Path
from unittest import TestCase

RIDGE = Path(__file__).parent.parent.parent / "ridge"
# Lowest first; a part may import itself and what stands before it.
LAYERS = ["core", "exchange", "accounts", "studies", "site"]
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


class Imports(TestCase):
    def test_core_imports_numbers_only(self) -> None:
        files = list((RIDGE / "core").rglob("*.py"))
        self.assertGreater(len(files), 15)
        for file in files:
            used = {name.split(".")[0] for name in imported(file)}
            self.assertFalse(used & FORBIDDEN_IN_CORE, file)
            self.assertNotIn("open(", file.read_text(), file)

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

    def test_no_eval_anywhere(self) -> None:
        for file in RIDGE.rglob("*.py"):
            calls = {
                n.func.id
                for n in ast.walk(ast.parse(file.read_text()))
                if isinstance(n, ast.Call) and isinstance(n.func, ast.Name)
            }
            self.assertFalse(calls & {"eval", "exec", "compile", "__import__"}, file)
