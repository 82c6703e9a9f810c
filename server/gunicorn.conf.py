"""How the server runs: two processes with threads; for this machine only, unless it speaks TLS."""

import os
from typing import Any

_port = os.environ.get("PORT", "8000")
_tls = "JACKSTAFF_CERT" in os.environ
_served_at = os.environ.get("JACKSTAFF_SERVED_AT") or f"http://127.0.0.1:{_port}"
bind = f"{'[::]' if '[' in _served_at else '0.0.0.0' if _tls else '127.0.0.1'}:{_port}"  # noqa: S104 (asked for by name)
workers = 2
threads = 4
worker_class = "jackstaff.site.worker.BufferingWorker"
loglevel = "warning"
graceful_timeout = 5
# What is kept is its owner's alone.
umask = 0o077
wsgi_app = "jackstaff.site.wsgi"


def when_ready(server: Any) -> None:
    """Say where the page is, once it really answers."""
    print(f"Jackstaff is ready: {_served_at}", flush=True)
