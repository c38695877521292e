"""Running values and convolution, held against scipy's."""

import numpy as np
import pytest
from scipy import ndimage
from scipy.signal import fftconvolve

from orexis.core.signals import (
    convolved,
    frames_of,
    low_pass,
    median,
    running_maximum,
    running_mean,
    running_median,
    running_minimum,
    spectra,
    thinned,
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


@pytest.mark.parametrize("kind", [np.float32, np.float64])
def test_one_median_is_numpys_to_the_bit(kind: type) -> None:
    for count in (1, 2, 7, 96, 97):
        assert median(VALUES[:count].astype(kind)) == np.median(VALUES[:count].astype(kind))
    assert median([3.0, 1.0]) == 2.0
    assert np.isnan(median([]))
    assert np.isnan(median([1.0, np.nan, 2.0]))


@pytest.mark.parametrize("factor", [2, 3])
def test_a_low_pass_gives_the_same_in_any_blocks(factor: int) -> None:
    samples = np.random.default_rng(6).normal(size=20_001).astype(np.float32)
    taps = low_pass(factor)
    whole, _ = thinned(np.zeros(0, np.float32), samples, taps, factor)
    plain = fftconvolve(samples, taps[::-1], "valid")[::factor]
    assert len(whole) == len(plain) > 2 * 2048
    assert np.allclose(whole, plain, atol=1e-5)
    kept, parts = np.zeros(0, np.float32), []
    for first in range(0, len(samples), 777):
        part, kept = thinned(kept, samples[first : first + 777], taps, factor)
        parts.append(part)
    np.testing.assert_array_equal(np.concatenate(parts), whole)


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
