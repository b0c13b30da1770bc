"""``./run bench``: own figures beside a reference in the same run.

./run bench            everything
./run bench accuracy   the core only, written to docs/accuracy.md
"""

from __future__ import annotations

import sys

from bench import accuracy, fits, interface, large, out

if __name__ == "__main__":
    if "accuracy" in sys.argv[1:]:
        accuracy.write()
    else:
        accuracy.show()
        interface.run()
        large.run()
        fits.run()
        out.run()
