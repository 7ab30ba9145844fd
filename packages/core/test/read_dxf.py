"""Reads every DXF in a folder with ezdxf and prints what is in each as JSON: the audit's complaints, and the geometry."""
import json
import logging
import math
import pathlib
import sys

import ezdxf
from ezdxf import bbox  # noqa: F401  (its import tells whether the whole package is there)

logging.disable(logging.CRITICAL)


def chain_area(points):
    """Signed area of a closed chain of (x, y, bulge)."""
    total = 0.0
    for (x0, y0, bulge), (x1, y1, _) in zip(points, points[1:] + points[:1]):
        total += (x0 * y1 - x1 * y0) / 2
        if bulge:
            theta = 4 * math.atan(bulge)
            radius = math.hypot(x1 - x0, y1 - y0) / (2 * math.sin(abs(theta) / 2))
            total += radius * radius * (theta - math.sin(theta)) / 2
    return total


def read(path):
    doc = ezdxf.readfile(path)
    auditor = doc.audit()
    out = {
        "version": doc.dxfversion,
        "units": doc.header.get("$INSUNITS", 0),
        "complaints": [str(e.message) for e in auditor.errors + auditor.fixes],
        "layers": sorted(layer.dxf.name for layer in doc.layers),
        "kinds": {},
        "circles": [],
        "arcs": [],
        "loops": [],
        "lines": [],
        "texts": [],
    }
    for e in doc.modelspace():
        kind = e.dxftype()
        out["kinds"][kind] = out["kinds"].get(kind, 0) + 1
        layer = e.dxf.layer
        if kind == "CIRCLE":
            out["circles"].append([layer, e.dxf.center.x, e.dxf.center.y, e.dxf.radius, e.dxf.center.z])
        elif kind == "ARC":
            out["arcs"].append([layer, e.dxf.center.x, e.dxf.center.y, e.dxf.radius, e.dxf.start_angle, e.dxf.end_angle])
        elif kind == "LINE":
            a, b = e.dxf.start, e.dxf.end
            out["lines"].append([layer, a.x, a.y, b.x, b.y, abs(a.z) + abs(b.z)])
        elif kind == "LWPOLYLINE":
            points = [tuple(p) for p in e.get_points("xyb")]
            out["loops"].append([layer, bool(e.closed), chain_area(points), len(points)])
        elif kind == "POLYLINE":
            points = [(v.dxf.location.x, v.dxf.location.y, v.dxf.get("bulge", 0)) for v in e.vertices]
            out["loops"].append([layer, bool(e.is_closed), chain_area(points), len(points)])
        elif kind == "TEXT":
            out["texts"].append([layer, e.dxf.text, e.dxf.height])
    return out


answers = {p.name: read(p) for p in sorted(pathlib.Path(sys.argv[1]).glob("*.dxf"))}
json.dump(answers, sys.stdout)
