"""The program's own certificate: checked by the system's own verifier, and good for nothing but what it was told."""

import shutil
import socket
import ssl
import tempfile
import threading
import unittest
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509

from walkround.web.certificates import AUTHORITY, KEY, served


class Certificates(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, self.folder)

    def hello(self, made, name: str) -> None:  # type: ignore[no-untyped-def]
        """A handshake as a phone would do it that trusts the authority: OpenSSL, name and chain checked."""
        server = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
        server.load_cert_chain(made.certificate, made.key)
        client = ssl.create_default_context(cadata=made.authority.decode())
        one, other = socket.socketpair()

        def answer() -> None:
            try:
                server.wrap_socket(one, server_side=True).close()
            except (OSError, ssl.SSLError):
                one.close()

        thread = threading.Thread(target=answer)
        thread.start()
        try:
            client.wrap_socket(other, server_hostname=name).close()
        finally:
            other.close()
            thread.join()

    def test_it_holds_for_the_names_it_was_told_and_no_other(self) -> None:
        made = served(self.folder, ["field.local", "192.0.2.7", "127.0.0.1", "::1"])
        for name in ("field.local", "192.0.2.7", "127.0.0.1", "::1"):
            self.hello(made, name)
        for name in ("evil.example", "192.0.2.8"):
            with self.assertRaises(ssl.SSLError):
                self.hello(made, name)

    def test_the_authority_can_sign_for_nothing_else(self) -> None:
        """Name constraints, RFC 5280 section 4.2.1.10: another certificate by the same key is refused by OpenSSL."""
        made = served(self.folder, ["field.local"])
        elsewhere = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, elsewhere)
        from cryptography.hazmat.primitives import hashes, serialization
        from cryptography.hazmat.primitives.asymmetric import ec

        data = (self.folder / AUTHORITY).read_bytes()
        authority, key = x509.load_pem_x509_certificate(data), serialization.load_pem_private_key(data, None)
        own = ec.generate_private_key(ec.SECP256R1())
        now = datetime.now(UTC)
        bad = (
            x509.CertificateBuilder().subject_name(x509.Name([])).issuer_name(authority.subject).public_key(own.public_key())
            .serial_number(7).not_valid_before(now - timedelta(days=1)).not_valid_after(now + timedelta(days=9))
            .add_extension(x509.SubjectAlternativeName([x509.DNSName("bank.example")]), critical=True)
            .sign(key, hashes.SHA256())
        )  # fmt: skip
        (elsewhere / "c").write_bytes(bad.public_bytes(serialization.Encoding.PEM))
        (elsewhere / "k").write_bytes(
            own.private_bytes(
                serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
            )
        )
        forged = type(made)(elsewhere / "c", elsewhere / "k", made.authority, "")
        with self.assertRaisesRegex(ssl.SSLError, "permitted subtree violation"):
            self.hello(forged, "bank.example")

    def test_a_phone_trusts_it_once(self) -> None:
        first = served(self.folder, ["field.local", "192.0.2.7"])
        again = served(self.folder, ["field.local"])
        self.assertEqual((first.authority, first.fingerprint), (again.authority, again.fingerprint))
        other = served(self.folder, ["field.local", "192.0.2.99"])
        self.assertNotEqual(first.fingerprint, other.fingerprint, "a name it may not sign for needs another authority")
        late = served(self.folder, ["field.local"], datetime.now(UTC) + timedelta(days=365 * 5))
        self.assertNotEqual(other.fingerprint, late.fingerprint)
        (self.folder / AUTHORITY).write_text("no certificate")
        self.assertTrue(served(self.folder, ["field.local"]).fingerprint)

    def test_keys_are_the_owners_alone_and_the_phone_gets_none(self) -> None:
        made = served(self.folder, ["field.local"])
        for name in (AUTHORITY, KEY):
            self.assertEqual((self.folder / name).stat().st_mode & 0o077, 0)
        self.assertNotIn(b"PRIVATE", made.authority)
        self.assertEqual(len(made.fingerprint.split(":")), 32)
        lasts = x509.load_pem_x509_certificate(made.certificate.read_bytes())
        self.assertLessEqual(lasts.not_valid_after_utc - lasts.not_valid_before_utc, timedelta(days=825))
