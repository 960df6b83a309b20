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


def chords(where, x, y, r, k):
    """A circle as programs write it that know no arcs."""
    n = random.randint(30, 120)
    where.add_lwpolyline([(x + r * math.cos(math.tau * i / n), y + r * math.sin(math.tau * i / n)) for i in range(n)], close=True)


SHAPES = [spline, ellipse, old, light, loose, circle, chords]


def measured(entities, within):
    """Area and length of the closed shapes by the library's own flattening; loose lines are chained by it too."""
    total, length, rest = 0.0, 0.0, []
    for e in disassemble.recursive_decompose(entities):
        p = path.make_path(e)
        if p.is_closed or e.dxftype() in ("CIRCLE", "LWPOLYLINE", "POLYLINE"):
            points = list(p.flattening(within))
            # Chords of a circle are read as the circle: what they cut off is known.
            n = len(points) - 1
            round_ = e.dxftype() == "LWPOLYLINE" and not e.has_arc and n >= 28
            total += abs(area(points)) * ((math.tau / n) / math.sin(math.tau / n) if round_ else 1)
            length += sum(a.distance(b) for a, b in zip(points, points[1:])) * ((math.pi / n) / math.sin(math.pi / n) if round_ else 1)
        else:
            rest.append(e)
    if rest:
        deposit = edgeminer.Deposit(list(edgesmith.edges_from_entities_2d(rest, gap_tol=1e-6)), gap_tol=1e-6)
        for loop in edgeminer.find_all_simple_chains(deposit):
            points = list(edgesmith.path2d_from_chain(loop).flattening(within))
            total += abs(area(points))
            length += sum(a.distance(b) for a, b in zip(points, points[1:]))
    return total, length


def spoil(doc, plate, edges):
    """Faults that are mended: gaps, strokes drawn twice or over one another, a contour drawn twice, specks."""
    said = []
    for e in random.sample(edges, 2):
        if random.random() < 0.5:
            a, b = Vec3(e.dxf.start), Vec3(e.dxf.end)
            e.dxf.end = b - (b - a).normalize(random.uniform(0.002, 0.04))
            said.append("gap")
    if random.random() < 0.5:
        e = random.choice(edges)
        plate.add_line(e.dxf.end, e.dxf.start)
        said.append("stroke")
    if random.random() < 0.5:
        e = random.choice(edges)
        a, b = Vec3(e.dxf.start), Vec3(e.dxf.end)
        plate.add_line(a.lerp(b, random.uniform(0.2, 0.4)), a.lerp(b, random.uniform(0.5, 0.8)))
        said.append("stroke")
    if random.random() < 0.5:
        e = random.choice([e for e in plate if e.dxftype() in ("CIRCLE", "LWPOLYLINE")])
        plate.add_entity(e.copy())
        said.append("drawn")
    if random.random() < 0.3:
        plate.add_line((3, 3), (3, 3))
        said.append("step")
    return said


@pytest.mark.parametrize("seed", range(200))
def test_the_metal_left_is_what_another_library_measures(seed, tmp_path):
    random.seed(seed)
    unit, mm = random.choice([(units.MM, 1), (units.IN, 25.4), (units.CM, 10), (units.M, 1000), (units.FT, 304.8), (units.DM, 100)])
    doc = ezdxf.new(random.choice(["R2000", "R2007", "R2018"]), units=unit)
    space = doc.modelspace()
    # All is drawn in millimetres in a block, which is set in at the drawing's own scale: blocks in blocks, turned and mirrored, some stretched.
    plate = doc.blocks.new("plate")
    edge = [(0, 0), (WIDE, 0), (WIDE, HIGH), (0, HIGH)]
    edges = [plate.add_line(a, b) for a, b in zip(edge, edge[1:] + edge[:1])]
    for k, (x, y) in enumerate(random.sample(MIDDLES, 14)):
        shape = SHAPES[k % len(SHAPES)]
        if k < 7:
            shape(plate, x, y, random.uniform(10, 45), k)
        else:
            cut = doc.blocks.new(f"cut{k}", base_point=(7, -3))
            shape(cut, 7, -3, random.uniform(10, 30), k)
            sx = random.choice([-1, 1]) * random.uniform(0.6, 1.4)
            # Chords of a circle that is stretched are chords of an ellipse: told apart no longer.
            alike = shape is chords or shape in (old, light, loose, circle) and k % 2
            sy = abs(sx) if alike else random.uniform(0.6, 1.4)
            plate.add_blockref(f"cut{k}", (x, y), dxfattribs={"xscale": sx, "yscale": sy, "rotation": random.uniform(0, 360)})
    space.add_blockref("plate", (random.uniform(-5, 5), 3), dxfattribs={"xscale": 1 / mm, "yscale": 1 / mm, "rotation": random.uniform(0, 360)})
    # The plate is counted once as an outline: all that encloses less is cut out of it.
    enclosed, length = measured(space, 0.0005 / mm)
    left = 2 * WIDE * HIGH - enclosed * mm**2
    spoiled = spoil(doc, plate, edges)
    file, job = tmp_path / "drawing.dxf", tmp_path / "job.json"
    doc.saveas(file)
    done = run("import", file, "-o", job)
    told, said = figures(job)["P-101"], done.stderr.decode()
    assert abs(told["area"] - left) < 14 * 0.01 * 400, (told["area"], left, said)
    assert abs(told["cut_length"] - length * mm) < 1e-4 * length * mm, (told["cut_length"], length * mm, said)
    assert told["pierces"] == 15, said
    mended = "".join(line for line in said.splitlines(True) if "mended" in line)
    for fault in spoiled:
        assert fault in mended, (fault, said)


# A page of SVG and the same shapes in that library's words.
def test_a_page_and_a_drawing_of_the_same_part_are_one(tmp_path):
    page = tmp_path / "part.svg"
    page.write_text(
        '<svg xmlns="http://www.w3.org/2000/svg" width="160mm" height="90mm" viewBox="0 0 160 90">'
        '<path d="M10 0H150A10 10 0 0 1 160 10V80A10 10 0 0 1 150 90H10A10 10 0 0 1 0 80V10A10 10 0 0 1 10 0Z"/>'
        '<circle cx="30" cy="30" r="7"/><ellipse cx="100" cy="45" rx="30" ry="12" transform="rotate(20 100 45)"/></svg>'
    )
    doc = ezdxf.new(units=units.MM)
    space = doc.modelspace()
    q = math.tan(math.pi / 8)
    space.add_lwpolyline([(10, 90, 0), (150, 90, -q), (160, 80, 0), (160, 10, -q), (150, 0, 0), (10, 0, -q), (0, 10, 0), (0, 80, -q)], format="xyb", close=True)
    space.add_circle((30, 60), 7)
    space.add_ellipse((100, 45), (30 * math.cos(math.radians(-20)), 30 * math.sin(math.radians(-20)), 0), 0.4)
    doc.saveas(tmp_path / "part.dxf")
    told = []
    for file in (page, tmp_path / "part.dxf"):
        run("import", file, "-o", tmp_path / "job.json")
        told.append(figures(tmp_path / "job.json")["P-101"])
    enclosed, length = measured(space, 0.0005)
    outer = abs(area(list(path.make_path(space[0]).flattening(0.0005))))
    for figure in told:
        assert abs(figure["area"] - (2 * outer - enclosed)) < 1, figure
        assert abs(figure["cut_length"] - length) < 0.05, figure
