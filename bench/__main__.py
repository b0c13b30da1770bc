"""``./run bench``: own figures beside a reference in the same run.

./run bench            everything
./run bench accuracy   the core only, written to docs/accuracy.md
./run bench honesty    hits, misses and false alarms of the judgement, and coverage, written there too (an hour)
"""

from __future__ import annotations

import sys

from bench import accuracy, carried, fits, honesty, instruments, interface, large, out, pictures, working

if __name__ == "__main__":
    if "accuracy" in sys.argv[1:]:
        accuracy.write()
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
        instruments.run()
