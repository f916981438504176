"""Reads back what this project writes about cabinets, with libraries that know nothing of it: solids united by manifold3d and
measured by trimesh, DXF by ezdxf, PDF by pypdf, layouts beside those of rectpack's guillotine packers.

python3 check.py FOLDER prints a JSON object; crates/design/tests/read_back.rs writes the folder and judges the answer.
"""

import json
import math
import pathlib
import sys

import ezdxf
import manifold3d
import numpy
import pypdf
import rectpack
import trimesh
from manifold3d import CrossSection, Manifold
from rectpack.guillotine import GuillotineBafSas, GuillotineBssfSas

ARC = 720


def ring_of(board):
    outline = board["outline"]
    if outline["kind"] == "disc":
        r = outline["diameter_mm"] / 2
        circle = [[r * math.cos(2 * math.pi * i / ARC), r * math.sin(2 * math.pi * i / ARC)] for i in range(ARC)]
        return circle, circle
    return outline["face"], outline["back"]


def placed(board, solid):
    u, v = numpy.array(board["u"]), numpy.array(board["v"])
    frame = numpy.column_stack([u, v, numpy.cross(u, v), board["at"]])
    return solid.transform(frame)


def extruded(ring, height):
    area = sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(ring, ring[1:] + ring[:1]))
    ring = ring if area > 0 else ring[::-1]
    return CrossSection([ring]).extrude(height)


def solid_of(board, holes):
    face, back = ring_of(board)
    t = board["thickness_mm"]
    if numpy.allclose(face, back):
        body = extruded(face, t)
    else:
        body = Manifold.hull_points(numpy.array([[*p, 0.0] for p in face] + [[*p, t] for p in back]))
    for hole in board["holes"]:
        if not (holes or hole["name"] in ("window", "bore")):
            continue
        x, y = hole["at"]
        o = hole["opening"]
        if o["shape"] == "round":
            tool = Manifold.cylinder(3 * t, o["diameter_mm"] / 2, circular_segments=ARC).translate([x, y, -t])
        else:
            l, w = o["length_mm"], o["width_mm"]
            tool = Manifold.cube([l, w, 3 * t]).translate([x - l / 2, y - w / 2, -t])
        body = body - tool
    return placed(board, body)


def mesh_of(solid):
    mesh = solid.to_mesh64()
    corners, faces = numpy.asarray(mesh.vert_properties)[:, :3], numpy.asarray(mesh.tri_verts).copy()
    # corners that are one, told so by the library where runs of faces meet
    same = numpy.arange(len(corners))
    same[numpy.asarray(mesh.merge_from_vert, dtype=int)] = numpy.asarray(mesh.merge_to_vert, dtype=int)
    return trimesh.Trimesh(corners, same[faces], process=False)


def solids(boards):
    wood = Manifold.batch_boolean([solid_of(b, True) for b in boards], manifold3d.OpType.Add)
    closed = Manifold.batch_boolean([solid_of(b, False) for b in boards], manifold3d.OpType.Add)
    mesh = mesh_of(wood)
    hull = closed.hull()
    return {
        "watertight": bool(mesh.is_watertight),
        "wood_mm3": float(mesh.volume),
        "centroid_mm": [float(x) for x in mesh.center_mass],
        "void_mm3": float((hull - closed).volume()),
    }


def drawing(path):
    doc = ezdxf.readfile(path)
    space = doc.modelspace()
    polygons = [e for e in space if e.dxftype() == "LWPOLYLINE"]
    area = 0.0
    for e in (e for e in polygons if e.dxf.layer == "OUTLINE"):
        p = [(x, y) for x, y, *_ in e.get_points()]
        area += abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(p, p[1:] + p[:1]))) / 2
    circles = [e for e in space if e.dxftype() == "CIRCLE"]
    area += sum(math.pi * e.dxf.radius**2 for e in circles if e.dxf.layer == "OUTLINE")
    return {
        "errors": len(doc.audit().errors),
        "units": doc.header.get("$INSUNITS"),
        "version": doc.dxfversion,
        "layers": sorted(layer.dxf.name for layer in doc.layers),
        "used": sorted({e.dxf.layer for e in space}),
        "open_outlines": sum(1 for e in polygons if e.dxf.layer in ("OUTLINE", "CUT") and not e.closed),
        "outline_mm2": area,
        "cut_diameters_mm": sorted(2 * e.dxf.radius for e in circles if e.dxf.layer == "CUT"),
    }


def pages(path):
    reader = pypdf.PdfReader(path)
    sizes = sorted({(round(float(p.mediabox.width), 1), round(float(p.mediabox.height), 1)) for p in reader.pages})
    widths = []
    for page in reader.pages:
        points = []
        for operands, operator in pypdf.generic.ContentStream(page.get_contents(), reader).operations:
            if operator == b"m":
                points = [[float(x) for x in operands]]
            elif operator == b"c":
                points.append([float(x) for x in operands[-2:]])
            elif operator in (b"S", b"s") and len(points) == 5:
                xs = [p[0] for p in points]
                widths.append(round((max(xs) - min(xs)) / 72 * 25.4, 2))
    text = "\n".join(page.extract_text() for page in reader.pages)
    return {"pages": len(reader.pages), "sizes_pt": sizes, "circles_mm": sorted(set(widths)), "text": text}


def packed(case):
    """Fewest sheets by rectpack's guillotine packers, kerf added to pieces and sheet."""
    kerf = case["kerf"]
    best = None
    for algorithm in (GuillotineBafSas, GuillotineBssfSas):
        packer = rectpack.newPacker(mode=rectpack.PackingMode.Offline, bin_algo=rectpack.PackingBin.BBF,
                                    pack_algo=algorithm, rotation=True)
        for l, w in case["pieces"]:
            packer.add_rect(round((l + kerf) * 10), round((w + kerf) * 10))
        l, w = case["sheet"]
        packer.add_bin(round((l + kerf) * 10), round((w + kerf) * 10), count=float("inf"))
        packer.pack()
        assert sum(len(b) for b in packer) == len(case["pieces"])
        best = len(packer) if best is None else min(best, len(packer))
    return best


def main(folder):
    found = {"solids": {}, "dxf": {}, "pdf": {}, "sheets": {}}
    for path in sorted(pathlib.Path(folder).iterdir()):
        name, kind = path.stem, path.suffix
        if name.endswith(".boards"):
            found["solids"][name.removesuffix(".boards")] = solids(json.loads(path.read_text()))
        elif kind == ".dxf":
            found["dxf"][name] = drawing(path)
        elif kind == ".pdf":
            found["pdf"][name] = pages(path)
        elif name == "sheets":
            found["sheets"] = [packed(case) for case in json.loads(path.read_text())]
    json.dump(found, sys.stdout)


main(sys.argv[1])
