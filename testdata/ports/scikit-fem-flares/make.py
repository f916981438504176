"""End correction of a tube whose end is flared by a quarter circle, by axisymmetric finite elements (scikit-fem on meshes of
gmsh): flush in a wide wall, and free-standing with a thin wall.

Laplace's equation in a tube of radius 1 that opens at z = 0 through a flare of radius r into a half space (flush) or into all
of space (free). Far out the field is that of a point source, d(phi)/dn = -phi/R. With unit velocity in the tube the potential
at its far end is its length and the end correction together; the correction is counted from where the flare begins, in tube
radii. Plain ends are the check: 0.8217 flush (Nomura et al. 1960), 0.6133 free (Levine and Schwinger 1948).

Writes flares.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import gmsh
import numpy as np
from scipy.sparse.linalg import spsolve
from skfem import Basis, BilinearForm, ElementTriP2, FacetBasis, LinearForm, MeshTri
from skfem.helpers import dot, grad

TUBE, FAR = 4.0, 30.0


def mesh_of(r, free, wall, fine):
    gmsh.initialize()
    gmsh.option.setNumber("General.Terminal", 0)
    g = gmsh.model.geo
    point = lambda radius, z: g.addPoint(radius, z, 0.0)
    sharp = []
    start, inner = point(0, -TUBE), point(1, -TUBE)
    begin = point(1, 0)
    lines = [g.addLine(start, inner), g.addLine(inner, begin)]
    centre = point(1 + r, 0) if r else None
    tip = begin
    if r:
        tip = point(1 + r, r)
        lines.append(g.addCircleArc(begin, centre, tip))
        sharp.append(lines[-1])
    if free:
        behind = point(1 + wall, 0)
        if r:
            back = point(1 + r, r - wall)
            lines += [g.addLine(tip, back), g.addCircleArc(back, centre, behind)]
        else:
            lines.append(g.addLine(tip, behind))
        sharp += lines[-2 if r else -1 :]
        middle = point(0, r)
        low = r - np.sqrt(FAR**2 - (1 + wall) ** 2)
        foot, side, top = point(1 + wall, low), point(FAR, r), point(0, r + FAR)
        lines += [g.addLine(behind, foot), g.addCircleArc(foot, middle, side), g.addCircleArc(side, middle, top)]
    else:
        middle = point(0, r)
        side, top = point(FAR, r), point(0, r + FAR)
        lines += [g.addLine(tip, side), g.addCircleArc(side, middle, top)]
    lines.append(g.addLine(top, start))
    g.addPlaneSurface([g.addCurveLoop(lines)])
    g.synchronize()
    fields = gmsh.model.mesh.field
    near = fields.add("Distance")
    if sharp:
        fields.setNumbers(near, "CurvesList", sharp)
        fields.setNumber(near, "Sampling", 200)
    fields.setNumbers(near, "PointsList", [tip])
    grow = fields.add("MathEval")
    fields.setString(grow, "F", f"Min({fine} + 0.15 * F{near}, 1)")
    fields.setAsBackgroundMesh(grow)
    gmsh.option.setNumber("Mesh.MeshSizeExtendFromBoundary", 0)
    gmsh.option.setNumber("Mesh.MeshSizeFromPoints", 0)
    gmsh.model.mesh.generate(2)
    tags, xyz, _ = gmsh.model.mesh.getNodes()
    _, _, cells = gmsh.model.mesh.getElements(2)
    number = np.zeros(int(tags.max()) + 1, dtype=int)
    number[tags.astype(int)] = np.arange(len(tags))
    triangles = number[cells[0].astype(int)].reshape(-1, 3)
    used, triangles = np.unique(triangles, return_inverse=True)
    points = xyz.reshape(-1, 3)[used, :2]
    gmsh.finalize()
    return MeshTri(points.T.copy(), triangles.reshape(-1, 3).T.copy())


def correction(r, free, wall=0.01, fine=0.01):
    mesh = mesh_of(r, free, wall, fine)
    basis = Basis(mesh, ElementTriP2())
    stiffness = BilinearForm(lambda u, v, w: w.x[0] * dot(grad(u), grad(v))).assemble(basis)
    far = mesh.facets_satisfying(lambda p: np.hypot(p[0], p[1] - r) > FAR * 0.995, boundaries_only=True)
    outer = FacetBasis(mesh, ElementTriP2(), facets=far)
    stiffness += BilinearForm(lambda u, v, w: w.x[0] * u * v / FAR).assemble(outer)
    near = mesh.facets_satisfying(lambda p: np.isclose(p[1], -TUBE), boundaries_only=True)
    inlet = LinearForm(lambda v, w: w.x[0] * v).assemble(FacetBasis(mesh, ElementTriP2(), facets=near))
    potential = spsolve(stiffness.tocsr(), inlet)
    return float(inlet @ potential / inlet.sum() - TUBE)


cases = []
for r in (0.0, 0.05, 0.1, 0.15, 0.2, 0.25, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 1.0, 1.5, 2.0, 3.0):
    cases.append({"flare": r, "flush": round(correction(r, False), 5), "free": round(correction(r, True), 5)})
    print(cases[-1], flush=True)
tools = ("scikit-fem", "gmsh", "scipy", "numpy")
written = {"tools": ", ".join(f"{t} {importlib.metadata.version(t)}" for t in tools), "wall": 0.01, "cases": cases}
pathlib.Path(__file__).with_name("flares.json").write_text(json.dumps(written, indent=1) + "\n")
