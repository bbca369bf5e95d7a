"""What a strip senses of a toothed wheel, by another way than one wave: the potential of a rim that is +1 over teeth and
-1 over slots, at a height above it (Poisson's integral of the half-plane, with every harmonic), averaged over what of the
strip has a wheel under it. Printed: how much farther a strip along the teeth, over their middle, swings as little.
Arguments, in mm and degrees: pitch gap wide long lies beside thick."""
import sys

import numpy as np
from scipy.optimize import brentq

pitch, gap, wide, long, lies, beside, thick = map(float, sys.argv[1:])
along = np.linspace(-0.5, 0.5, 401)


def field(x, height):
    """Of teeth from -pitch/4 to pitch/4 and so on: each an angle as seen from there."""
    total = np.zeros_like(x)
    for tooth in range(-400, 401):
        middle = tooth * pitch
        total += np.arctan((middle + pitch / 4 - x) / height) - np.arctan((middle - pitch / 4 - x) / height)
    return 2 * total / np.pi - 1


def swing(height, turned, off):
    a, b = np.meshgrid(along * wide, along * long)
    sine, cosine = np.sin(np.radians(turned)), np.cos(np.radians(turned))
    x, y = a * cosine + b * sine, -a * sine + b * cosine
    over = np.abs(y - off) <= (thick / 2 if thick > 0 else np.inf)
    weight = over.sum() / over.size
    if weight == 0:
        return 0.0
    counts, edges = np.histogram(x[over], bins=300)
    places = (edges[1:] + edges[:-1]) / 2
    grid = np.linspace(0, pitch, 2001)
    wave = field(grid, height)
    wave -= wave.mean()
    seen = [np.average(np.interp((places + shift) % pitch, grid, wave), weights=counts) for shift in
            np.linspace(0, pitch, 120, endpoint=False)]
    return weight * (max(seen) - min(seen)) / 2


here = swing(gap, lies, beside)
print(brentq(lambda more: swing(gap + more, 0, 0) - here, 0, 20) if here > 1e-6 else "inf")
