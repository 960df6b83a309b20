"""STEP files as an independent kernel reads them (Open CASCADE, in gmsh): one solid each, as heavy and as large outside as
the figures tell."""

import json
import math

import numpy as np
import pytest

from steelk import DEMO, run

try:
    import gmsh
except (ImportError, OSError) as why:
    pytest.skip(f"the second reader does not install here: {why}", allow_module_level=True)

# Bends with their neutral line in the middle: then what is bent is as heavy as its flat, and the figures of the flat
# are those of the body.
JOB = json.loads(DEMO.read_text())
JOB["bend_rule"] = {"school": "k_factor", "k": "0.5"}
for piece in JOB["pieces"]:
    piece.pop("bend_rule", None)
JOB["pieces"] = [p for p in JOB["pieces"] if not p.get("tracing")]


@pytest.fixture(scope="module")
def job(tmp_path_factory):
    file = tmp_path_factory.mktemp("step") / "job.steelk.json"
    file.write_text(json.dumps(JOB))
    told = json.loads(run("--json", "evaluate", file, codes=(0, 1)).stdout)
    return file, {p["mark"]: p for p in told["pieces"]}


@pytest.fixture(scope="module", autouse=True)
def kernel():
    gmsh.initialize(interruptible=False)
    gmsh.option.setNumber("General.Verbosity", 1)
    gmsh.option.setString("Geometry.OCCTargetUnit", "MM")
    yield
    gmsh.finalize()


def read(file):
    """Volume, surface, kinds of faces and box (low and high corner) of the only solid in a file."""
    gmsh.model.add("part")
    solids = gmsh.model.occ.importShapes(str(file))
    gmsh.model.occ.synchronize()
    assert [d for d, _ in solids] == [3], solids
    volume = gmsh.model.occ.getMass(*solids[0])
    faces = gmsh.model.getEntities(2)
    surface = sum(gmsh.model.occ.getMass(*f) for f in faces)
    kinds = [gmsh.model.getType(*f) for f in faces]
    box = gmsh.model.getBoundingBox(*solids[0])
    gmsh.model.remove()
    return volume, surface, kinds, box


MARKS = [p["mark"] for p in JOB["pieces"]]


@pytest.mark.parametrize("mark", MARKS)
def test_one_solid_as_the_figures_tell(mark, job, tmp_path):
    file, told = job
    out = tmp_path / "piece.step"
    done = run("export", file, "--as", "step", "--part", mark, "-o", out, codes=(0, 1, 2))
    if done.returncode == 2:
        assert any(w in done.stderr.decode() for w in ("holes", "creases")), done.stderr
        return
    volume, surface, kinds, box = read(out)
    piece = told[mark]
    figures = {f["key"]: f["value"] for f in piece["figures"]}
    t = piece["thickness"]
    # Of drilled holes area and length of cut tell what goes through alone.
    if mark != "P-112":
        assert abs(volume / (figures["area"] * t) - 1) < 1e-6, (volume, figures["area"] * t)
        outside = 2 * figures["area"] + figures["cut_length"] * t
        assert abs(surface / outside - 1) < 1e-6, (surface, outside)
    assert set(kinds) <= {"Plane", "Cylinder", "Cone", "BSpline surface"}, set(kinds)
    # It lies as the formed piece does: x to the east, z up.
    if "BSpline surface" not in kinds:
        flat = {"x": figures["flat_length"], "y": figures["flat_width"], "z": t}
        for k, (axis, size) in enumerate(flat.items()):
            assert abs(box[k + 3] - box[k] - figures.get(f"formed_{axis}", size)) < 1e-3, (axis, box, figures)
    if mark in ("P-101", "P-107"):
        assert "BSpline surface" not in kinds and "Cylinder" in kinds


