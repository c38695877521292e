"""A certificate authority of this machine's own and a certificate for its names and addresses, for HTTPS on the home network.

A browser gives the microphone only to a page that came safely. The authority's key never leaves the folder; a device is told to trust
the authority once, and every certificate that it signs later (another address, a year on) is trusted, too.
"""

import contextlib
import ipaddress
import os
import socket
from dataclasses import dataclass
from datetime import timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from orexis.core.messages import tell
from orexis.services.clock import now

_AUTHORITY_DAYS, _SERVER_DAYS, _RENEW_DAYS = 3650, 365, 30
# RFC 1918, 3927, 4193 and 4291; this machine itself.
_HOME_NETWORKS = (
    "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16", "127.0.0.0/8", "fc00::/7", "fe80::/10", "::1/128",
)  # fmt: skip
_BEFORE = timedelta(days=1)  # clocks of devices go wrong


def names_here() -> tuple[str, ...]:
    """The names and addresses under which this machine can be reached from the network, itself first."""
    names = ["localhost", "127.0.0.1", socket.gethostname(), f"{socket.gethostname().split('.')[0]}.local"]
    with contextlib.suppress(OSError):
        names += [str(item[4][0]) for item in socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)]
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(("192.0.2.1", 9))  # nothing is sent: it only asks which address would be used
            names.append(str(probe.getsockname()[0]))
        except OSError:
            pass
    return tuple(dict.fromkeys(name.lower() for name in names if name and _at_home(name)))


def _at_home(name: str) -> bool:
    """Whether the authority may vouch for it: any name, and addresses of home networks."""
    if not _is_address(name):
        return True
    address = ipaddress.ip_address(name)
    return any(address in ipaddress.ip_network(network) for network in _HOME_NETWORKS)


@dataclass(frozen=True, slots=True)
class Certificates:
    """Files in one folder: `authority.pem` is what a device is to trust; `server.pem` and `server-key.pem` are used here."""

    folder: Path

    @property
    def authority(self) -> Path:
        """What a device is told to trust."""
        return self.folder / "authority.pem"

    @property
    def server(self) -> Path:
        """The path of the server's certificate."""
        return self.folder / "server.pem"

    @property
    def server_key(self) -> Path:
        """The path of the key of the server's certificate."""
        return self.folder / "server-key.pem"

    def ready(self, names: tuple[str, ...]) -> None:
        """Make what is missing, too old, or not for these names."""
        self.folder.mkdir(parents=True, exist_ok=True)
        os.chmod(self.folder, 0o700)
        if not self.authority.exists() or not self._authority_key.exists():
            self._make_authority(names)
            self.server.unlink(missing_ok=True)
        if not self._serves(names):
            self._make_server(names)

    @property
    def _authority_key(self) -> Path:
        return self.folder / "authority-key.pem"

    def _serves(self, names: tuple[str, ...]) -> bool:
        if not self.server.exists() or not self.server_key.exists():
            return False
        certificate = x509.load_pem_x509_certificate(self.server.read_bytes())
        left = certificate.not_valid_after_utc - now()
        told = certificate.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        known = {str(name.value) for name in told}
        return left > timedelta(days=_RENEW_DAYS) and set(names) <= known

    def _make_authority(self, names: tuple[str, ...]) -> None:
        key = ec.generate_private_key(ec.SECP256R1())
        name = x509.Name(
            [
                x509.NameAttribute(
                    NameOID.COMMON_NAME, tell("Orexis on {gethostname}", gethostname=socket.gethostname())[:64]
                )
            ]
        )
        made = (
            _builder(name, name, key.public_key(), _AUTHORITY_DAYS)
            .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
            .add_extension(_usage(signs=True), critical=True)
            .add_extension(_home_only(names), critical=True)
            .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
            .sign(key, hashes.SHA256())
        )
        _write(self._authority_key, _private(key))
        _write(self.authority, made.public_bytes(serialization.Encoding.PEM))

    def _make_server(self, names: tuple[str, ...]) -> None:
        authority = x509.load_pem_x509_certificate(self.authority.read_bytes())
        signing = serialization.load_pem_private_key(self._authority_key.read_bytes(), None)
        assert isinstance(signing, ec.EllipticCurvePrivateKey)
        key = ec.generate_private_key(ec.SECP256R1())
        name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Orexis stand")])
        made = (
            _builder(name, authority.subject, key.public_key(), _SERVER_DAYS)
            .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
            .add_extension(_usage(signs=False), critical=True)
            .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
            .add_extension(x509.SubjectAlternativeName([_named(item) for item in names]), critical=False)
            .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(signing.public_key()), critical=False)
            .sign(signing, hashes.SHA256())
        )
        _write(self.server_key, _private(key))
        _write(self.server, made.public_bytes(serialization.Encoding.PEM))


def _home_only(names: tuple[str, ...]) -> x509.NameConstraints:
    """The authority vouches for this machine's names and for addresses of home networks: nobody who steals it can be a bank."""
    named = [x509.DNSName(name) for name in (*names, "local") if not _is_address(name)]
    networks = [x509.IPAddress(ipaddress.ip_network(network)) for network in _HOME_NETWORKS]
    return x509.NameConstraints(permitted_subtrees=[*named, *networks], excluded_subtrees=None)


def _is_address(name: str) -> bool:
    try:
        ipaddress.ip_address(name)
    except ValueError:
        return False
    return True


def _builder(
    subject: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, days: int
) -> x509.CertificateBuilder:
    return (
        x509.CertificateBuilder()
        .subject_name(subject)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(now() - _BEFORE)
        .not_valid_after(now() + timedelta(days=days))
    )


def _usage(*, signs: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not signs, content_commitment=False, key_encipherment=False, data_encipherment=False,
        key_agreement=False, key_cert_sign=signs, crl_sign=signs, encipher_only=False, decipher_only=False,
    )  # fmt: skip


def _named(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        return x509.DNSName(name)


def _private(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _write(path: Path, data: bytes) -> None:
    """Only for its owner to read."""
    unfinished = path.with_suffix(".part")
    unfinished.touch(mode=0o600)
    unfinished.write_bytes(data)
    os.replace(unfinished, path)
