"""A certificate of one's own for a home network, and the authority that a phone is told to trust for it."""

from __future__ import annotations

import os
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

VALID = timedelta(days=820)
"""Phones take no server's certificate for longer than 825 days, not even from an authority added by hand."""
RENEWED = timedelta(days=30)
"""So long before its end it is made anew."""

AUTHORITY = "authority.crt"
CERTIFICATE = "server.crt"
KEY = "server.key"


def own_certificate(folder: Path, hosts: list[str], now: datetime | None = None) -> bool:
    """Make sure that ``folder`` holds a certificate for all of ``hosts`` (names or addresses); whether it was made now.

    The authority signs this one certificate, and its key is then forgotten: a phone that trusts it trusts nothing else.
    """
    now = now or datetime.now(UTC)
    if _good(folder, hosts, now):
        return False
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    signer = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Jackstaff at {hosts[0]}"[:64])])
    authority = (
        _begun(name, name, signer.public_key(), now)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(_usage(signs=True), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(signer.public_key()), critical=False)
        .sign(signer, hashes.SHA256())
    )
    key = ec.generate_private_key(ec.SECP256R1())
    subject = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, hosts[0][:64])])
    certificate = (
        _begun(subject, name, key.public_key(), now)
        .add_extension(x509.SubjectAlternativeName([_named(host) for host in hosts]), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_usage(signs=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(signer.public_key()), critical=False)
        .sign(signer, hashes.SHA256())
    )
    pem = serialization.Encoding.PEM
    secret = key.private_bytes(pem, serialization.PrivateFormat.PKCS8, serialization.NoEncryption())
    for file, text in (
        (KEY, secret), (CERTIFICATE, certificate.public_bytes(pem)), (AUTHORITY, authority.public_bytes(pem)),
    ):  # fmt: skip
        with os.fdopen(os.open(folder / file, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "wb") as written:
            written.write(text)
    return True


def _good(folder: Path, hosts: list[str], now: datetime) -> bool:
    try:
        held = x509.load_pem_x509_certificate((folder / CERTIFICATE).read_bytes())
        names = held.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    except (OSError, ValueError, x509.ExtensionNotFound):
        return False
    there = (folder / KEY).exists() and (folder / AUTHORITY).exists()
    return there and set(names) == {_named(host) for host in hosts} and now < held.not_valid_after_utc - RENEWED


def _begun(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, now: datetime
) -> x509.CertificateBuilder:
    # A phone whose clock is a little behind is no reason to refuse it.
    begun = x509.CertificateBuilder().subject_name(subject).issuer_name(issuer).public_key(key)
    return (
        begun.serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + VALID)
    )


def _named(host: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ip_address(host))
    except ValueError:
        return x509.DNSName(host)


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs, key_cert_sign=signs, crl_sign=signs, content_commitment=False,
        key_encipherment=False, data_encipherment=False, key_agreement=False, encipher_only=False, decipher_only=False,
    )  # fmt: skip
