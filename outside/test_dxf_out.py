"""DXF files as a strict reader sees them (ezdxf): nothing to repair, and the metal that the figures tell."""

import json
import math
import re

import ezdxf
import pytest
from ezdxf import path
from ezdxf.math import area

from steelk import DEMO, figures, run

FIGURES = figures(DEMO)


def enclosed(entity):
    """Area of a closed entity: exact for a circle, else of its flattened path."""
    if entity.dxftype() == "CIRCLE":
        return math.pi * entity.dxf.radius**2
    return abs(area(list(path.make_path(entity).flattening(0.0005))))


@pytest.mark.parametrize("mark", sorted(FIGURES))
def test_nothing_to_repair_and_the_area_told(mark, tmp_path):
    file = tmp_path / "piece.dxf"
    run("export", DEMO, "--as", "dxf", "--part", mark, "-o", file, codes=(0, 1))
    doc = ezdxf.readfile(file)
    audit = doc.audit()
    assert not audit.errors and not audit.fixes, [str(e) for e in audit.errors + audit.fixes]
    assert doc.dxfversion == "AC1015" and doc.encoding == "cp1252"
    assert len({e.dxf.handle for e in doc.entitydb.values()}) == len(doc.entitydb)
    space = doc.modelspace()
    areas = sorted((enclosed(e) for e in space.query('*[layer=="CUT"]')), reverse=True)
    left = areas[0] - sum(areas[1:])
    unit = {4: 1.0, 1: 25.4}[doc.units]
    told = FIGURES[mark]["area"]
    assert abs(left * unit**2 - told) < 2e-4 * told + 0.01, (left, told)
    # Every bend says its angle and radius, in a text that stands on no other.
    bends = {e.dxf.layer for e in space.query("LINE")} & {"BEND_UP", "BEND_DOWN"}
    texts = [e for e in space.query("TEXT")]
    said = [e.dxf.text for e in texts]
    assert not bends or any((s.startswith("BEND") and "R" in s) or s.startswith("CREASE") for s in said), said
    boxes = [box(e) for e in texts]
    for i, a in enumerate(boxes):
        for b in boxes[:i]:
            assert not overlap(a, b), (texts[i].dxf.text, [t.dxf.text for t in texts])


@pytest.mark.parametrize("paper", ["A4", "Tabloid"])
def test_drawings_are_sound_and_stand_on_their_sheets(paper, tmp_path):
    """Dimensioned drawings of a piece and of the frame: nothing to repair, dashed what is hidden, every line on a sheet."""
    wide, tall = {"A4": (297.0, 210.0), "Tabloid": (431.8, 279.4)}[paper]
    for kind, part in [("drawing", ["--part", "P-109"]), ("frame-drawing", ["--frame", "F-1"])]:
        file = tmp_path / f"{kind}.dxf"
        run("export", DEMO, "--as", f"{kind}-dxf", *part, "--paper", paper, "-o", file, codes=(0, 1))
        doc = ezdxf.readfile(file)
        audit = doc.audit()
        assert not audit.errors and not audit.fixes, [str(e) for e in audit.errors + audit.fixes]
        assert doc.units == 4
        assert doc.layers.get("HIDDEN").dxf.linetype == "HIDDEN"
        assert doc.linetypes.get("HIDDEN").pattern_tags.tags[2].value == pytest.approx(3.0)
        space = doc.modelspace()
        hidden = space.query('LWPOLYLINE[layer=="HIDDEN"]')
        assert len(space.query('LWPOLYLINE[layer=="EDGES"]')) > 20
        # Where the piece is drawn in section, next to nothing is left to be dashed.
        texts = [t.dxf.text for t in space.query("TEXT")]
        cut = any(t.startswith("section A") for t in texts)
        assert len(hidden) > 3 if kind == "frame-drawing" else cut, texts
        for e in space.query("LWPOLYLINE"):
            for x, y in e.vertices():
                beside = x % (wide + 20.0)
                assert -1e-6 < y < tall + 1e-6 and beside < wide + 1e-6, (kind, x, y)
        said = {e.dxf.text for e in space.query("TEXT")}
        assert {"P-109", "400", "300"} <= said or {"F-1", "1450.0 mm"} <= said, sorted(said)


def test_the_skins_of_tubes(tmp_path):
    """Each tube of the demo's frames: sound, no bend lines, its edges marked; a solid bar is refused with what it is."""
    job = json.loads(DEMO.read_text())
    sound, refused = 0, 0
    for frame in job["frames"]:
        list_of = run("export", DEMO, "--as", "saw-list", "--frame", frame["mark"], codes=(0, 1)).stdout.decode("utf-8-sig")
        marks = sorted(set(re.findall(rf"{re.escape(frame['mark'])}/\d+", list_of)))
        for mark in marks:
            file = tmp_path / "skin.dxf"
            done = run("export", DEMO, "--as", "tube-dxf", "--frame", frame["mark"], "--part", mark, "-o", file, codes=(0, 1, 2))
            if done.returncode == 2:
                assert "no wall to lay flat" in done.stderr.decode() or "is bent" in done.stderr.decode(), done.stderr
                refused += 1
                continue
            doc = ezdxf.readfile(file)
            audit = doc.audit()
            assert not audit.errors and not audit.fixes
            space = doc.modelspace()
            assert not space.query('*[layer=="BEND_UP"]') and space.query('LINE[layer=="MARKS"]')
            words = {e.dxf.text for e in space.query("TEXT")}
            assert {"START", "END", "TOP", "BOTTOM"} <= words, words
            sound += 1
    assert sound > 3, (sound, refused)


def box(text):
    """Corners of a text, letters three quarters as wide as high."""
    height, turn = text.dxf.height, math.radians(text.dxf.rotation)
    width = 0.75 * height * len(text.dxf.text.replace("%%d", "°"))
    x, y, _ = text.dxf.insert
    along, up = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    return [(x + along[0] * w + up[0] * h, y + along[1] * w + up[1] * h) for w, h in ((0, 0), (width, 0), (width, height), (0, height))]


def overlap(a, b):
    for shape in (a, b):
        for (x0, y0), (x1, y1) in zip(shape, shape[1:] + shape[:1]):
            nx, ny = y1 - y0, x0 - x1
            pa, pb = [x * nx + y * ny for x, y in a], [x * nx + y * ny for x, y in b]
            if max(pa) <= min(pb) + 1e-9 or max(pb) <= min(pa) + 1e-9:
                return False
    return True
