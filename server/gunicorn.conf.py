"""How the server runs: two processes, each with its loop and threads; for this machine only, unless it speaks TLS."""

import fcntl
import os
import resource
from pathlib import Path
from typing import Any

from jackstaff.backups.copies import CannotKeep, writable

_port = os.environ.get("PORT", "8000")
_tls = "JACKSTAFF_CERT" in os.environ
_served_at = os.environ.get("JACKSTAFF_SERVED_AT") or f"http://127.0.0.1:{_port}"
bind = f"{'[::]' if '[' in _served_at else '0.0.0.0' if _tls else '127.0.0.1'}:{_port}"  # noqa: S104 (asked for by name)
# Read in once and shared: half the memory, and there sooner. Nothing in it opens the database before the workers part.
preload_app = True
workers = 2
worker_class = "asgi"
# Each connection is a file: as many as may be, less what else is open.
_files = resource.getrlimit(resource.RLIMIT_NOFILE)[1]
resource.setrlimit(resource.RLIMIT_NOFILE, (_files, _files))
worker_connections = max(100, min(4000, _files - 200))
keepalive = 60
# What is claimed of addresses is weighed by the application alone (settings).
forwarded_allow_ips = ""
if _tls:
    certfile, keyfile = os.environ["JACKSTAFF_CERT"], os.environ["JACKSTAFF_KEY"]
# Switched on, it says what was asked and how it went, never who asked.
accesslog = "-" if os.environ.get("JACKSTAFF_ACCESS_LOG") == "1" else None
access_log_format = '%(t)s "%(m)s %(U)s" %(s)s %(B)s B %(M)s ms'
loglevel = "warning"
graceful_timeout = 5
# What is kept is its owner's alone.
umask = 0o077
wsgi_app = "jackstaff.site.asgi:application"


_held: list[Any] = []


def on_starting(server: Any) -> None:
    """Hold the data folder's lock as long as any of these processes lives, so that no copy is put back meanwhile."""
    data = Path(os.environ.get("JACKSTAFF_DATA_DIR", Path(__file__).parents[1] / "var"))
    try:
        writable(data)
    except CannotKeep as error:
        raise SystemExit(str(error)) from error
    lock = (data / "serving.lock").open("a")
    fcntl.flock(lock, fcntl.LOCK_SH)
    _held.append(lock)


def when_ready(server: Any) -> None:
    """Say where the page is, once it really answers."""
    print(f"Jackstaff is ready: {_served_at}", flush=True)
