"""Analog prototypes, their digital versions at three rates and group delays, from scipy.signal.

Run with scipy installed: python make.py > filters.json

Low and high passes are scipy's own designs (butter; bessel with norm "mag"; Linkwitz-Riley as two of its butters). What scipy has
no design for (band, shelves, all-pass, notch, transform) is written down here from Bristow-Johnson's cookbook and Linkwitz 1978,
as polynomials, and turned digital by scipy.signal.bilinear with the frequency held where it is.
"""
import json
import math
import platform
import sys

import numpy as np
import scipy
from scipy import signal

FREQUENCIES = [3.0, 10.0, 20.0, 25.0, 40.0, 80.0, 150.0, 1000.0, 8000.0]
RATES = [44100.0, 48000.0, 96000.0]
TAU = 2 * math.pi


def cookbook(filter):
    """Numerator and denominator in x = s/w0, highest power first, and the frequency held, Hz."""
    kind, f0 = filter["kind"], filter.get("frequency_hz")
    q, a = filter.get("q"), 10 ** (filter.get("level_db", 0) / 40)
    if kind == "band":
        return [1, a / q, 1], [1, 1 / (a * q), 1], f0
    if kind == "low_shelf":
        if q is None:
            return [1, a], [1, 1 / a], f0
        return [a * 1, a * math.sqrt(a) / q, a * a], [a, math.sqrt(a) / q, 1], f0
    if kind == "high_shelf":
        if q is None:
            return [a, 1], [1 / a, 1], f0
        return [a * a, a * math.sqrt(a) / q, a], [1, math.sqrt(a) / q, a], f0
    if kind == "all_pass":
        return ([-1, 1], [1, 1], f0) if q is None else ([1, -1 / q, 1], [1, 1 / q, 1], f0)
    if kind == "notch":
        return [1, 0, 1], [1, 1 / q, 1], f0
    if kind == "transform":
        middle = math.sqrt(filter["from_hz"] * filter["to_hz"])
        c, p = filter["from_hz"] / middle, filter["to_hz"] / middle
        return [1, c / filter["from_q"], c * c], [1, p / filter["to_q"], p * p], middle
    raise ValueError(kind)


def analog(filter):
    """Zeros, poles and factor of the analog filter, rad/s."""
    if filter["kind"] in ("low_pass", "high_pass"):
        btype = filter["kind"].replace("_", "")
        w0, slope = TAU * filter["frequency_hz"], filter["slope"]
        shape, n = slope["shape"], slope.get("order")
        if shape == "butterworth":
            return signal.butter(n, w0, btype, analog=True, output="zpk")
        if shape == "bessel":
            return signal.bessel(n, w0, btype, analog=True, output="zpk", norm="mag")
        if shape == "linkwitz_riley":
            z, p, k = signal.butter(n // 2, w0, btype, analog=True, output="zpk")
            return np.tile(z, 2), np.tile(p, 2), k * k
        top = [1.0, 0, 0] if btype == "highpass" else [w0 * w0]
        return signal.tf2zpk(top, [1, w0 / slope["q"], w0 * w0])
    b, a, f0 = cookbook(filter)
    z, p, k = signal.tf2zpk(b, a)
    w0 = TAU * f0
    return z * w0, p * w0, k * w0 ** (len(p) - len(z))


def digital(filter, rate):
    """The digital filter as zeros, poles and factor."""
    if filter["kind"] in ("low_pass", "high_pass"):
        btype, f0, slope = filter["kind"].replace("_", ""), filter["frequency_hz"], filter["slope"]
        shape, n = slope["shape"], slope.get("order")
        if shape == "butterworth":
            return signal.butter(n, f0, btype, fs=rate, output="zpk")
        if shape == "bessel":
            return signal.bessel(n, f0, btype, fs=rate, output="zpk", norm="mag")
        if shape == "linkwitz_riley":
            z, p, k = signal.butter(n // 2, f0, btype, fs=rate, output="zpk")
            return np.tile(z, 2), np.tile(p, 2), k * k
        z, p, k = signal.tf2zpk([1.0, 0, 0] if btype == "highpass" else [1.0], [1, 1 / slope["q"], 1])
        held = f0
    else:
        b, a, held = cookbook(filter)
        z, p, k = signal.tf2zpk(b, a)
    # x = K (z - 1)/(z + 1)
    return signal.bilinear_zpk(z, p, k, fs=1 / math.tan(math.pi * held / rate) / 2)


def response(zpk, s):
    z, p, k = zpk
    return k * np.prod([s - r for r in z]) / np.prod([s - r for r in p])


def group_delay(zpk, s):
    """-d arg/dw, from the exact derivative of the logarithm by s."""
    z, p, _ = zpk
    slope = sum(1 / (s - r) for r in z) - sum(1 / (s - r) for r in p)
    return -slope.real


def slopes():
    for order in range(1, 9):
        yield {"shape": "butterworth", "order": order}
        yield {"shape": "bessel", "order": order}
    for order in (2, 4, 8):
        yield {"shape": "linkwitz_riley", "order": order}
    for q in (0.3, 1.2):
        yield {"shape": "own_q", "q": q}


FILTERS = [
    {"kind": kind, "frequency_hz": f0, "slope": slope}
    for kind, f0 in (("high_pass", 25.0), ("low_pass", 80.0))
    for slope in slopes()
] + [
    {"kind": "band", "frequency_hz": 30.0, "level_db": 6.0, "q": 2.0},
    {"kind": "band", "frequency_hz": 45.0, "level_db": -9.0, "q": 0.7},
    {"kind": "band", "frequency_hz": 3000.0, "level_db": -4.0, "q": 5.0},
    {"kind": "low_shelf", "frequency_hz": 30.0, "level_db": -5.0, "q": 0.7071},
    {"kind": "low_shelf", "frequency_hz": 60.0, "level_db": 4.0},
    {"kind": "high_shelf", "frequency_hz": 30.0, "level_db": 4.0},
    {"kind": "high_shelf", "frequency_hz": 120.0, "level_db": -8.0, "q": 1.1},
    {"kind": "all_pass", "frequency_hz": 30.0, "q": 0.7},
    {"kind": "all_pass", "frequency_hz": 80.0},
    {"kind": "notch", "frequency_hz": 30.0, "q": 3.0},
    {"kind": "transform", "from_hz": 55.0, "from_q": 0.9, "to_hz": 25.0, "to_q": 0.7071},
]

cases = []
for filter in FILTERS:
    zpk = analog(filter)
    values = [response(zpk, 2j * math.pi * f) for f in FREQUENCIES]
    case = {
        "filter": filter,
        "poles": sorted([[p.real, p.imag] for p in np.atleast_1d(zpk[1])]),
        "re": [v.real for v in values],
        "im": [v.imag for v in values],
        "group_delay_s": [group_delay(zpk, 2j * math.pi * f) for f in FREQUENCIES],
        "digital": [],
    }
    for rate in RATES:
        there = digital(filter, rate)
        sampled = [response(there, np.exp(2j * math.pi * f / rate)) for f in FREQUENCIES]
        case["digital"].append({"rate": rate, "re": [v.real for v in sampled], "im": [v.imag for v in sampled]})
    cases.append(case)

json.dump(
    {
        "made_with": {"python": platform.python_version(), "scipy": scipy.__version__, "numpy": np.__version__},
        "frequency_hz": FREQUENCIES,
        "cases": cases,
    },
    sys.stdout,
    separators=(",", ":"),
)
print()
