"""Cabinets as closed meshes (trimesh, manifold3d): the boards are placed from the sizes alone, united, and measured; the air is
what a solid block of the inside is after the braces are taken from it.

Writes cabinets.json beside this script: python3 make.py
"""

import importlib.metadata
import json
import pathlib

import trimesh


def block(low, size):
    mesh = trimesh.creation.box(extents=size)
    mesh.apply_translation([a + s / 2 for a, s in zip(low, size)])
    return mesh


cases = []
for width, height, depth, panel, baffle, window in (
    (420.0, 600.0, 485.0, 18.0, 36.0, None),
    (256.0, 896.0, 236.0, 18.0, 18.0, (430.0, 18.0, 0.5)),
    (480.0, 800.0, 600.0, 21.5, 43.0, (352.0, 21.5, 0.4)),
):
    inside = (width - 2 * panel, height - 2 * panel, depth - panel - baffle)
    outer = block((0, 0, 0), (width, height, depth))
    hollow = block((panel, panel, baffle), inside)
    wood = trimesh.boolean.difference([outer, hollow])
    air = hollow
    if window:
        at, thick, part = window
        # the opening as one hole in the middle, of the same share of both sides
        share = part**0.5
        frame = block((panel, panel + at - thick / 2, baffle), (inside[0], thick, inside[2]))
        hole = block(
            (panel + inside[0] * (1 - share) / 2, panel + at - thick, baffle + inside[2] * (1 - share) / 2),
            (inside[0] * share, 2 * thick, inside[2] * share),
        )
        brace = trimesh.boolean.difference([frame, hole])
        air = trimesh.boolean.difference([hollow, brace])
        wood = trimesh.boolean.union([wood, brace])
    assert wood.is_watertight and air.is_watertight
    cases.append({
        "outside_mm": [width, height, depth],
        "panel_mm": panel,
        "baffle_mm": baffle,
        "window": window and {"at_mm": window[0], "thickness_mm": window[1], "open_part": window[2]},
        "wood_mm3": float(wood.volume),
        "air_mm3": float(air.volume),
        "wood_centroid_mm": [float(x) for x in wood.center_mass],
    })
versions = ", ".join(f"{name} {importlib.metadata.version(name)}" for name in ("trimesh", "manifold3d"))
out = {"tool": versions, "cases": cases}
pathlib.Path(__file__).with_name("cabinets.json").write_text(json.dumps(out, indent=1) + "\n")
