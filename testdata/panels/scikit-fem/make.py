"""Thin plates with braces by finite elements (scikit-fem, Morley's triangle, two meshes extrapolated to none): the lowest
eigenvalue of the square, a rectangle held on lines, edges supported or clamped. A line held does not move but may turn.

Writes plates.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import numpy as np
import scipy
from scipy.sparse.linalg import eigsh
from skfem import Basis, BilinearForm, ElementTriMorley, MeshTri
from skfem.helpers import dd, ddot, trace, eye

NU = 0.3


def lowest(b, edges, uprights, levels, n):
    xs = np.unique(np.round(np.concatenate([np.linspace(0, 1, n + 1), uprights]), 9))
    ys = np.unique(np.round(np.concatenate([np.linspace(0, b, int(n * b) + 1), levels]), 9))
    mesh = MeshTri.init_tensor(xs, ys)
    basis = Basis(mesh, ElementTriMorley())

    @BilinearForm
    def bending(u, v, w):
        moment = (1 - NU) * dd(u) + NU * eye(trace(dd(u)), 2)
        return ddot(moment, dd(v))

    @BilinearForm
    def mass(u, v, w):
        return u * v

    stiffness, weight = bending.assemble(basis), mass.assemble(basis)
    on = lambda values, at: np.any([np.isclose(values, place) for place in at], axis=0) if len(at) else np.zeros(len(values), bool)
    x, y = mesh.p
    held = np.where(on(x, [0, 1, *uprights]) | on(y, [0, b, *levels]))[0]
    fixed = list(basis.nodal_dofs[0, held])
    if edges == "clamped":
        fixed += list(basis.facet_dofs[0, mesh.boundary_facets()])
    free = np.setdiff1d(np.arange(basis.N), fixed)
    found = eigsh(stiffness[free][:, free], k=1, M=weight[free][:, free], sigma=0, return_eigenvectors=False)
    return float(np.sqrt(found[0]))


cases = []
for b, edges, uprights, levels in (
    (1.0, "clamped", [], []),
    (1.4, "supported", [0.5], []),
    (1.4, "clamped", [], [0.7]),
    (1.7, "clamped", [], [0.55, 1.2]),
    (1.3, "supported", [0.4], [0.6]),
):
    coarse, fine = (lowest(b, edges, uprights, levels, n) for n in (40, 80))
    # Morley's eigenvalue comes with the square of the mesh's size
    cases.append({
        "b_over_a": b,
        "edges": edges,
        "uprights": uprights,
        "levels": [y / b for y in levels],
        "lambda_square": fine + (fine - coarse) / 3,
    })
out = {
    "tool": f"scikit-fem {importlib.metadata.version('scikit-fem')}, scipy {scipy.__version__}",
    "poisson": NU,
    "cases": cases,
}
pathlib.Path(__file__).with_name("plates.json").write_text(json.dumps(out, indent=1) + "\n")
