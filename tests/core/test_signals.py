"""Running values and convolution, held against scipy's."""

import numpy as np
import pytest
from scipy import ndimage
from scipy.signal import fftconvolve

from orexis.core.signals import (
    convolved,
    frames_of,
    running_maximum,
    running_mean,
    running_median,
    running_minimum,
    spectra,
)

VALUES = np.random.default_rng(5).normal(size=97)


@pytest.mark.parametrize("width", [1, 2, 3, 8, 25, 120])
def test_running_values_go_on_beyond_both_ends(width: int) -> None:
    for ours, theirs in (
        (running_mean, ndimage.uniform_filter1d),
        (running_maximum, ndimage.maximum_filter1d),
        (running_minimum, ndimage.minimum_filter1d),
    ):
        assert np.allclose(ours(VALUES, width), theirs(VALUES, width, mode="nearest"))
    assert len(running_mean(VALUES[:0], width)) == len(running_maximum(VALUES[:0], width)) == 0


@pytest.mark.parametrize("width", [1, 3, 25])
def test_the_median_too(width: int) -> None:
    assert np.allclose(running_median(VALUES, width), ndimage.median_filter(VALUES, width, mode="nearest"))


def test_precision_stays() -> None:
    assert running_mean(VALUES.astype(np.float32), 5).dtype == np.float32
    assert spectra(VALUES.astype(np.float32)[None], 128).dtype == np.complex64


def test_convolution_is_that_of_its_definition() -> None:
    assert np.allclose(convolved(VALUES, VALUES[:10]), np.convolve(VALUES, VALUES[:10]))
    turned = VALUES * np.exp(0.3j * np.arange(97))
    assert np.allclose(convolved(turned, VALUES[:20]), fftconvolve(turned, VALUES[:20]))


def test_frames_come_back_from_their_spectra() -> None:
    frames = VALUES[:96].reshape(4, 24)
    assert np.allclose(frames_of(spectra(frames, 32), 32)[:, :24], frames)
    assert np.allclose(spectra(frames, 32), np.fft.rfft(frames, 32))
