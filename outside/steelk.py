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


def weights(job):
    """Of each piece by its mark: thickness in millimetres."""
    told = json.loads(run("evaluate", "--json", job, codes=(0, 1)).stdout)
    return {p["mark"]: {"thickness": p["thickness"]} for p in told["pieces"] if p["made"]}


def frames(job):
    """Mass of each frame by its mark."""
    told = json.loads(run("evaluate", "--json", job, codes=(0, 1)).stdout)
    return {f["mark"]: next(g["value"] for g in f["figures"] if g["key"] == "mass") for f in told["frames"] if f["made"]}
