"""Meshes as an independent library measures them (trimesh): closed, and as heavy as the figures say."""

import pytest
import trimesh

from steelk import DEMO, densities, figures, run

FIGURES = figures(DEMO)
DENSITIES = densities(DEMO)


@pytest.mark.parametrize("mark", sorted(FIGURES))
def test_a_piece_is_closed_and_weighs_what_its_figures_say(mark, tmp_path):
    volumes = []
    for kind in ("stl", "glb"):
        file = tmp_path / f"piece.{kind}"
        run("export", DEMO, "--as", kind, "--part", mark, "-o", file, codes=(0, 1))
        mesh = trimesh.load(file, force="mesh")
        assert mesh.is_watertight and mesh.is_winding_consistent, kind
        volumes.append(mesh.volume * (1 if kind == "stl" else 1e9))
    assert volumes[0] == pytest.approx(volumes[1], rel=1e-4)
    told = FIGURES[mark]
    formed = told.get("bent_mass", told["mass"])
    # Bends are chords within 0.05 mm, and a neutral line that is not in the middle makes bent metal a little more or less than flat.
    # Where the figures tell no mass as bent, it is within half a percent of the flat's.
    assert volumes[0] * DENSITIES[mark] == pytest.approx(formed, rel=0.003 if "bent_mass" in told else 0.006), (volumes, told["mass"])


def test_a_frame_is_bodies_with_names(tmp_path):
    from steelk import frames

    for mark, mass in frames(DEMO).items():
        stl, glb = tmp_path / "frame.stl", tmp_path / "frame.glb"
        run("export", DEMO, "--as", "frame-stl", "--frame", mark, "-o", stl, codes=(0, 1))
        run("export", DEMO, "--as", "frame-glb", "--frame", mark, "-o", glb, codes=(0, 1))
        # Bodies that touch are told apart: every edge has two sides.
        whole = trimesh.load(stl, force="mesh")
        assert whole.is_watertight, mark
        scene = trimesh.load(glb)
        names = list(scene.graph.nodes_geometry)
        assert len(names) > (0 if mark == "F-4" else 3) and all(n.startswith(f"{mark}/") or " " in n for n in names), names
        assert all(g.visual.material.name for g in scene.geometry.values())
        assert whole.volume == pytest.approx(scene.to_mesh().volume * 1e9, rel=1e-3)
        parts = [p for p in whole.split(only_watertight=False)]
        assert len(parts) == len(names) and all(p.is_watertight and p.volume > 0 for p in parts), (len(parts), len(names))
        # Each body by its material: what the list weighs.
        density = {"S235 steel": 7850, "Plywood": 650}
        bodies = [scene.geometry[scene.graph[name][1]] for name in names]
        weighed = sum(abs(b.volume) * density[b.visual.material.name] for b in bodies)
        assert weighed == pytest.approx(mass, rel=0.02), mark
