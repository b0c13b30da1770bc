"""``./run bench``: own figures beside a reference in the same run.

./run bench            everything
./run bench load [--postgres] [STUDENTS …]   so many students at work, 30, 100 and 200 as a rule
./run bench classes    a class with a worksheet
./run bench files      files that are made to take time and memory
./run bench accuracy   the core only, written to docs/accuracy.md
./run bench honesty    hits, misses and false alarms of the judgement, and coverage, written there too (an hour)
"""

from __future__ import annotations

import os
import sys

from bench import (
    accuracy,
    carried,
    classes,
    fits,
    heavy_files,
    honesty,
    instruments,
    interface,
    large,
    load,
    out,
    pictures,
    working,
)
from tests.postgres import cluster

if __name__ == "__main__":
    if "accuracy" in sys.argv[1:]:
        accuracy.write()
    elif "load" in sys.argv[1:]:
        numbers = tuple(int(one) for one in sys.argv[2:] if one.isdigit()) or load.CLASSES
        if "--postgres" in sys.argv[1:]:
            with cluster() as os.environ["RIDGE_DATABASE"]:
                load.run(numbers)
        else:
            load.run(numbers, kinds=True)
    elif "classes" in sys.argv[1:]:
        classes.run()
    elif "files" in sys.argv[1:]:
        heavy_files.run()
    elif "honesty" in sys.argv[1:]:
        honesty.write()
    else:
        accuracy.show()
        interface.run()
        large.run()
        working.run()
        carried.run()
        fits.run()
        out.run()
        pictures.run()
        heavy_files.run()
        instruments.run()
        load.run()
        classes.run()
