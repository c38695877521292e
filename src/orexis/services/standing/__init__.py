"""The stand away from the desk: certificates of this machine's own, a passphrase, paired devices."""

from orexis.services.standing.certificates import Certificates, names_here
from orexis.services.standing.pairing import PairedDevice, Pairing, Rights

__all__ = ["Certificates", "PairedDevice", "Pairing", "Rights", "names_here"]
