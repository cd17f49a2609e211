"""Powers of float32 that the compiler can vectorise.

The C library's ``powf`` is called once a value and cannot be vectorised by Numba, and powers are
what most colour chains spend their time on. These polynomials are inlined into the loops that use
them. ``log2`` uses the atanh series on the mantissa folded to [sqrt(1/2), sqrt(2)) and ``exp2`` a
Taylor series on [-1/2, 1/2]; both in float32, with the exponent handled as an integer so that it
costs no precision.

Source: series expansions, Abramowitz & Stegun 1964, 4.1.27 and 4.2.1 [AbramowitzStegun1964].
"""

from __future__ import annotations

import numpy as np

from .jit import inline

_SQRT2_BITS = np.int32(0x3F3504F3)

_INV_LN2_2 = np.float32(2.8853900817779268)  # 2 / ln 2
_L3 = np.float32(2.8853900817779268 / 3)
_L5 = np.float32(2.8853900817779268 / 5)
_L7 = np.float32(2.8853900817779268 / 7)

_E1 = np.float32(0.6931471805599453)
_E2 = np.float32(0.2402265069591007)
_E3 = np.float32(0.05550410866482158)
_E4 = np.float32(0.009618129107628477)
_E5 = np.float32(0.0013333558146428443)
_E6 = np.float32(0.0001540353039338161)
_ONE = np.float32(1)
_LARGEST = np.finfo(np.float32).max


@inline
def power(x: np.float32, p: np.float32) -> np.float32:
    """``x ** p`` for x > 0 (float32, normal numbers); relative error below 2e-6 for |p log2 x| and |p| to 20.

    Infinity stays infinity, as for every p > 0.

    The caller handles x <= 0: the result there is meaningless.
    """
    bits = np.float32(x).view(np.int32)
    # exponent chosen so that the mantissa lies in [sqrt(1/2), sqrt(2))
    e = (bits - _SQRT2_BITS) >> np.int32(23)
    m = np.int32(bits - (e << np.int32(23))).view(np.float32)
    t = (m - _ONE) / (m + _ONE)
    s = t * t
    lg = t * (_INV_LN2_2 + s * (_L3 + s * (_L5 + s * _L7)))
    # p * (e + lg) split so that the large part stays exact
    ep = np.float64(p) * np.float64(e)
    hi = np.float64(np.rint(ep))
    y = np.float32(ep - hi) + np.float32(p * lg)
    yi = np.rint(y)
    f = y - yi
    n = np.int32(hi) + np.int32(yi)
    if n > np.int32(127):
        n = np.int32(127)
    if n < np.int32(-126):
        n = np.int32(-126)
    z = _ONE + f * (_E1 + f * (_E2 + f * (_E3 + f * (_E4 + f * (_E5 + f * _E6)))))
    scale = np.int32((n + np.int32(127)) << np.int32(23)).view(np.float32)
    return np.float32(z * scale) if x <= _LARGEST else np.float32(x)
