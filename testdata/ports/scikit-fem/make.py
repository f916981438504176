"""Inner end of a slot port along the floor, between both side walls, by finite elements (scikit-fem, two dimensions): its
end correction in a box of given height and depth, the board ending flush in the baffle or standing into the box.

The box takes the flow up evenly (a compliance); the pressure at the slot's far end over the mean pressure in the box, both per
flow, is a length: that of the slot, its end correction, and the box's own inertance, which a plug of the whole height would have
as depth·(h/H)/3 and which is taken off for the flush case.

Writes slots.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import numpy as np
from scipy.sparse.linalg import spsolve
from skfem import Basis, BilinearForm, ElementQuad2, FacetBasis, LinearForm, MeshQuad
from skfem.helpers import dot, grad

BOARD = 0.018
OUTSIDE = 0.1


def correction(height, into, depth, inside):
    steps = lambda a, b, size: np.linspace(a, b, max(2, int(round((b - a) / size)) + 1))
    xs = [steps(-OUTSIDE, 0, 0.0025), steps(inside, depth, 0.004)]
    if inside:
        xs.append(steps(0, inside, 0.004))
    ys = [steps(0, height, min(0.003, height / 8)), steps(height, height + BOARD, 0.0045), steps(height + BOARD, into, 0.005)]
    join = lambda parts: np.unique(np.round(np.concatenate(parts), 9))
    mesh = MeshQuad.init_tensor(join(xs), join(ys))
    x, y = mesh.p[:, mesh.t].mean(axis=1)
    air = (x > 0) | (y < height)
    board = (x > 0) & (x < inside) & (y > height) & (y < height + BOARD)
    mesh = mesh.restrict(np.where(air & ~board)[0])
    basis = Basis(mesh, ElementQuad2())
    stiffness = BilinearForm(lambda u, v, w: dot(grad(u), grad(v))).assemble(basis)
    far = FacetBasis(mesh, ElementQuad2(), facets=mesh.facets_satisfying(lambda p: np.isclose(p[0], -OUTSIDE)))
    inflow = LinearForm(lambda v, w: v).assemble(far)
    uptake = LinearForm(lambda v, w: v * (w.x[0] > 0)).assemble(basis)
    load = inflow - uptake * height / uptake.sum()
    system = stiffness.tolil()
    system[0, :] = 0
    system[0, 0] = 1
    load[0] = 0
    pressure = spsolve(system.tocsr(), load)
    return float(inflow @ pressure / height - uptake @ pressure / uptake.sum() - OUTSIDE - inside)


cases = []
for height, into, depth in ((0.030, 0.500, 0.400), (0.050, 0.400, 0.300), (0.020, 0.300, 0.350), (0.080, 0.400, 0.400)):
    flush = correction(height, into, depth, 0.0) - depth * height / into / 3
    cases.append({
        "height_mm": height * 1e3,
        "box_height_mm": into * 1e3,
        "flush_mm": flush * 1e3,
        "standing_in_mm": correction(height, into, depth, 0.4 * depth) * 1e3,
    })
out = {
    "tool": f"scikit-fem {importlib.metadata.version('scikit-fem')}, numpy {np.__version__}",
    "cases": cases,
}
pathlib.Path(__file__).with_name("slots.json").write_text(json.dumps(out, indent=1) + "\n")
