"""A rigid rectangular cavity by finite elements (scikit-fem): lowest resonances, and the mean pressure over one square
patch of a wall for a uniform velocity of another.

Writes cavity.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import numpy as np
from scipy.sparse.linalg import eigsh, spsolve
from skfem import Basis, BilinearForm, ElementHex2, FacetBasis, LinearForm, MeshHex
from skfem.helpers import dot, grad

C, RHO = 343.2, 1.2041
SIDES = (0.5, 0.4, 0.6)

mesh = MeshHex.init_tensor(*(np.linspace(0, side, n) for side, n in zip(SIDES, (11, 9, 13))))
basis = Basis(mesh, ElementHex2())


@BilinearForm
def stiffness(u, v, _):
    return dot(grad(u), grad(v))


@BilinearForm
def mass(u, v, _):
    return u * v


@LinearForm
def load(v, _):
    return v


K, M = stiffness.assemble(basis), mass.assemble(basis)
found = eigsh(K, k=8, M=M, sigma=-1.0, which="LM", return_eigenvectors=False)
resonances = sorted(float(C * np.sqrt(max(x, 0)) / (2 * np.pi)) for x in found)[1:]


def patch(x, y):
    """Faces of the wall z = 0 within 0.05 m of (x, y): a square of 0.1 m."""
    inside = lambda p: (abs(p[2]) < 1e-9) & (abs(p[0] - x) < 0.0499) & (abs(p[1] - y) < 0.0499)
    facets = mesh.facets_satisfying(inside, boundaries_only=True)
    return load.assemble(FacetBasis(mesh, ElementHex2(), facets=facets))


one, other = (0.25, 0.25), (0.15, 0.10)
a, b = patch(*one), patch(*other)
cases = []
for f in (30.0, 120.0, 200.0, 250.0, 320.0, 380.0):
    w = 2 * np.pi * f
    # -∇²p = k²p with ∂p/∂n = -jωρ·v on the patch, v = U/area into the cavity
    p = spsolve((K - (w / C) ** 2 * M).tocsc(), w * RHO * b / b.sum())
    cases.append({"frequency_hz": f, "mutual_im": float(a @ p / a.sum())})

written = {
    "scikit-fem": importlib.metadata.version("scikit-fem"),
    "sides_m": SIDES,
    "openings_m": [one, other],
    "area_m2": [float(a.sum()), float(b.sum())],
    "resonances_hz": resonances,
    "cases": cases,
}
pathlib.Path(__file__).with_name("cavity.json").write_text(json.dumps(written, indent=1) + "\n")
