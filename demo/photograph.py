"""The made-up photograph that ships with the sample job: a gasket on a bench. Needs numpy and Pillow.

    python3 demo/photograph.py demo/pump-gasket.jpg

An oval gasket: bore 36, rim R30, ears R12 at 38 from the middle, their holes 11; 12 pixels a millimetre, turned by 7°.
"""

import sys

import numpy as np
from PIL import Image, ImageFilter

WIDE, HIGH, SCALE, TURN = 1500, 1100, 12.0, np.radians(7.0)
MIDDLE = np.array([742.0, 561.0])
random = np.random.default_rng(7)


def part(x, y):
    """Inside the gasket, in millimetres from its middle."""
    far, rim, ear = 38.0, 30.0, 12.0
    lean = np.arcsin((rim - ear) / far)
    ax, ay = np.abs(x), np.abs(y)
    flank = (np.sin(lean) * ax + np.cos(lean) * ay <= rim) & (ax >= rim * np.sin(lean)) & (ax <= far + ear * np.sin(lean))
    solid = (np.hypot(x, y) <= rim) | (np.hypot(ax - far, y) <= ear) | flank
    return solid & (np.hypot(x, y) > 18.0) & (np.hypot(ax - far, y) > 5.5)


def cover(shift=(0.0, 0.0), looks=4):
    out = np.zeros((HIGH, WIDE))
    for i in range(looks):
        for j in range(looks):
            px, py = np.meshgrid(np.arange(WIDE) + (i + 0.5) / looks, np.arange(HIGH) + (j + 0.5) / looks)
            dx, dy = (px - MIDDLE[0] - shift[0]) / SCALE, (py - MIDDLE[1] - shift[1]) / SCALE
            out += part(np.cos(TURN) * dx + np.sin(TURN) * dy, -np.sin(TURN) * dx + np.cos(TURN) * dy)
    return out / looks**2


def soft(a, radius):
    return np.asarray(Image.fromarray(np.clip(a * 255, 0, 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(radius))) / 255


def boards():
    """A bench of planks with a grain that runs along them."""
    y, x = np.mgrid[0:HIGH, 0:WIDE]
    grain = sum(random.uniform(0.3, 1) * np.sin(y / random.uniform(3, 19) + 2.5 * np.sin(x / random.uniform(180, 420)) + random.uniform(0, 6)) for _ in range(9))
    plank = 0.025 * np.sin(y // 370 * 2.3)
    joint = np.exp(-(((y % 370) - 4) / 2.0) ** 2)
    return 0.30 + 0.013 * grain + plank - 0.14 * joint


metal, shade = cover(), soft(cover((7, 10), 1), 6)
light = 1.06 - 0.22 * np.hypot((np.mgrid[0:HIGH, 0:WIDE][1] - 520) / 1500, (np.mgrid[0:HIGH, 0:WIDE][0] - 330) / 1100)
bench = boards() * (1 - 0.45 * shade)
fibre = 0.74 + 0.02 * soft(random.random((HIGH, WIDE)), 1.5)
grey = light * (bench * (1 - metal) + fibre * metal)
colours = np.stack([grey * (1.0 * metal + 1.12 * (1 - metal)), grey * (0.97 * metal + 0.93 * (1 - metal)), grey * (0.90 * metal + 0.72 * (1 - metal))], axis=-1)
colours = np.stack([soft(colours[..., k], 0.9) for k in range(3)], axis=-1) + random.normal(0, 0.012, (HIGH, WIDE, 1))
Image.fromarray(np.clip(colours * 255, 0, 255).astype(np.uint8)).save(sys.argv[1], quality=84)
