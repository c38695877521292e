"""The stand away from the desk: certificates of this machine's own (loaded only where needed), a passphrase, paired devices."""

from orexis.services.standing.pairing import PairedDevice, Pairing, Rights

__all__ = ["PairedDevice", "Pairing", "Rights"]