def test_drilled_holes_are_cones_and_cylinders(job, tmp_path):
    """The foot plate: what its drills take away is what its mass tells, by the density of its steel."""
    file, told = job
    out = tmp_path / "foot.step"
    run("export", file, "--as", "step", "--part", "P-112", "-o", out, codes=(0, 1))
    volume, _, kinds, _ = read(out)
    mass = next(f["value"] for f in told["P-112"]["figures"] if f["key"] == "mass")
    assert abs(volume * 7850e-9 / mass - 1) < 1e-6, (volume * 7850e-9, mass)
    assert kinds.count("Cone") >= 4 and math.isclose(told["P-112"]["thickness"], 20)


# Whole and half, level ends, holes and a slot through the wall; nearly to the tip.
CONES = """job "x", in mm, by DIN 6935

piece P-1 "whole", 2 thick s235
  cone ⌀300 to ⌀120, 200 high

piece P-2 "half", 4 thick s235
  cone ⌀400 to ⌀200, 300 high, through 180°
  hole ⌀20 on flat, 150 from west, 330 from south
  hole ⌀60 on flat, 150 from west, 200 from south

piece P-3 "level", 3 thick s235
  cone ⌀400 to ⌀200, 300 high, ends level, through 200°

piece P-4 "narrow", 2 thick s235
  cone ⌀300 to ⌀6, 200 high
"""


@pytest.mark.parametrize("mark", ["P-1", "P-2", "P-3", "P-4"])
def test_cones_are_cones(mark, tmp_path):
    """Twice the middle of the sheet is as large as both faces, and the body as large as its middle times its thickness
    (Gauss: what is bent one way only). Walls of holes run a hair longer than in the flat."""
    source = tmp_path / "job.txt"
    source.write_text(CONES)
    out = tmp_path / "cone.step"
    run("export", source, "--as", "step", "--part", mark, "-o", out, codes=(0, 1))
    volume, surface, kinds, _ = read(out)
    told = json.loads(run("evaluate", "--json", source, codes=(0, 1)).stdout)
    piece = next(p for p in told["pieces"] if p["mark"] == mark)
    figures = {f["key"]: f["value"] for f in piece["figures"]}
    t = piece["thickness"]
    assert abs(volume / (figures["area"] * t) - 1) < 1e-8, (volume, figures["area"] * t)
    outside = 2 * figures["area"] + figures["cut_length"] * t
    assert abs(surface / outside - 1) < (1e-5 if mark == "P-2" else 1e-8), (surface, outside)
    # Both faces and both rims.
    assert kinds.count("Cone") >= 4
    assert ("BSpline surface" in kinds) == (mark == "P-2")


# A mitre of round tubes, slots through both walls, a mirrored copy, an angle; a strut coped to a post as wide as itself.
FRAMES = """job "x", in mm, by DIN 6935

frame F-1 "stand", of SHS 60x60x3, material s235, corners mitred
  node A 0, 0, 0
  node B 900 east from A
  node C 700 up from B
  node D 400 north from C
  rail A B
  post B C
  arm C D, L 60x60x6
  hole ⌀9 on rail-1, 120 from its start, left face, slot 30 long, both walls
  hole ⌀11 on post-1, 300 from its start, left face, 3 x 60
  mirror rail-1 and post-1 across north at 900

frame F-2 "rail", of CHS 48.3x3.2, material s235, corners mitred
  node A 0, 0, 0
  node B 800 up from A
  node C 1000 east, 300 up from B
  node D 500 east from A
  node E between A and B, 400 along
  post A B
  rail B C
  strut D E
"""


def mass_of(source, frame):
    """The figure of a frame, kg."""
    told = json.loads(run("evaluate", "--json", source, codes=(0, 1)).stdout)
    figures = next(f for f in told["frames"] if f["mark"] == frame)["figures"]
    return next(x["value"] for x in figures if x["key"] == "mass")


def bodies(file):
    """Name by name in the file's order: volume of each solid, and kinds of all faces."""
    gmsh.model.add("frame")
    solids = gmsh.model.occ.importShapes(str(file))
    gmsh.model.occ.synchronize()
    assert all(d == 3 for d, _ in solids), solids
    volumes = [gmsh.model.occ.getMass(*s) for s in solids]
    kinds = {gmsh.model.getType(*f) for f in gmsh.model.getEntities(2)}
    gmsh.model.remove()
    return volumes, kinds


