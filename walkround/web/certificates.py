"""A certificate that the program makes itself, so that a phone at the field reaches it encrypted.

A small authority of this book signs the certificate of this start. The phone is told to trust the authority once; it can
sign for nothing but the names and addresses that the server was told, because that stands in it, marked critical.
"""

from __future__ import annotations

import ipaddress
import os
from collections.abc import Iterable
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING

from walkround.core.base.later import Later
from walkround.core.base.struct import Struct

if TYPE_CHECKING:
    from cryptography import x509
    from cryptography.hazmat.primitives import hashes, serialization
    from cryptography.hazmat.primitives.asymmetric import ec
else:
    x509, ec = Later("cryptography.x509"), Later("cryptography.hazmat.primitives.asymmetric.ec")
    hashes, serialization = (Later(f"cryptography.hazmat.primitives.{name}") for name in ("hashes", "serialization"))


AUTHORITY, CERTIFICATE, KEY = "authority.pem", "certificate.pem", "certificate.key"
YEARS, DAYS = 5, 390
"""The authority lasts so many years, a certificate so many days: phones take none that lasts longer than 825. Source: from
memory."""
RENEW = timedelta(days=30)


class Served(Struct, frozen=True):
    """What the server needs: files of certificate and key, the authority for phones, and its fingerprint."""

    certificate: Path
    key: Path
    authority: bytes
    fingerprint: str


def names_of(names: Iterable[str]) -> list[x509.GeneralName]:
    """Names and addresses as a certificate holds them, each once."""
    found: list[x509.GeneralName] = []
    for name in dict.fromkeys(n.strip("[]").lower() for n in names if n):
        try:
            found.append(x509.IPAddress(ipaddress.ip_address(name)))
        except ValueError:
            found.append(x509.DNSName(name))
    return found


def _limits(names: list[x509.GeneralName]) -> x509.NameConstraints:
    """The authority may sign for these alone."""
    permitted: list[x509.GeneralName] = []
    for name in names:
        if isinstance(name, x509.IPAddress):
            permitted.append(x509.IPAddress(ipaddress.ip_network(name.value)))
        else:
            permitted.append(name)
    return x509.NameConstraints(permitted_subtrees=permitted, excluded_subtrees=None)


def _subject(words: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(x509.NameOID.COMMON_NAME, words)])


def _private(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _keep(path: Path, data: bytes) -> None:
    """Write a file that only its owner may read."""
    handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(handle, "wb") as file:
        os.fchmod(file.fileno(), 0o600)
        file.write(data)


def _new_authority(names: list[x509.GeneralName], now: datetime) -> tuple[ec.EllipticCurvePrivateKey, x509.Certificate]:
    key = ec.generate_private_key(ec.SECP256R1())
    subject = _subject("Walk Round on this computer")
    made = (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=365 * YEARS))
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(
            x509.KeyUsage(
                digital_signature=False, content_commitment=False, key_encipherment=False, data_encipherment=False,
                key_agreement=False, key_cert_sign=True, crl_sign=True, encipher_only=False, decipher_only=False,
            ),
            critical=True,
        )
        .add_extension(_limits(names), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )  # fmt: skip
    return key, made


def _kept_authority(
    path: Path, names: list[x509.GeneralName], now: datetime
) -> tuple[ec.EllipticCurvePrivateKey, x509.Certificate] | None:
    """The authority made earlier, while it holds for all these names and lasts."""
    try:
        data = path.read_bytes()
        key = serialization.load_pem_private_key(data, None)
        made = x509.load_pem_x509_certificate(data)
        limits = made.extensions.get_extension_for_class(x509.NameConstraints).value
    except (OSError, ValueError, x509.ExtensionNotFound):
        return None
    wanted = {str(name.value) for name in _limits(names).permitted_subtrees or ()}
    allowed = {str(name.value) for name in limits.permitted_subtrees or ()}
    if not isinstance(key, ec.EllipticCurvePrivateKey) or not wanted <= allowed:
        return None
    return (key, made) if made.not_valid_after_utc > now + RENEW else None


def served(folder: Path, names: Iterable[str], now: datetime | None = None) -> Served:
    """The certificate for these names and addresses, signed by the authority of this book, made if there is none yet.

    Raises OSError when the folder cannot be written. Source: RFC 5280; P-256 and SHA-256.
    """
    now, wanted = now or datetime.now(UTC), names_of(names)
    kept = _kept_authority(folder / AUTHORITY, wanted, now)
    if kept is None:
        kept = _new_authority(wanted, now)
        _keep(folder / AUTHORITY, _private(kept[0]) + kept[1].public_bytes(serialization.Encoding.PEM))
    authority_key, authority = kept
    key = ec.generate_private_key(ec.SECP256R1())
    made = (
        x509.CertificateBuilder()
        .subject_name(_subject("Walk Round"))
        .issuer_name(authority.subject)
        .public_key(key.public_key())
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + timedelta(days=DAYS))
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(x509.SubjectAlternativeName(wanted), critical=False)
        .add_extension(x509.ExtendedKeyUsage([x509.oid.ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(authority_key.public_key()), critical=False)
        .sign(authority_key, hashes.SHA256())
    )
    public = authority.public_bytes(serialization.Encoding.PEM)
    _keep(folder / CERTIFICATE, made.public_bytes(serialization.Encoding.PEM) + public)
    _keep(folder / KEY, _private(key))
    digest = authority.fingerprint(hashes.SHA256()).hex(":").upper()
    return Served(folder / CERTIFICATE, folder / KEY, public, digest)
