"""Twenty wheels by chance, and what a Hall sensor makes of each, with arithmetic of its own: argument 1 is a folder for
the captures; each line printed is FILE|WHEEL, the wheel as its line or as the steps between its teeth in degrees."""
import random
import sys

import numpy as np
from scipy.integrate import solve_ivp

chance = random.Random(20261130)
RATE_HZ, SECONDS = 50_000, 1.4

for number in range(20):
    uneven = number % 4 == 3
    if uneven:  # angles of leading edges, no two alike steps
        count = chance.randint(3, 6)
        while True:
            cuts = sorted(chance.uniform(0, 360) for _ in range(count))
            steps = [(b - a) % 360 for a, b in zip(cuts, cuts[1:] + cuts[:1])]
            if min(steps) > 25 and min(abs(a - b) for i, a in enumerate(steps) for b in steps[:i]) > 12:
                break
        said = ",".join(f"{s:.3f}" for s in steps)
        width = 8.0
        rpm, ripple = chance.uniform(700, 1500), 0.01
    elif number % 4 == 2:
        places = chance.randint(8, 40)
        cuts = [i * 360 / places for i in range(places)] + [(places - 0.5) * 360 / places]
        said, width = f"{places}+1", 90 / places
        rpm, ripple = chance.uniform(180, 260), chance.uniform(0, 0.15)
    else:
        places, missing = chance.randint(12, 72), chance.randint(1, 3)
        cuts = [i * 360 / places for i in range(places - missing)]
        said, width = f"{places}-{missing}", 180 / places
        rpm, ripple = chance.uniform(150, 300), chance.uniform(0, 0.35 if places >= 30 else 0.2)
    cylinders = chance.choice([3, 4, 5, 6, 8])
    phase = chance.uniform(0, 360)
    mean = rpm * 6  # degrees a second
    t = np.arange(0, SECONDS, 1 / RATE_HZ)
    turned = solve_ivp(lambda _, a: mean * (1 + ripple * np.cos(np.radians(a * cylinders / 2))), (0, SECONDS), [0.0],
                       t_eval=t, rtol=1e-9, atol=1e-9, max_step=1e-2).y[0]
    angle = (turned + phase) % 360
    low = np.zeros(len(t), dtype=bool)
    for cut in cuts:
        low |= ((angle - cut) % 360) < width
    volts = np.where(low, 0.2, 5.0) + np.random.default_rng(number).normal(0, 0.05, len(t))
    file = f"{sys.argv[1]}/wheel{number}.csv"
    with open(file, "w", encoding="ascii") as out:
        out.write("time,crank\n")
        np.savetxt(out, np.column_stack([t, volts]), fmt=["%.6f", "%.4f"], delimiter=",")
    print(f"{file}|{said}")