@pytest.mark.parametrize("frame", ["F-1", "F-2"])
def test_a_frame_is_one_solid_a_member_as_heavy_as_its_list(frame, tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(FRAMES)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "--frame", frame, "-o", out, codes=(0, 1))
    volumes, kinds = bodies(out)
    assert all(v > 0 for v in volumes)
    mass = mass_of(source, frame)
    # The mass of what is coped is added up over slices of its section.
    near = 1e-6 if frame == "F-1" else 1e-5
    assert abs(sum(volumes) * 7850e-9 / mass - 1) < near, (sum(volumes) * 7850e-9, mass)
    assert {"Plane", "Cylinder"} <= kinds
    assert len(volumes) == {"F-1": 5, "F-2": 3}[frame]


# Tubes coped to a larger one and to one as wide, aslant in space, at either end.
COPED = """job "x", in mm, by DIN 6935

frame F-1 "coped", of CHS 60.3x4, material s235, corners mitred
  node A 0, 0, 0
  node B 900 up from A
  node E between A and B, 450 along
  node D 500 east, 200 north, 600 up from A
  node G between A and B, 250 along
  node H 400 west, 250 north, 50 up from A
  post A B
  arm D E, CHS 33.7x2.6
  arm G H, CHS 42.4x3.2
  arm H D, SHS 40x40x3
  node K between A and B, 700 along
  node L 500 west, 100 north, 800 up from A
  arm L K
"""


def coped(start, end, across, wall, radius):
    """A tube from a round about the vertical axis to a square end: along each of its lines, solved and added up
    over its ring (Gauss and Legendre across the wall, equal steps round)."""
    a, b = np.array(start, float), np.array(end, float)
    long = np.linalg.norm(b - a)
    d = (b - a) / long
    u = np.cross(d, [0, 0, 1.0])
    u /= np.linalg.norm(u)
    v = np.cross(d, u)
    nodes, weights = np.polynomial.legendre.leggauss(12)
    low, high = across / 2 - wall, across / 2
    turn = np.linspace(0, 2 * math.pi, 4000, endpoint=False)
    total = 0.0
    for n, w in zip(nodes, weights):
        r = (low + high) / 2 + n * wall / 2
        q = a + r * (np.outer(np.cos(turn), u) + np.outer(np.sin(turn), v))
        square, half, rest = d[:2] @ d[:2], q[:, :2] @ d[:2], (q[:, :2] ** 2).sum(axis=1) - radius**2
        station = (np.sqrt(half**2 - square * rest) - half) / square
        total += (long - station).mean() * 2 * math.pi * r * w * wall / 2
    return total


def test_what_is_coped_to_a_round_ends_in_its_cylinder(tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(COPED)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "-o", out, codes=(0, 1))
    volumes, kinds = bodies(out)
    assert "(in facets)" not in out.read_text() and kinds == {"Plane", "Cylinder"}
    for volume, told in [
        (volumes[1], coped((0, 0, 450), (500, 200, 600), 33.7, 2.6, 30.15)),
        (volumes[2], coped((0, 0, 250), (-400, 250, 50), 42.4, 3.2, 30.15)),
        (volumes[4], coped((0, 0, 700), (-500, 100, 800), 60.3, 4, 30.15)),
    ]:
        assert abs(volume / told - 1) < 1e-6, (volume, told)


# Bars that come upon the corner of a solid flat, aslant, and one whose end two planes make.
CORNERED = """job "x", in mm, by DIN 6935

frame F-1 "cornered", of FLAT 40x40, material s235, corners mitred
  node A 0, 0, 0
  node B 900 up from A
  node E between A and B, 450 along
  node D 500 east, 600 up from A
  node G between A and B, 250 along
  node H 400 north, 50 up from A
  post A B, turned 45
  arm D E, CHS 21.3x2
  arm G H, CHS 33.7x2.6

frame F-2 "two cuts", of CHS 60.3x4, material s235, corners mitred
  node A 0, 0, 0
  node B 600 east from A
  rail A B
  node P 560 east, 3 north from A
  node Q 560 east, 3 north, 100 up from A
  node R 500 east, 100 north from A
  node S 530 east, 100 south from A
  trim rail-1 end by nodes P Q R
  trim rail-1 end by nodes P Q S
"""


