"""The formula language: text → tree → values, exact derivatives, LaTeX, and plain text again."""

from ridge.core.formula.derivative import differentiate
from ridge.core.formula.parse import Parsed, parse
from ridge.core.formula.program import Program, evaluate
from ridge.core.formula.writing import to_latex, to_text

__all__ = ["Parsed", "Program", "differentiate", "evaluate", "parse", "to_latex", "to_text"]
