"""Tables as people have them, read as they were meant: what is uncertain becomes a question, what is not used is named."""

from ridge.exchange.tables.reading import LONGEST, MOST_ROWS, WIDEST, read_text_table
from ridge.exchange.tables.result import (
    Choices,
    Decision,
    NoTable,
    Option,
    PassedOver,
    Question,
    TableColumn,
    TextTable,
)

__all__ = [
    "LONGEST", "MOST_ROWS", "WIDEST", "Choices", "Decision", "NoTable", "Option", "PassedOver", "Question", "TableColumn", "TextTable", "read_text_table",
]  # fmt: skip
