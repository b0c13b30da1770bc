"""Files of readings as text tables: CSV, TSV, JSON, ODS and XLSX. What a file really is decides, not its name."""

from __future__ import annotations

import io
import json
import subprocess
import sys
import zipfile
from dataclasses import dataclass
from pathlib import Path

from charset_normalizer import from_bytes

from ridge.exchange.tables import LONGEST, NoTable

LARGEST = 20_000_000
"""Bytes that a file may have."""
ENCODINGS = ("utf-8", "utf-16", "windows-1252", "iso-8859-2", "windows-1251", "shift_jis", "gb18030", "mac-roman")
_UNPACKED = 300_000_000
_MEMORY, _SECONDS = 330_000_000, 5
"""Bytes of address space and seconds of processor time that reading a workbook or JSON may take."""
_BUSY = 20
"""Seconds of the clock for each of them: a busy machine is slow, not wrong."""
_READER = Path(__file__).with_name("sheet_reader.py")
_PACKED = (b"PK\x03\x04", b"PK\x05\x06", b"PK\x07\x08")
_PICTURES = {
    b"\x89PNG": "a picture (PNG)", b"\xff\xd8\xff": "a picture (JPEG)", b"GIF8": "a picture (GIF)", b"RIFF": "a picture or sound",
    b"%PDF": "a PDF document", b"\x7fELF": "a program", b"MZ": "a program", b"\x1f\x8b": "a packed file (gzip)",
}  # fmt: skip


@dataclass(frozen=True)
class FileTable:
    """A file's table as text. ``sheets`` are those that could be chosen, ``encoding`` what a text file was read in; ``remarks``: what it
    holds beside the table, in sentences."""

    text: str
    kind: str
    sheets: tuple[str, ...] = ()
    sheet: str = ""
    encoding: str = ""
    remarks: tuple[str, ...] = ()


def read_file(name: str, data: bytes, sheet: str = "", encoding: str = "") -> FileTable:
    """The table in a file. Raises NoTable with the reason and what to do."""
    if not data:
        raise NoTable("This file is empty.")
    if len(data) > LARGEST:
        raise NoTable("This file is larger than 20 MB. Save the part that is meant as a file of its own.")
    for start, what in _PICTURES.items():
        if data.startswith(start):
            raise NoTable(f"This is {what}, whatever its name says. Ridge reads CSV, TSV, JSON, ODS and XLSX.")
    if data.startswith(_PACKED):
        _check_archive(data)
        return _read_apart("workbook", data, sheet)
    if data.startswith(b"\xd0\xcf\x11\xe0"):
        raise NoTable("This is an old binary workbook or a locked one. Save it as XLSX, ODS or CSV without a password.")
    if name.lower().endswith((".xlsx", ".ods")):
        raise NoTable("This file is damaged or not what its name says: it holds no workbook.")
    if name.lower().endswith(".json") or data.lstrip()[:2] in (b"[[", b"[{", b'{"'):
        return _read_apart("json", data, sheet)
    return _read_text(data, encoding)


def _check_archive(data: bytes) -> None:
    """Refuse what unpacks to far more than a table needs, and packed files that are no workbook."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            infos = archive.infolist()
    except (zipfile.BadZipFile, ValueError, NotImplementedError, OverflowError):
        raise NoTable("This file is damaged: its end is missing. Save or download it again.") from None
    names = {info.filename for info in infos}
    if "[Content_Types].xml" not in names and "content.xml" not in names:
        raise NoTable("This is an archive, not a workbook. Unpack it and open the table in it.")
    if len(infos) > 5000 or sum(info.file_size for info in infos) > _UNPACKED:
        raise NoTable("This file unpacks to more than 300 MB. Save the part that is meant as a file of its own.")


def _read_apart(kind: str, data: bytes, sheet: str) -> FileTable:
    too_heavy = (
        "Reading this file takes more time or memory than is allowed. Save the part that is meant as a file of its own."
    )
    try:
        done = subprocess.run(
            [sys.executable, "-I", str(_READER), kind, sheet.replace("\0", ""), str(_MEMORY), str(_SECONDS)],
            input=data, capture_output=True, timeout=_BUSY * _SECONDS, check=False,
        )  # fmt: skip
    except subprocess.TimeoutExpired:
        raise NoTable("The server is busy, so the file was not read. Try again in a minute.") from None
    if done.returncode:
        raise NoTable(too_heavy)
    found = json.loads(done.stdout)
    if "problem" in found:
        raise NoTable(found["problem"])
    if not found["text"].strip():
        raise NoTable("This sheet is empty." if found["sheets"] else "This file holds no table.")
    if len(found["text"]) > LONGEST:
        raise NoTable("This table is too long to import: 20 million characters at most.")
    return FileTable(found["text"], kind, tuple(found["sheets"]), found["sheet"], remarks=tuple(found["remarks"]))


def _read_text(data: bytes, encoding: str) -> FileTable:
    if encoding and encoding not in ENCODINGS:
        raise NoTable("Ridge does not know this encoding.")
    if not encoding:
        encoding = _guess_encoding(data)
    try:
        text = data.decode("utf-8-sig" if encoding == "utf-8" else encoding)
    except (UnicodeDecodeError, LookupError):
        raise NoTable(f"This file is not written in {encoding}. Choose another encoding.") from None
    strange = sum(1 for letter in text[:20_000] if letter < " " and letter not in "\t\r\n\f\0")
    if strange > 0.01 * min(len(text), 20_000) or text[:20_000].count("\0") > 0.2 * min(len(text), 20_000):
        raise NoTable("This is not a text: it may be a program or a picture. Ridge reads CSV, TSV, JSON, ODS and XLSX.")
    return FileTable(text, "text", encoding=encoding)


def _guess_encoding(data: bytes) -> str:
    if data.startswith((b"\xff\xfe", b"\xfe\xff")):
        return "utf-16"
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        pass
    else:
        return "utf-8"
    best = from_bytes(data[:100_000], cp_isolation=["utf_8", "utf_16", "cp1252"]).best()
    found = best.encoding.replace("_", "-") if best else "cp1252"
    return found if found in ENCODINGS else "windows-1252"
