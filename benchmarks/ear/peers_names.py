"""Names only: the libraries themselves are not installed here."""

PEER_NAMES = ["praat-25", "praat-50", "swift-f0", "librosa-yin", "pyworld-harvest", "librosa-pyin"]
