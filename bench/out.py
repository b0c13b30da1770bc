"""What goes out: the figure and the report of a demo study, and the tables of 100 000 readings."""

from __future__ import annotations

import time
from statistics import median

from bench.fits import study_of
from bench.large import memory
from tests.served import Visitor, server

ROWS = 100_000


def taken(visitor: Visitor, path: str) -> float:
    """Seconds until a file is there."""
    start = time.perf_counter()
    visitor.connection.request(
        "GET", path, headers={"Cookie": "; ".join(f"{k}={v}" for k, v in visitor.cookies.items())}
    )
    response = visitor.connection.getresponse()
    response.read()
    if response.status != 200:
        raise RuntimeError(f"{path}: {response.status}")
    return time.perf_counter() - start


def run() -> None:
    with server() as port:
        visitor = Visitor(port)
        demo = visitor.ask("GET", "/api/shelf")["cards"][0]["id"]
        for kind in ("svg", "pdf", "png"):
            times = [taken(visitor, f"/api/studies/{demo}/figure.{kind}") for _ in range(5)]
            print(
                f"Figure of a demo study as {kind}: median {median(times):.2f} s, slowest {max(times):.2f} s (goal 0.3)"
            )
        for kind in ("pdf", "html", "docx"):
            visitor = Visitor(port)
            times = [taken(visitor, f"/api/studies/{demo}/report.{kind}") for _ in range(5)]
            print(
                f"Report of a demo study as {kind}: median {median(times):.2f} s, slowest {max(times):.2f} s (goal {1.2 if kind == 'pdf' else 3})"
            )
        visitor = Visitor(port)
        large = study_of(visitor, ROWS)
        for kind in ("csv", "xlsx", "ods"):
            visitor = Visitor(port)
            print(
                f"100 000 readings as {kind}: {taken(visitor, f'/api/studies/{large}/readings.{kind}'):.2f} s (goal {3 if kind == 'xlsx' else 5})"
            )
        print(f"Largest server process meanwhile: {memory(port):.0f} MB (goal 500)")
