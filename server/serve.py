"""Serve a home, a club or a small host (``make serve HOST=...``), over TLS or behind a proxy that speaks it."""

from __future__ import annotations

import os
import re
import socket
import ssl
import sys
from collections.abc import Mapping
from dataclasses import dataclass
from ipaddress import ip_address
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / part) for part in ("server", "imaging", "core")]


class Unclear(Exception):
    """What is missing or does not fit, in words."""


@dataclass(frozen=True)
class Serving:
    """How it is to be served, as read from ``HOST``, ``PORT``, ``CERT``, ``KEY`` and ``PROXIES``."""

    hosts: list[str]
    port: int
    certificate: Path | None
    key: Path | None
    proxies: int

    @property
    def address(self) -> str:
        """Where a phone finds it."""
        host = f"[{self.hosts[0]}]" if ":" in self.hosts[0] else self.hosts[0]
        # A proxy has the usual door, whatever stands behind it.
        return f"https://{host}" + ("" if self.proxies or self.port == 443 else f":{self.port}")


def read(wanted: Mapping[str, str]) -> Serving:
    """Read what was asked for; raises :class:`Unclear`."""
    hosts = [host.strip().lower() for host in wanted.get("HOST", "").split(",") if host.strip()]
    if not hosts:
        raise Unclear("HOST is missing: the name or address by which a phone reaches this machine. " + _for_example())
    for host in hosts:
        if not _sound(host):
            raise Unclear(f"HOST '{host}' is no name or address. Leave out https:// and the port.")
    proxies = wanted.get("PROXIES") or "0"
    if not proxies.isdecimal():
        raise Unclear(f"PROXIES '{proxies}' is no number of proxies. Without one leave it out.")
    port = wanted.get("PORT") or ("8000" if int(proxies) else "8443")
    if not port.isdecimal() or not 0 < int(port) < 65536:
        raise Unclear(f"PORT '{port}' is no port. Choose one from 1 to 65535.")
    given = [Path(wanted[name]).resolve() if wanted.get(name) else None for name in ("CERT", "KEY")]
    if (given[0] is None) != (given[1] is None):
        raise Unclear("CERT and KEY belong together: give both, or neither for a certificate of your own.")
    if int(proxies) and given[0] is not None:
        raise Unclear("Behind a proxy CERT and KEY belong to the proxy. Leave them out here, or leave out PROXIES.")
    if wanted.get("JACKSTAFF_DEMO") == "1":
        raise Unclear("JACKSTAFF_DEMO signs visitors in by itself, for this machine alone. Unset it to serve others.")
    return Serving(hosts, int(port), given[0], given[1], int(proxies))


_LABEL = r"[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?"


def _sound(host: str) -> bool:
    try:
        ip_address(host)
    except ValueError:
        return len(host) <= 253 and re.fullmatch(rf"{_LABEL}(\.{_LABEL})*", host) is not None
    return True


def _for_example() -> str:
    """Return this machine's own address where it has one; nothing is sent to find it out."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asking:
        try:
            asking.connect(("192.0.2.1", 9))
            own = asking.getsockname()[0]
        except OSError:
            own = "192.168.0.20"
    return f"For example: make serve HOST={own}"


def main() -> int:
    """Prepare certificate and database, check the settings, say where it is, and become the server."""
    os.umask(0o077)
    try:
        serving = read(os.environ)
        return _serve(serving)
    except (Unclear, OSError) as trouble:
        print(trouble, file=sys.stderr)
        return 1


def _serve(serving: Serving) -> int:
    os.environ |= {
        "DJANGO_SETTINGS_MODULE": "jackstaff.site.settings",
        "JACKSTAFF_HOSTS": ",".join(serving.hosts),
        "JACKSTAFF_PROXIES": str(serving.proxies),
        "JACKSTAFF_SERVED_AT": serving.address,
        "PORT": str(serving.port),
    }
    made = False
    if not serving.proxies:
        certificate, key = serving.certificate, serving.key
        if certificate is None or key is None:
            from jackstaff.site import certificate as own  # noqa: PLC0415 (only where it is needed)

            folder = Path(os.environ.get("JACKSTAFF_DATA_DIR", ROOT / "var")).resolve() / "tls"
            made = own.own_certificate(folder, serving.hosts)
            certificate, key = folder / own.CERTIFICATE, folder / own.KEY
            os.environ["JACKSTAFF_AUTHORITY"] = str(folder / own.AUTHORITY)
        try:
            ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(certificate, key)
        except OSError as error:
            raise Unclear(f"CERT {certificate} and KEY {key} cannot be used: {error}.") from None
        os.environ |= {"JACKSTAFF_CERT": str(certificate), "JACKSTAFF_KEY": str(key)}

    import django  # noqa: PLC0415
    from django.core.management import call_command  # noqa: PLC0415
    from django.core.management.base import CommandError, SystemCheckError  # noqa: PLC0415

    django.setup()
    try:
        call_command("bring_up")
        call_command("check", deploy=True, fail_level="WARNING", verbosity=0)
    except (CommandError, SystemCheckError) as error:
        raise Unclear(str(error)) from None
    _say(serving, made)
    gunicorn = ["gunicorn", "-c", str(ROOT / "server" / "gunicorn.conf.py")]
    os.execv(sys.executable, [sys.executable, "-m", *gunicorn])  # noqa: S606 (our own interpreter)


def _say(serving: Serving, made: bool) -> None:
    import segno  # noqa: PLC0415

    print(f"Jackstaff at {serving.address}")
    segno.make(serving.address, micro=False).terminal(compact=True)
    if "JACKSTAFF_AUTHORITY" in os.environ:
        begun = "A certificate was made" if made else "The certificate is this machine's own"
        print(f"{begun}: docs/phone.md says how a phone comes to trust it ({serving.address}/authority.crt).")
    from django.contrib.auth.models import User  # noqa: PLC0415

    if not User.objects.exists():
        print("Nobody has an account yet: make account NAME=somebody.")
    sys.stdout.flush()


if __name__ == "__main__":
    sys.exit(main())
