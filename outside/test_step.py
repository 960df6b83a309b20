"""STEP files as an independent kernel reads them (Open CASCADE, in gmsh): one solid each, as heavy and as large outside as
the figures tell."""

import json
import math

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
    """Volume, surface and kinds of faces of the only solid in a file."""
    gmsh.model.add("part")
    solids = gmsh.model.occ.importShapes(str(file))
    gmsh.model.occ.synchronize()
    assert [d for d, _ in solids] == [3], solids
    volume = gmsh.model.occ.getMass(*solids[0])
    faces = gmsh.model.getEntities(2)
    surface = sum(gmsh.model.occ.getMass(*f) for f in faces)
    kinds = [gmsh.model.getType(*f) for f in faces]
    gmsh.model.remove()
    return volume, surface, kinds


MARKS = [p["mark"] for p in JOB["pieces"]]


@pytest.mark.parametrize("mark", MARKS)
def test_one_solid_as_the_figures_tell(mark, job, tmp_path):
    file, told = job
    out = tmp_path / "piece.step"
    done = run("export", file, "--as", "step", "--part", mark, "-o", out, codes=(0, 1, 2))
    if done.returncode == 2:
        assert "holes" in done.stderr.decode(), done.stderr
        return
    volume, surface, kinds = read(out)
    piece = told[mark]
    figures = {f["key"]: f["value"] for f in piece["figures"]}
    t = piece["thickness"]
    # Of drilled holes area and length of cut tell what goes through alone.
    if mark != "P-112":
        assert abs(volume / (figures["area"] * t) - 1) < 1e-6, (volume, figures["area"] * t)
        outside = 2 * figures["area"] + figures["cut_length"] * t
        assert abs(surface / outside - 1) < 1e-6, (surface, outside)
    assert set(kinds) <= {"Plane", "Cylinder", "Cone", "BSpline surface"}, set(kinds)
    if mark in ("P-101", "P-107"):
        assert "BSpline surface" not in kinds and "Cylinder" in kinds


def test_drilled_holes_are_cones_and_cylinders(job, tmp_path):
    """The foot plate: what its drills take away is what its mass tells, by the density of its steel."""
    file, told = job
    out = tmp_path / "foot.step"
    run("export", file, "--as", "step", "--part", "P-112", "-o", out, codes=(0, 1))
    volume, _, kinds = read(out)
    mass = next(f["value"] for f in told["P-112"]["figures"] if f["key"] == "mass")
    assert abs(volume * 7850e-9 / mass - 1) < 1e-6, (volume * 7850e-9, mass)
    assert kinds.count("Cone") >= 4 and math.isclose(told["P-112"]["thickness"], 20)
