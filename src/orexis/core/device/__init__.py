"""What the microphone, the loudspeaker and the room between them do to a measurement."""

from orexis.core.device.check import DeviceCheck, check_device

__all__ = ["DeviceCheck", "check_device"]
