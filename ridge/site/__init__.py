"""The site: its settings, its addresses, its one page.

NumPy's linear algebra is kept to one thread. Its matrices are small here, several requests are worked on at a time, and threads
that wait for one another cost twice the processor (measured: 86 ms instead of 47 for one analysis on two cores).
"""

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