def ring(start, end, across, wall):
    """Places over the section of a tube (Gauss and Legendre across the wall, equal steps round) with their
    shares of its area, and its way."""
    a, b = np.array(start, float), np.array(end, float)
    d = (b - a) / np.linalg.norm(b - a)
    u = np.cross(d, [0.0, 0.3, 1.0])
    u /= np.linalg.norm(u)
    v = np.cross(d, u)
    nodes, weights = np.polynomial.legendre.leggauss(12)
    turn = np.linspace(0, 2 * math.pi, 40000, endpoint=False)
    round_ = np.outer(np.cos(turn), u) + np.outer(np.sin(turn), v)
    for n, w in zip(nodes, weights):
        r = (across - wall) / 2 + n * wall / 2
        yield a + r * round_, 2 * math.pi * r * w * wall / 2 / len(turn), d


def test_what_is_coped_to_a_corner_ends_in_planes(tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(CORNERED)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "--frame", "F-1", "-o", out, codes=(0, 1))
    assert "(in facets)" not in out.read_text()
    # The post's corners as the kernel has them, seen from above.
    gmsh.model.add("post")
    solids = gmsh.model.occ.importShapes(str(out))
    gmsh.model.occ.synchronize()
    volumes = [gmsh.model.occ.getMass(*s) for s in solids]
    tips = gmsh.model.getBoundary([solids[0]], recursive=True, combined=False)
    plan = np.array(sorted({tuple(np.round(gmsh.model.getValue(0, t, [])[:2], 9)) for _, t in tips}))
    gmsh.model.remove()
    assert len(plan) == 4
    order = np.argsort(np.arctan2(plan[:, 1], plan[:, 0]))
    plan = plan[order]

    def from_post(start, end, across, wall):
        """From the post's axis out: along each line to the far side of a convex plan, solved and added up."""
        long = np.linalg.norm(np.array(end, float) - np.array(start, float))
        total = 0.0
        for q, share, d in ring(start, end, across, wall):
            station = np.full(len(q), np.inf)
            for p, r in zip(plan, np.roll(plan, -1, axis=0)):
                n = np.array([r[1] - p[1], p[0] - r[0]])
                on = d[:2] @ n
                if on > 1e-9:
                    station = np.minimum(station, ((p - q[:, :2]) @ n) / on)
            total += (long - station).sum() * share
        return total

    told = [
        from_post((0, 0, 450), (500, 0, 600), 21.3, 2),
        from_post((0, 0, 250), (0, 400, 50), 33.7, 2.6),
    ]
    for volume, told in zip(volumes[1:], told):
        assert abs(volume / told - 1) < 1e-6, (volume, told)


def test_an_end_of_two_cuts(tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(CORNERED)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "--frame", "F-2", "-o", out, codes=(0, 1))
    assert "(in facets)" not in out.read_text()
    [volume], kinds = bodies(out)
    told = 0.0
    for q, share, _ in ring((0, 0, 0), (600, 0, 0), 60.3, 4):
        y = q[:, 1] - 3
        told += np.minimum(560 - 60 / 97 * y, 560 + 30 / 103 * y).sum() * share
    assert abs(volume / told - 1) < 1e-6, (volume, told)


NOTCHED = """job "x", in mm, by DIN 6935

frame F-1 "square", of SHS 60x60x4, material s235, corners mitred
  node A 0, 0, 0
  node B 900 east from A
  rail A B
  notch rail-1 end 12 x 80, both walls
  notch rail-1 end 30 x 40, top face
  notch rail-1 start 20 x 30, left face
  hole ⌀11 on rail-1, 300 from its start, top face

frame F-2 "round", of CHS 60.3x4, material s235, corners mitred
  node A 0, 0, 0
  node B 900 east from A
  rail A B
  notch rail-1 end 12 x 80, both walls

frame F-3 "angle", of L 60x60x6, material s235, corners mitred
  node A 0, 0, 0
  node B 900 east from A
  rail A B
  notch rail-1 end 20 x 50, left face
"""


