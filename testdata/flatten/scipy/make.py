"""Levels of invented boxes and the best that scipy.optimize.least_squares finds for them from many starts.

Run with scipy installed: python make.py > flatten.json
"""
import json
import math
import platform
import sys

import numpy as np
import scipy
from scipy import optimize

F = np.geomspace(20, 120, 61)
LN = np.log(F)
W = np.gradient(LN)
W[0] /= 1
W = np.concatenate([[0.5 * (LN[1] - LN[0])], 0.5 * (LN[2:] - LN[:-2]), [0.5 * (LN[-1] - LN[-2])]])
W /= W.sum()
PREFER = 0.25


def band(hz, db, q):
    a, x = 10 ** (db / 40), 1j * F / hz
    return 20 * np.log10(np.abs((x * x + x * a / q + 1) / (x * x + x / (a * q) + 1)))


def high_pass(hz, q):
    x = 1j * F / hz
    return 20 * np.log10(np.abs(x * x / (x * x + x / q + 1)))


LEVELS = {
    "one peak": band(38, 7, 2.5) + high_pass(18, 0.7),
    "peak and dip": band(30, 5, 3) + band(70, -6, 4) + high_pass(15, 0.9),
    "a rising cabin": 12 * np.log2(60 / F) * 0.3 + band(46, 4, 6) + band(90, 6, 5),
    "an unruly one": sum(band(h, g, q) for h, g, q in [(24, 5, 4), (33, -4, 5), (47, 6, 3), (66, -5, 6), (95, 4, 4)]),
}
RANGES = {"hz": [18.0, 120.0], "level_db": [-15.0, 6.0], "q": [0.4, 10.0]}


def best(level, n):
    low = [math.log(RANGES["hz"][0]), RANGES["level_db"][0], math.log(RANGES["q"][0])] * n + [-100]
    high = [math.log(RANGES["hz"][1]), RANGES["level_db"][1], math.log(RANGES["q"][1])] * n + [100]

    def residuals(p):
        lifted = sum(band(math.exp(p[3 * k]), p[3 * k + 1], math.exp(p[3 * k + 2])) for k in range(n))
        left = (level + lifted - p[-1]) * np.sqrt(W)
        boosts = np.maximum(p[1:-1:3], 0) * math.sqrt(PREFER) / 6
        return np.concatenate([left, boosts])

    rng = np.random.default_rng(7)
    found = None
    for _ in range(60):
        start = np.array([rng.uniform(a, b) for a, b in zip(low, high)])
        start[-1] = level.mean()
        fit = optimize.least_squares(residuals, start, bounds=(low, high), xtol=1e-12, ftol=1e-12, max_nfev=400)
        if found is None or fit.cost < found.cost:
            found = fit
    return 2 * found.cost


cases = [
    {"name": name, "bands": n, "level_db": list(level), "best": best(level, n)}
    for name, level in LEVELS.items()
    for n in (1, 3, 5)
]
json.dump(
    {
        "made_with": {"python": platform.python_version(), "scipy": scipy.__version__, "numpy": np.__version__},
        "hz": list(F),
        "prefer_cuts": PREFER,
        "ranges": RANGES,
        "cases": cases,
    },
    sys.stdout,
    separators=(",", ":"),
)
print()
