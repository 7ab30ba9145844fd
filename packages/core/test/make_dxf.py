"""Writes random DXF files with Debian's python3-ezdxf, and what each draws by that package's own reckoning.

Usage: make_dxf.py COUNT SEED. Prints JSON: for each file its text, the length of all curves and the box around them.
"""
import io
import json
import math
import random
import sys

import ezdxf
from ezdxf import disassemble, path
from ezdxf.math import Matrix44, rational_bspline_from_arc

count, seed = int(sys.argv[1]), int(sys.argv[2])


def number(low=-50, high=50):
    return random.uniform(low, high)


def draw(space, mirrored):
    """A few curves of every kind; `mirrored` writes them as seen from below."""
    look = {"extrusion": (0, 0, -1)} if mirrored else {}
    kind = random.randrange(8)
    if kind == 0:
        space.add_line((number(), number()), (number(), number()))
    elif kind == 1:
        space.add_circle((number(), number()), random.uniform(1, 20), dxfattribs=look)
    elif kind == 2:
        space.add_arc((number(), number()), random.uniform(1, 20), number(0, 360), number(0, 360), dxfattribs=look)
    elif kind == 3:
        points = [(number(), number(), random.choice([0, 0, number(-1.5, 1.5)])) for _ in range(random.randrange(2, 6))]
        space.add_lwpolyline(points, format="xyb", close=random.random() < 0.5, dxfattribs=look)
    elif kind == 4:
        points = [(number(), number(), 0, 0, random.choice([0, number(-1, 1)])) for _ in range(3)]
        space.add_polyline2d(points, format="xyseb", close=True, dxfattribs=look)
    elif kind == 5:
        turn = number(0, 6)
        axis = (random.uniform(5, 20) * math.cos(turn), random.uniform(5, 20) * math.sin(turn))
        start = number(0, 6)
        space.add_ellipse((number(), number()), axis, random.uniform(0.2, 0.9), start, start + number(0.5, 6), dxfattribs=look)
    elif kind == 6:
        curve = rational_bspline_from_arc((number(), number()), random.uniform(2, 20), number(0, 180), number(200, 350))
        space.add_rational_spline(curve.control_points, curve.weights(), degree=curve.degree, knots=curve.knots())
    else:
        space.add_open_spline([(number(), number()) for _ in range(random.randrange(4, 9))], degree=3)


files = []
for i in range(count):
    random.seed(seed * 100_003 + i)
    document = ezdxf.new("R2000")
    names = []
    for k in range(random.randrange(0, 4)):
        block = document.blocks.new(f"B{k}", base_point=(number(-5, 5), number(-5, 5)))
        for _ in range(random.randrange(1, 4)):
            draw(block, random.random() < 0.3)
        if names and random.random() < 0.7:
            block.add_blockref(random.choice(names), (number(), number()), dxfattribs={"rotation": number(0, 360), "xscale": 1, "yscale": -1})
        names.append(f"B{k}")
    model = document.modelspace()
    for _ in range(random.randrange(1, 5)):
        draw(model, random.random() < 0.4)
    for name in names:
        size = random.choice([1, 1, -1, 2.5])
        model.add_blockref(name, (number(), number()), dxfattribs={
            "rotation": random.choice([0, 90, number(0, 360)]),
            "xscale": size,
            # That package takes no reference apart that is turned within one that is stretched.
            "yscale": random.choice([size, -size]) if document.blocks.get(name).query("INSERT") else random.choice([size, -size, 0.6]),
            "column_count": random.choice([1, 1, 3]), "row_count": random.choice([1, 2]),
            "column_spacing": number(60, 120), "row_spacing": number(60, 120),
            "extrusion": (0, 0, random.choice([1, 1, -1])),
        })
    length, low, high = 0.0, [math.inf] * 2, [-math.inf] * 2
    for entity in disassemble.recursive_decompose(model):
        points = list(path.make_path(entity).flattening(0.004, segments=8))
        for a, b in zip(points, points[1:]):
            length += math.hypot(b.x - a.x, b.y - a.y)
        for p in points:
            low = [min(low[0], p.x), min(low[1], p.y)]
            high = [max(high[0], p.x), max(high[1], p.y)]
    stream = io.StringIO()
    document.write(stream)
    files.append({"text": stream.getvalue(), "length": length, "low": low, "high": high})
json.dump(files, sys.stdout)
