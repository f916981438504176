"""Resonances of folded paths between their boards, by finite elements in two dimensions (scikit-fem, quadratic triangles; mesh by
triangle): walls and boards rigid, no pressure in the mouth, the other end closed.

Reads plans.json (the room, the boards and the mouth of each case, as the program folds them: written by crates/design/tests/folds.rs
with OAK_DRUM_WRITE=1) and writes folds.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import numpy as np
import shapely
import triangle
from skfem import Basis, BilinearForm, ElementTriP2, MeshTri, condense, solve
from skfem.helpers import dot, grad
from skfem.utils import solver_eigen_scipy_sym

C = 343.2
here = pathlib.Path(__file__).parent


@BilinearForm
def stiffness(u, v, _):
    return dot(grad(u), grad(v))


@BilinearForm
def mass(u, v, _):
    return u * v


def mesh_of(case):
    """The room less its boards, each a twentieth of a millimetre larger so that what touches is one."""
    z0, y0 = case["corner"]
    d, h = case["room"]
    wood = shapely.union_all([shapely.Polygon([q[0], q[1], q[3], q[2]]).buffer(0.05, join_style="mitre") for q in case["boards"]])
    air = shapely.box(z0, y0, z0 + d, y0 + h).difference(wood)
    assert air.geom_type == "Polygon", "the path is one"
    points, segments, holes = [], [], []
    for ring in [air.exterior, *air.interiors]:
        corners = list(ring.coords)[:-1]
        first, n = len(points), len(corners)
        points.extend(corners)
        segments.extend([first + i, first + (i + 1) % n] for i in range(n))
    for ring in air.interiors:
        inside = shapely.Polygon(ring).representative_point()
        holes.append([inside.x, inside.y])
    plan = {"vertices": points, "segments": segments}
    if holes:
        plan["holes"] = holes
    made = triangle.triangulate(plan, "pq30a150")
    return MeshTri(np.ascontiguousarray(made["vertices"].T * 1e-3), np.ascontiguousarray(made["triangles"].T))


def resonances(case):
    mesh = mesh_of(case)
    basis = Basis(mesh, ElementTriP2())
    z0, y0 = (x * 1e-3 for x in case["corner"])
    d, h = (x * 1e-3 for x in case["room"])
    face, low, high = case["mouth"]["face"], case["mouth"]["from_mm"] * 1e-3, case["mouth"]["to_mm"] * 1e-3
    eps = 1e-9

    def open_end(x):
        z, y = x
        along = z if face in (4, 5) else y
        on = {0: abs(z - z0), 1: abs(z - z0 - d), 4: abs(y - y0 - h), 5: abs(y - y0)}[face] < eps
        return on & (along > low - eps) & (along < high + eps)

    facets = mesh.facets_satisfying(open_end, boundaries_only=True)
    dofs = basis.get_dofs(facets)
    assert len(facets) > 3
    k, m = stiffness.assemble(basis), mass.assemble(basis)
    values, _ = solve(*condense(k, m, D=dofs), solver=solver_eigen_scipy_sym(k=3, sigma=1.0))
    return [float(C * np.sqrt(v) / (2 * np.pi)) for v in sorted(values)], float(mesh.param())


cases = []
for case in json.loads((here / "plans.json").read_text()):
    found, step = resonances(case)
    cases.append({**case, "resonances_hz": found})
    print(case["name"], found, step)
tools = {name: importlib.metadata.version(name) for name in ("scikit-fem", "triangle", "shapely", "numpy", "scipy")}
(here / "folds.json").write_text(json.dumps({"tools": tools, "c_m_per_s": C, "cases": cases}, indent=1) + "\n")
