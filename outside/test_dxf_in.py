"""Drawings that another library writes (ezdxf), brought in: the metal left is what that library measures."""

import math
import random

import ezdxf
import pytest
from ezdxf import disassemble, edgeminer, edgesmith, path, units
from ezdxf.math import OCS, Vec3, area, global_bspline_interpolation

from steelk import figures, run

# The plate, and the middles of the fields that cuts stand in, in millimetres.
WIDE, HIGH, FIELD = 1200.0, 800.0, 200.0
MIDDLES = [(x + FIELD / 2, y + FIELD / 2) for x in range(0, int(WIDE), int(FIELD)) for y in range(0, int(HIGH), int(FIELD))]


def spline(where, x, y, r, k):
    """A closed curve round the place, its radius swinging: through points, or by control points and weights."""
    points = [(x + r * (1 + 0.3 * math.sin(3 * t + k)) * math.cos(t), y + r * (1 + 0.3 * math.sin(3 * t + k)) * math.sin(t), 0) for t in (i * math.tau / 12 for i in range(12))]
    if k % 2:
        curve = where.add_spline()
        curve.set_open_rational(points + points[:1], weights=[random.uniform(0.5, 2) for _ in range(13)])
    else:
        where.add_spline().apply_construction_tool(global_bspline_interpolation([Vec3(p) for p in points + points[:1]], degree=3))


def ellipse(where, x, y, r, k):
    turn = random.uniform(0, math.tau)
    back = (0, 0, -1) if k % 2 else (0, 0, 1)
    where.add_ellipse((x, y), (r * math.cos(turn), r * math.sin(turn), 0), random.uniform(0.2, 0.95), dxfattribs={"extrusion": back})


def old(where, x, y, r, k):
    corners = [(x - r, y - r), (x + r, y - r, ), (x + r, y + r), (x - r, y + r)]
    bulges = [random.uniform(-0.3, 0.4) for _ in corners]
    where.add_polyline2d([(*c[:2], b) for c, b in zip(corners, bulges)], format="xyb", close=True)


def light(where, x, y, r, k):
    """From behind: told in a plane of its own."""
    ocs = OCS((0, 0, -1))
    corners = [ocs.from_wcs(Vec3(x + r * math.cos(t), y + r * math.sin(t))) for t in (0.3, 1.9, 3.3, 5.0)]
    where.add_lwpolyline([(c.x, c.y, random.uniform(-0.2, 0.4)) for c in corners], format="xyb", close=True, dxfattribs={"extrusion": (0, 0, -1)})


def loose(where, x, y, r, k):
    """Lines and arcs in any order and direction."""
    parts = [
        lambda: where.add_line((x - r, y - r / 2), (x + r, y - r / 2)),
        lambda: where.add_line((x + r, y + r / 2), (x - r, y + r / 2)),
        lambda: where.add_arc((x + r, y), r / 2, -90, 90),
        lambda: where.add_arc((x - r, y), r / 2, 90, 270),
    ]
    random.shuffle(parts)
    for part in parts:
        part()


def circle(where, x, y, r, k):
    where.add_circle((x, y), r)


SHAPES = [spline, ellipse, old, light, loose, circle]


def measured(entities, within):
    """What the closed shapes enclose by the library's own flattening; loose lines are chained by it too."""
    total, rest = 0.0, []
    for e in disassemble.recursive_decompose(entities):
        p = path.make_path(e)
        if p.is_closed or e.dxftype() in ("CIRCLE", "LWPOLYLINE", "POLYLINE"):
            total += abs(area(list(p.flattening(within))))
        else:
            rest.append(e)
    if not rest:
        return total
    deposit = edgeminer.Deposit(list(edgesmith.edges_from_entities_2d(rest, gap_tol=1e-6)), gap_tol=1e-6)
    for loop in edgeminer.find_all_simple_chains(deposit):
        total += abs(area(list(edgesmith.path2d_from_chain(loop).flattening(within))))
    return total


@pytest.mark.parametrize("seed", range(24))
def test_the_metal_left_is_what_another_library_measures(seed, tmp_path):
    random.seed(seed)
    unit, mm = random.choice([(units.MM, 1), (units.IN, 25.4), (units.CM, 10), (units.M, 1000), (units.FT, 304.8), (units.DM, 100)])
    doc = ezdxf.new(random.choice(["R2000", "R2007", "R2018"]), units=unit)
    space = doc.modelspace()
    # All is drawn in millimetres in a block, which is set in at the drawing's own scale: blocks in blocks, turned and mirrored, some stretched.
    plate = doc.blocks.new("plate")
    edge = [(0, 0), (WIDE, 0), (WIDE, HIGH), (0, HIGH)]
    for a, b in zip(edge, edge[1:] + edge[:1]):
        plate.add_line(a, b)
    for k, (x, y) in enumerate(random.sample(MIDDLES, 12)):
        shape = SHAPES[k % len(SHAPES)]
        if k < 6:
            shape(plate, x, y, random.uniform(10, 45), k)
        else:
            cut = doc.blocks.new(f"cut{k}", base_point=(7, -3))
            shape(cut, 7, -3, random.uniform(10, 30), k)
            sx = random.choice([-1, 1]) * random.uniform(0.6, 1.4)
            sy = abs(sx) if shape in (old, light, loose, circle) and k % 2 else random.uniform(0.6, 1.4)
            plate.add_blockref(f"cut{k}", (x, y), dxfattribs={"xscale": sx, "yscale": sy, "rotation": random.uniform(0, 360)})
    space.add_blockref("plate", (random.uniform(-5, 5), 3), dxfattribs={"xscale": 1 / mm, "yscale": 1 / mm, "rotation": random.uniform(0, 360)})
    file, job = tmp_path / "drawing.dxf", tmp_path / "job.json"
    doc.saveas(file)
    done = run("import", file, "-o", job)
    # The plate is counted once as an outline: all that encloses less is cut out of it.
    all_of_it = measured(space, 0.0005 / mm) * mm**2
    left = 2 * WIDE * HIGH - all_of_it
    told = figures(job)["P-101"]
    assert abs(told["area"] - left) < 12 * 0.01 * 400, (told["area"], left, done.stderr.decode())
    assert told["pierces"] == 13, done.stderr.decode()
