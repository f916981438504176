"""Fourth-order high-pass polynomials s^4 + a1 s^3 + a2 s^2 + a3 s + 1 of scipy's analogue prototypes.

Run with scipy installed: python make.py > coefficients.json
"""
import json
import platform

import numpy as np
import scipy
from scipy import signal


def normalised(z, p, k):
    a = np.real(np.poly(p))
    w = a[4] ** 0.25
    return [a[1] / w, a[2] / w**2, a[3] / w**3]


cases = [{"ripple_db": 0.0, "coefficients": normalised(*signal.butter(4, 1, "highpass", analog=True, output="zpk"))}]
for ripple in (0.01, 0.1, 0.5, 1.0, 2.0, 3.0):
    zpk = signal.cheby1(4, ripple, 1, "highpass", analog=True, output="zpk")
    cases.append({"ripple_db": ripple, "coefficients": normalised(*zpk)})
print(json.dumps({"scipy": scipy.__version__, "python": platform.python_version(), "cases": cases}, indent=1))
