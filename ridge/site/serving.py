"""How gunicorn serves Ridge: its configuration, the same in the demo, in real use and in the benches."""

import gc

wsgi_app = "ridge.site.wsgi:application"
workers, threads = 2, 4
preload_app = True
control_socket_disable = True
timeout = 60
graceful_timeout = 10
"""Seconds that requests under way have to come to an end when the server stops or starts again."""
keepalive = 75
"""Seconds that a connection waits for the next request: whoever works on keeps theirs, and with it the process that remembers their
study."""
loglevel = "warning"


def when_ready(_: object) -> None:
    """What is loaded by now stays: it is not searched for garbage again and again (a quarter of a second each time)."""
    gc.collect()
    gc.freeze()