def test_notches_in_square_ends(tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(NOTCHED)

    def volume(frame):
        out = tmp_path / f"{frame}.step"
        run("export", source, "--as", "frame-step", "--frame", frame, "-o", out, codes=(0, 1))
        assert "(in facets)" not in out.read_text()
        return bodies(out)[0][0]

    def without(frame):
        """The same bar as it is bought."""
        plain = tmp_path / "plain.txt"
        plain.write_text("\n".join(l for l in NOTCHED.splitlines() if "notch" not in l and "hole" not in l))
        out = tmp_path / "plain.step"
        run("export", plain, "--as", "frame-step", "--frame", frame, "-o", out, codes=(0, 1))
        return bodies(out)[0][0]

    top = 12 * 80 + 30 * 40 - 12 * 40
    square = 4 * (top + 12 * 80 + 20 * 30 + math.pi * 5.5**2)
    assert abs(without("F-1") - volume("F-1") - square) < 1e-3

    def strip(r):
        return r * r * math.asin(6 / r) + 6 * math.sqrt(r * r - 36)

    assert abs(without("F-2") - volume("F-2") - 2 * 80 * (strip(30.15) - strip(26.15))) < 1e-3
    assert abs(volume("F-3") * 7850e-9 / mass_of(source, "F-3") - 1) < 1e-8


# A mitre stands out 30 mm below and stands back 30 mm above, from the middle that notches are measured at.
SLANTING = """job "x", in mm, by DIN 6935

frame F-1 "mitred", of SHS 60x60x4, material s235, corners mitred
  node A 0, 0, 0
  node B 900 east from A
  node C 600 up from B
  rail A B
  post B C
"""


@pytest.mark.parametrize(
    ("notches", "told"),
    [
        (["12 x 80, top face"], 12 * 4 * (80 - 28)),
        (["12 x 80, bottom face"], 12 * 4 * (80 + 28)),
        (["12 x 80, both walls"], 2 * 12 * 4 * 80),
        (["10 x 50, left face"], 10 * 4 * 50),
        # The wall begins 26 to 30 mm further in than the middle: only its inner edge is reached.
        (["12 x 28, top face"], 12 * 2 * 2 / 2),
        (["12 x 80, top face", "30 x 60, top face"], 12 * 4 * 52 + 18 * 4 * 32),
    ],
)
def test_notches_in_slanting_ends(notches, told, tmp_path):
    source = tmp_path / "job.txt"
    out = tmp_path / "frame.step"

    def volumes(lines):
        source.write_text(SLANTING + "".join(f"  notch rail-1 end {n}\n" for n in lines))
        run("export", source, "--as", "frame-step", "-o", out, codes=(0, 1))
        return bodies(out)[0]

    whole, cut = volumes([]), volumes(notches)
    # Where a notch ends within the slant, the file is in facets; the figure is exact.
    exact = "(in facets)" not in out.read_text()
    assert exact or notches == ["12 x 28, top face"]
    assert not exact or abs(whole[0] - cut[0] - told) < 1e-3, whole[0] - cut[0]
    assert abs(whole[1] - cut[1]) < 1e-3
    lost = whole[0] + whole[1] - mass_of(source, "F-1") / 7850e-9
    assert abs(lost - told) < 1e-3, lost


DRILLED = """job "x", in mm, by DIN 6935

frame F-1 "drilled", of CHS 60.3x4, material s235, corners mitred
  node A 0, 0, 0
  node B 900 up from A
  post A B
  hole ⌀11 on post-1, 300 from its start, top face, 3 x 60
  hole ⌀14 on post-1, 150 from its start, left face, slot 30 long, both walls
  hole ⌀9 on post-1, 600 from its start, right face, both walls
"""


def through_wall(across, wall, diameter, long=0.0):
    """Metal that a hole or slot takes of a round wall, added up over its width (Gauss and Legendre)."""
    nodes, weights = np.polynomial.legendre.leggauss(200)
    turn = nodes * math.pi / 2
    u = diameter / 2 * np.sin(turn)
    deep = np.sqrt(across**2 / 4 - u**2) - np.sqrt((across / 2 - wall) ** 2 - u**2)
    run_of = 2 * np.sqrt((diameter / 2) ** 2 - u**2) + max(long - diameter, 0)
    return (weights * deep * run_of * diameter / 2 * np.cos(turn)).sum() * math.pi / 2


def test_holes_through_a_round_wall(tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(DRILLED)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "-o", out, codes=(0, 1))
    assert "(in facets)" not in out.read_text()
    [volume], kinds = bodies(out)
    high, low = 30.15, 26.15

    def taken(diameter, long=0.0):
        return through_wall(60.3, 4, diameter, long)

    told = math.pi * (high**2 - low**2) * 900 - 3 * taken(11) - 2 * taken(14, 30) - 2 * taken(9)
    assert abs(volume / told - 1) < 1e-8, (volume, told)
    assert kinds == {"Plane", "Cylinder"}


# Mouths, blind ends and ledges in flat walls; drilled again in a mirrored copy.
SUNK = """job "x", in mm, by DIN 6935

frame F-1 "sunk", of FLAT 60x20, material s235, corners mitred
  node A 0, 0, 0
  node B 400 east from A
  bar A B
  countersunk hole ⌀9, head ⌀18 at 90° on bar-1, 60 from its start
  blind hole ⌀8, 10 deep, 118° point on bar-1, 120 from its start, 4 off the middle
  blind hole ⌀10, 12 deep, flat bottom on bar-1, 180 from its start
  counterbored hole ⌀9, bore ⌀15, 7 deep on bar-1, 240 from its start
  node C 0, 500, 0
  node D 300 east, 400 north from C
  bar C D, SHS 60x60x4
  countersunk hole ⌀7, head ⌀12 at 90° on bar-2, 100 from its start, left face
  mirror bar-2 across north at 700
"""


def test_mouths_and_blind_holes_in_flat_walls(tmp_path):
    """What they take by hand: cylinders, cones and their frusta."""
    source = tmp_path / "job.txt"
    source.write_text(SUNK)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "-o", out, codes=(0, 1))
    assert "(in facets)" not in out.read_text()
    volumes, kinds = bodies(out)
    assert kinds == {"Plane", "Cylinder", "Cone"}

    def frustum(d, e, high):
        return math.pi / 12 * high * (d * d + d * e + e * e)

    def drill(d, deep):
        return math.pi / 4 * d * d * deep

    taken = frustum(18, 9, 4.5) + drill(9, 55.5)
    taken += drill(8, 10) + frustum(8, 0, 4 / math.tan(math.radians(59)))
    taken += drill(10, 12) + drill(15, 7) + drill(9, 53)
    assert abs(volumes[0] / (60 * 20 * 400 - taken) - 1) < 1e-9
    assert abs(volumes[1] - volumes[2]) < 1e-3
    whole = tmp_path / "whole.txt"
    whole.write_text("\n".join(l for l in SUNK.splitlines() if "countersunk hole ⌀7" not in l))
    run("export", whole, "--as", "frame-step", "-o", out, codes=(0, 1))
    plain, _ = bodies(out)
    for k in [1, 2]:
        assert abs(plain[k] - volumes[k] - frustum(12, 7, 2.5) - drill(7, 1.5)) < 1e-3
    assert abs(sum(volumes) * 7850e-9 / mass_of(source, "F-1") - 1) < 1e-8


