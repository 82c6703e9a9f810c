"""How the server runs: two processes with threads, on this machine only."""

import os
from typing import Any

_port = os.environ.get("PORT", "8000")
bind = f"127.0.0.1:{_port}"
workers = 2
threads = 4
worker_class = "jackstaff.site.worker.BufferingWorker"
loglevel = "warning"
graceful_timeout = 5
wsgi_app = "jackstaff.site.wsgi"


def when_ready(server: Any) -> None:
    """Say where the page is, once it really answers."""
    print(f"Jackstaff is ready: http://127.0.0.1:{_port}", flush=True)
