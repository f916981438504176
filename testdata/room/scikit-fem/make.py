"""A rectangular room by finite elements (scikit-fem): pressure at two places per volume velocity of a point source,
once with rigid walls and air that takes a little, once with lossless air and walls that yield (each its own admittance).

The decays of axial modes between yielding walls stand beside it, exact.

Writes room.json beside this script: python3 make.py
"""

import cmath
import importlib.metadata
import json
import pathlib

import numpy as np
from scipy.sparse.linalg import spsolve
from skfem import Basis, BilinearForm, ElementHex2, FacetBasis, MeshHex
from skfem.helpers import dot, grad

C, RHO = 343.2, 1.2041
SIDES = (6.0, 4.0, 2.5)
CELLS = (20, 12, 10)
SOURCE = (0.6, 1.0, 0.5)
PLACES = [(4.2, 2.0, 1.25), (5.4, 1.0, 1.25)]
FREQUENCIES = [12.0, 20.0, 28.6, 43.0, 57.0, 90.0]
DELTA = 6.9077552790 / 0.5
# absorption of the six walls: both ends of the length, both sides, floor and ceiling
ABSORPTION = [[0.08, 0.16], [0.12, 0.08], [0.16, 0.04]]

mesh = MeshHex.init_tensor(*(np.linspace(0, side, n + 1) for side, n in zip(SIDES, CELLS)))
basis = Basis(mesh, ElementHex2())


@BilinearForm
def stiffness(u, v, _):
    return dot(grad(u), grad(v))


@BilinearForm
def mass(u, v, _):
    return u * v


K, M = stiffness.assemble(basis), mass.assemble(basis)
walls = []
for axis in range(3):
    for end in range(2):
        at = end * SIDES[axis]
        facets = mesh.facets_satisfying(lambda x, a=axis, w=at: np.abs(x[a] - w) < 1e-9, boundaries_only=True)
        walls.append((ABSORPTION[axis][end] / 8, mass.assemble(FacetBasis(mesh, ElementHex2(), facets=facets))))


def node(place):
    gaps = np.abs(basis.doflocs.T - np.array(place)).max(axis=1)
    found = int(np.argmin(gaps))
    assert gaps[found] < 1e-9, (place, gaps[found])
    return found


def solved(f, yielding):
    w = 2 * np.pi * f
    if yielding:
        A = K - (w / C) ** 2 * M + 1j * (w / C) * sum(beta * wall for beta, wall in walls)
    else:
        A = K - (w * w - 2j * w * DELTA) / C**2 * M
    b = np.zeros(A.shape[0], dtype=complex)
    b[node(SOURCE)] = 1j * w * RHO
    p = spsolve(A.tocsc(), b)
    return [[p[node(place)].real, p[node(place)].imag] for place in PLACES]


def axial(n, axis):
    """Decay, 1/s, of the exact n-th axial mode of one axis alone between two yielding walls: the complex k for which a wave
    comes back to itself, R0 R1 e^{-2jkL} = 1 with R = (1 - beta)/(1 + beta) at either end."""
    L = SIDES[axis]
    b0, b1 = (a / 8 for a in ABSORPTION[axis])
    r = (1 - b0) / (1 + b0) * (1 - b1) / (1 + b1)
    k = (2 * np.pi * n + cmath.log(r).imag - 1j * cmath.log(r).real) / (2 * L)
    return abs((C * k).imag)


rigid = [solved(f, False) for f in FREQUENCIES]
yielding = [solved(f, True) for f in FREQUENCIES]
data = {
    "tool": f"scikit-fem {importlib.metadata.version('scikit-fem')}, scipy {importlib.metadata.version('scipy')}",
    "sides_m": SIDES,
    "source_m": SOURCE,
    "places_m": PLACES,
    "t60_s": 0.5,
    "absorption": ABSORPTION,
    "frequency_hz": FREQUENCIES,
    "rigid_pa_s_per_m3": rigid,
    "yielding_pa_s_per_m3": yielding,
    "axial_decay_per_s": [axial(1, 0), axial(2, 0), axial(1, 1)],
}
out = pathlib.Path(__file__).with_name("room.json")
out.write_text(json.dumps(data, indent=1) + "\n")
