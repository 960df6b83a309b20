"""Steelk's command line for the checks from outside."""

import json
import os
import pathlib
import subprocess

ROOT = pathlib.Path(__file__).resolve().parent.parent
BINARY = os.environ.get("STEELK", str(ROOT / "target/debug/steelk"))
DEMO = next((ROOT / "demo").glob("*.steelk.json"))


def run(*args, codes=(0,)):
    done = subprocess.run([BINARY, *map(str, args)], capture_output=True)
    assert done.returncode in codes, (args, done.returncode, done.stderr.decode())
    return done


def figures(job):
    """Of each piece by its mark: key of a figure to its value."""
    told = json.loads(run("evaluate", "--json", job, codes=(0, 1)).stdout)
    return {p["mark"]: {f["key"]: f["value"] for f in p["figures"]} for p in told["pieces"] if p["made"]}


# kg/mm³: EN 1993-1-1 (steel), EN 10088-1 (1.4301), the aluminium association's data (6061);
# plywood by common practice, 600 to 700.
DENSITIES = {"s235": 7.85e-6, "dc01": 7.85e-6, "1.4301": 7.9e-6, "6061-t6": 2.7e-6, "plywood": 0.65e-6, "polyester": 1.39e-6}


def densities(job):
    """Of each piece by its mark: kg/mm³, by its material and not by its figures."""
    return {p["mark"]: DENSITIES[p["material"]] for p in json.loads(job.read_text())["pieces"]}


def frames(job):
    """Mass of each frame by its mark."""
    told = json.loads(run("evaluate", "--json", job, codes=(0, 1)).stdout)
    return {f["mark"]: next(g["value"] for g in f["figures"] if g["key"] == "mass") for f in told["frames"] if f["made"]}
