"""Lines and horns by a direct numerical solution of Webster's equation (scipy), joined to one woofer by hand.

p' = -jωρ/S·U and U' = -jωS/(ρc²)·p are integrated (DOP853, 1e-10) from the mouth, whose impedance is that of a
flanged piston (Bessel and Struve functions of scipy), to the woofer, and from the closed end to the woofer.

Writes levels.json beside this script: python3 make.py
"""

import json
import pathlib

import numpy as np
import scipy
from scipy.integrate import solve_ivp
from scipy.special import j1, struve

C, RHO = 343.2, 1.2041
PI = np.pi


def piston(area, w):
    x = 2 * w / C * np.sqrt(area / PI)
    return RHO * C / area * (1 - 2 * j1(x) / x + 1j * 2 * struve(1, x) / x)


def carry(area, start, end, p, u, w):
    """(p, U) at `end` from those at `start`; U counts toward growing x."""
    def slope(x, y):
        s = area(x)
        return [-1j * w * RHO / s * y[1], -1j * w * s / (RHO * C * C) * y[0]]
    got = solve_ivp(slope, (start, end), [complex(p), complex(u)], method="DOP853", rtol=1e-10, atol=1e-12)
    return got.y[:, -1]


def woofer(w):
    fs, qes, qms, vas, re, sd, le = 30.0, 0.40, 5.0, 0.120, 5.6, 0.0530, 1e-3
    cms = vas / (RHO * C * C * sd * sd)
    mms = 1 / ((2 * PI * fs) ** 2 * cms)
    bl = np.sqrt(2 * PI * fs * mms * re / qes)
    rms = 2 * PI * fs * mms / qms
    ze = re + 1j * w * le
    z = (1j * w * mms + rms + 1 / (1j * w * cms) + bl * bl / ze) / sd**2
    return z, bl / (sd * ze) * 2.83  # impedance of the cone with its motor, pressure of the source


def told(heard, mouth, w):
    """Level of everything heard, dB at 1 m in half space, and what flows out of the mouth, m3/s rms, at 2.83 V."""
    return float(20 * np.log10(abs(w * RHO * heard / (2 * PI)) / 20e-6)), float(abs(mouth))


def compliance(litres):
    return litres * 1e-3 / (RHO * C * C)


def front_horn(area, length, w, rear=50.0, front=3.0):
    # from a mouth with U = 1 back to the throat
    p, u = carry(area, length, 0.0, piston(area(length), w), 1.0, w)
    y = u / p + 1j * w * compliance(front)
    z, source = woofer(w)
    cone = source / (z + 1 / (1j * w * compliance(rear)) + 1 / y)
    return told(cone / y / p, cone / y / p, w)


def back_horn(area, length, w, chamber=8.0):
    p, u = carry(area, length, 0.0, piston(area(length), w), 1.0, w)
    y = u / p + 1j * w * compliance(chamber)
    z, source = woofer(w)
    cone = source / (z + 1 / y)  # toward the front; the rear pushes the other way
    return told(cone - cone / y / p, cone / y / p, w)


def line(area, length, at, w):
    p, u = carry(area, length, at, piston(area(length), w), 1.0, w)
    out = u / p
    q, v = carry(area, 0.0, at, 1.0, 0.0, w) if at else (1.0, 0.0)
    y = out - v / q  # what goes toward the closed end leaves the woofer the other way
    z, source = woofer(w)
    cone = source / (z + 1 / y)
    return told(cone - cone / y / p, cone / y / p, w)


L = 1.8
ST, SM = 0.03, 0.40


def exponential(x):
    return ST * np.exp(np.log(SM / ST) * x / L)


def hyperbolic(x, t=0.6):
    from scipy.optimize import brentq
    u = brentq(lambda u: np.cosh(u) + t * np.sinh(u) - np.sqrt(SM / ST), 0.1, 10)
    return ST * (np.cosh(u * x / L) + t * np.sinh(u * x / L)) ** 2


def conical(x):
    return (np.sqrt(ST) + (np.sqrt(SM) - np.sqrt(ST)) * x / L) ** 2


RM = np.sqrt(SM / PI)
LT = RM * np.log((RM + np.sqrt(RM**2 - ST / PI)) / np.sqrt(ST / PI)) - np.sqrt(RM**2 - ST / PI)


def tractrix(x):
    from scipy.optimize import brentq
    back = LT - min(max(x, 0.0), LT)
    if back < 1e-12:
        return SM
    r = brentq(lambda r: RM * np.log((RM + np.sqrt(RM**2 - r * r)) / r) - np.sqrt(RM**2 - r * r) - back, 1e-3, RM)
    return PI * r * r


def taper(x):
    return 0.08 + (0.05 - 0.08) * x / 2.5


def steep(x):
    return 0.2008 + (0.0100 - 0.2008) * x / 3.0


frequencies = [float(f) for f in np.geomspace(15, 500, 24)]
horn = {"throat_cm2": 300, "mouth_cm2": 4000, "wall_losses": False}


def front(profile):
    return {"family": "front_horn", "rear_volume_l": 50, "throat_chamber_l": 3, "horn": {**horn, "profile": profile}}


cases = [
    ("front horn, exponential", front({"shape": "exponential", "length_mm": 1800}), lambda w: front_horn(exponential, L, w)),
    ("front horn, hyperbolic", front({"shape": "hyperbolic", "length_mm": 1800, "t": 0.6}), lambda w: front_horn(hyperbolic, L, w)),
    ("front horn, conical", front({"shape": "conical", "length_mm": 1800}), lambda w: front_horn(conical, L, w)),
    # short of the rim, where the radius turns upright
    ("front horn, tractrix", front({"shape": "tractrix"}), lambda w: front_horn(tractrix, LT * (1 - 1e-7), w)),
    ("back horn, exponential",
     {"family": "back_horn", "throat_chamber_l": 8, "horn": {**horn, "profile": {"shape": "exponential", "length_mm": 1800}}},
     lambda w: back_horn(exponential, L, w)),
    ("line, woofer inside",
     {"family": "transmission_line", "length_mm": 2500, "woofer_at_mm": 500, "wall_losses": False,
      "profile": {"shape": "tapered", "closed_end_cm2": 800, "open_end_cm2": 500}},
     lambda w: line(taper, 2.5, 0.5, w)),
    ("line, woofer at a third",
     {"family": "transmission_line", "length_mm": 2500, "woofer_at_mm": 833, "wall_losses": False,
      "profile": {"shape": "tapered", "closed_end_cm2": 800, "open_end_cm2": 500}},
     lambda w: line(taper, 2.5, 0.833, w)),
    ("line, narrowing twentyfold",
     {"family": "transmission_line", "length_mm": 3000, "woofer_at_mm": 0, "wall_losses": False,
      "profile": {"shape": "tapered", "closed_end_cm2": 2008, "open_end_cm2": 100}},
     lambda w: line(steep, 3.0, 0.0, w)),
]
def row(name, enclosure, level):
    found = [level(2 * PI * f) for f in frequencies]
    return {"name": name, "enclosure": enclosure, "level_db": [x[0] for x in found], "mouth_m3_per_s": [x[1] for x in found]}


written = {
    "scipy": scipy.__version__,
    "frequency_hz": frequencies,
    "cases": [row(*case) for case in cases],
}
pathlib.Path(__file__).with_name("levels.json").write_text(json.dumps(written, indent=1) + "\n")