# Drilled along the straights of a bent bar, round and square, at ends cut aslant.
BENT_AND_DRILLED = """job "x", in mm, by DIN 6935

frame F-1 "round", of CHS 48.3x3.2, material s235, corners mitred
  node A 0, 0, 0
  node B 500 east from A
  node C 500 north, 200 up from B
  pipe A B C bent 150
  hole ⌀11 on pipe-1, 120 from its start, top face, both walls
  hole ⌀9 on pipe-1, 800 from its start, left face

frame F-2 "square", of SHS 40x40x3, material s235, corners mitred
  node A 0, 0, 0
  node B 500 east from A
  node C 500 north, 200 up from B
  pipe A B C bent 150, turned 30
  hole ⌀11 on pipe-1, 120 from its start, top face, 2 x 50
  countersunk hole ⌀7, head ⌀9 at 90° on pipe-1, 800 from its start, left face
"""


@pytest.mark.parametrize(
    ("frame", "taken"),
    [
        ("F-1", None),
        ("F-2", 2 * 3 * math.pi / 4 * 11**2 + math.pi / 12 * (81 + 63 + 49) + 2 * math.pi / 4 * 49),
    ],
)
def test_bent_bars_are_drilled_along_their_straights(frame, taken, tmp_path):
    source = tmp_path / "job.txt"
    out = tmp_path / "frame.step"
    volumes = []
    for lines in [BENT_AND_DRILLED, "\n".join(l for l in BENT_AND_DRILLED.splitlines() if "hole" not in l)]:
        source.write_text(lines)
        run("export", source, "--as", "frame-step", "--frame", frame, "-o", out, codes=(0, 1))
        assert "(in facets)" not in out.read_text()
        volumes.append(bodies(out)[0][0])
    if taken is None:
        taken = 2 * through_wall(48.3, 3.2, 11) + through_wall(48.3, 3.2, 9)
    assert abs(volumes[1] - volumes[0] - taken) < 1e-3


# Round, square, turned about its line, an angle both ways; bends one after the other in space.
BENT = """job "x", in mm, by DIN 6935

frame F-1 "round", of CHS 48.3x3.2, material s235, corners mitred
  node A 0, 0, 0
  node B 600 east from A
  node C 400 north from B
  pipe A B C bent 150

frame F-2 "square", of SHS 40x40x3, material s235, corners mitred
  node A 0, 0, 0
  node B 600 east, 100 up from A
  node C 400 north, 200 up from B
  node D 500 up from C
  node E 500 west from D
  pipe A B C D bent 120
  rail D E

frame F-3 "turned", of SHS 40x40x3, material s235, corners mitred
  node A 0, 0, 0
  node B 600 east from A
  node C 400 north from B
  pipe A B C bent 120, turned 30

frame F-4 "angle", of L 50x50x5, material s235, corners mitred
  node A 0, 0, 0
  node B 600 east from A
  node C 400 south from B
  pipe A B C bent 200

frame F-6 "ring", of CHS 48.3x3.2, material s235, corners mitred
  node A 0, 0, 0
  node B 300 east, 300 north from A
  node C 600 east from A
  hoop A B C arc closed

frame F-5 "lies where it is told", of SHS 40x40x3, material s235, corners mitred
  node A 100, 50, 20
  node B 600 east from A
  rail A B
"""


@pytest.mark.parametrize("frame", ["F-1", "F-2", "F-3", "F-4", "F-5", "F-6"])
def test_bent_bars_are_tori_and_cones_where_they_are_told(frame, tmp_path):
    """What a section sweeps round a bend is its area times the way of its middle (Pappus)."""
    source = tmp_path / "job.txt"
    source.write_text(BENT)
    out = tmp_path / "bent.step"
    run("export", source, "--as", "frame-step", "--frame", frame, "-o", out, codes=(0, 1))
    assert "(in facets)" not in out.read_text()
    mass = mass_of(source, frame)
    volumes, kinds = bodies(out)
    assert abs(sum(volumes) * 7850e-9 / mass - 1) < 1e-8, (sum(volumes) * 7850e-9, mass)
    assert ("Torus" in kinds) == (frame != "F-5") and ("Cone" in kinds) == (frame in ("F-2", "F-3"))
    if frame == "F-5":
        box = read(out)[3]
        assert max(abs(a - b) for a, b in zip(box, (100, 30, 0, 700, 70, 40))) < 1e-6, box


def test_the_frame_of_the_sample_as_its_figure(tmp_path):
    out = tmp_path / "frame.step"
    run("export", DEMO, "--as", "frame-step", "-o", out, codes=(0, 1))
    volumes, _ = bodies(out)
    told = json.loads(run("evaluate", "--json", DEMO, codes=(0, 1)).stdout)
    mass = next(x["value"] for x in told["frames"][0]["figures"] if x["key"] == "mass")
    assert abs(sum(volumes) * 7850e-9 / mass - 1) < 1e-6


# Chutes whose sides are bent to flanges, with their rings, one of them in a mirror too, and a bin of plates with
# bevelled edges.
CHUTES = """job "x", in mm, by K 0.5

frame F-1 "feed chute", of SHS 40x40x3, material s235, butted
  hopper 300 x 250 to 500 x 400 outside, 400 high, 4 thick, rising to 520 north, flush north, 30 east
  rim hopper-1 top, 60 wide, mitred 2, holes 14, 5 a side, 35 from root, counter-flange 8
  rim hopper-1 bottom, 40 wide, inward, mitred 3
  mirror hopper-1 across east at 900

frame F-2 "cap", of SHS 40x40x3, material s235, butted
  hopper 700 x 500 to 300 x 200, 250 high, 3 thick, 80 east, 40 south
  rim hopper-1 top south and north, 30 wide, at 100°, set back 12, holes 7, every 60
  rim hopper-1 bottom, 45 wide, holes 9, every 120, 20 from tip, counter-flange 5

frame F-3 "thick bin, mitred, with angles round it", of SHS 40x40x3, material s235, butted
  hopper 260 x 220 to 620 x 480, 420 high, 12 thick, rising to 540 north, 40 east, mitred
  stiffen hopper-1 at 240, of L 60x40x5, leg down

frame F-4 "mitred bin with flanges, its bends in facets", of SHS 40x40x3, material s235, butted
  hopper 250 x 220 to 600 x 480, 400 high, 5 thick, rising to 500 north, 40 east, mitred
  rim hopper-1 top, 60 wide, mitred 2, holes 14, 5 a side, 38 from root, counter-flange 8
  rim hopper-1 bottom, 60 wide, inward, mitred 3
"""


CHUTE_PARTS = [("F-1", 10, 5, 1e-6), ("F-2", 5, 5, 1e-6), ("F-3", 8, 8, 1e-6), ("F-4", 5, 5, 2e-4)]


@pytest.mark.parametrize("frame, parts, each, near", CHUTE_PARTS)
def test_chutes_are_as_heavy_as_their_list_and_none_of_their_plates_cross(frame, parts, each, near, tmp_path):
    source = tmp_path / "job.txt"
    source.write_text(CHUTES)
    out = tmp_path / "frame.step"
    run("export", source, "--as", "frame-step", "--frame", frame, "-o", out, codes=(0, 1))
    occ = gmsh.model.occ
    gmsh.model.add("chute")
    solids = occ.importShapes(str(out))
    occ.synchronize()
    assert len(solids) == parts
    volumes = [occ.getMass(*s) for s in solids]
    assert {"Plane", "Cylinder"} <= {gmsh.model.getType(*f) for f in gmsh.model.getEntities(2)}
    mass = mass_of(source, frame)
    assert abs(sum(volumes) * 7850e-9 / mass - 1) < near, (sum(volumes) * 7850e-9, mass)
    # What two plates share has no volume, though their corners touch and the ring lies on its flanges.
    one = solids[:each]
    for i, a in enumerate(one):
        for b in one[i + 1 :]:
            shared, _ = occ.intersect([a], [b], removeObject=False, removeTool=False)
            common = sum(occ.getMass(*s) for s in shared if s[0] == 3)
            assert common < 1e-3, (a, b, common)
    gmsh.model.remove()
