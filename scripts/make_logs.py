#!/usr/bin/env python3
"""Makes the two logs of the demo car that data/logs holds: an evening's drive before and after two things are mended.

    scripts/make_logs.py data/logs

Before, charge pressure goes beyond what the manifold sensor reads, and the fan's current returns over the ground that
the sensors share (20 mV), which moves manifold pressure and the temperatures. After, the sensor reads further and the
fan has a ground of its own. Everything is invented.
"""
import csv
import math
import random
import sys

RATE = 20  # rows a second
LONG = 300  # seconds
FAN_MV = 20
GEARS = [None, 13.0, 8.2, 5.7, 4.3, 3.5]  # engine turns a second for m/s, times ten


def throttle_at(t):
    """Share of the stroke: idle, town, three pulls in third, traffic."""
    for start in (120, 160, 200):
        if start <= t < start + 9:
            return 1.0
    if t < 30 or t > 270:
        return 0.0
    return max(0.0, 0.16 + 0.12 * math.sin(t / 4.1) + 0.05 * math.sin(t / 1.3))


def drive(after, seed):
    chance = random.Random(seed)
    rpm, throttle, clt, oil, box, iat = 900.0, 0.0, 82.0, 78.0, 58.0, 31.0
    fan = 0
    for i in range(LONG * RATE):
        t = i / RATE
        want = throttle_at(t)
        throttle += (want - throttle) * 0.35
        pull = want == 1.0
        gear = 0 if t < 30 or t > 270 else 3
        begun = next((s for s in (120, 160, 200) if s <= t < s + 9), None)
        if pull:
            rpm = 2500 + (6600 - 2500) * min(1.0, (t - begun) / 8.5) ** 0.9
        elif gear == 0:
            rpm += (900 - rpm) * 0.1 + chance.gauss(0, 6)
        else:
            rpm += (1900 + 4200 * throttle - rpm) * 0.04 + chance.gauss(0, 5)
        asked = 101.0 + (219.0 if pull else 60.0 * max(0.0, throttle - 0.4))
        spool = min(1.0, max(0.0, (rpm - 2300) / 1500)) if pull else 0.0
        true_map = (32 + 66 * min(1.0, 1.25 * throttle)) if not pull else 98 + (asked - 98) * spool
        true_map += chance.gauss(0, 0.5 + 0.6 * spool)
        clt += ((94 if fan == 0 else 86) - clt) * 0.0006
        if t % 40 > 22:
            fan = 1
        else:
            fan = 0
        oil += (96 - oil) * 0.00012 + (0.006 if pull else 0)
        box += ((74 if gear == 0 else 64) - box) * 0.0002
        iat += ((49 if pull else 33) - iat) * (0.004 if pull else 0.0015)
        lift_v = 0 if after else FAN_MV / 1000 * fan
        top = 398.0 if after else 300.0
        shown_map = true_map + lift_v / 4.0 * (400 if after else 300) + chance.gauss(0, 0.12)
        shown_map = min(shown_map, top) if shown_map < top else top
        # a thermistor behind 2490 Ohm near 85 degrees moves by about 42 mV a kelvin, falling
        clt_shown = clt - lift_v / 0.021 + chance.gauss(0, 0.05)
        oil_shown = oil - lift_v / 0.020 + chance.gauss(0, 0.05)
        correction = 0.4 + chance.gauss(0, 0.6) - (100 * (lift_v / 4.0 * 300) / max(shown_map, 20) if not pull else 0)
        lam = 1.0 + chance.gauss(0, 0.008) if not pull else 0.82 + chance.gauss(0, 0.006)
        speed = 0 if gear == 0 else rpm / 60 / GEARS[gear] * 10 * 0.9
        yield [
            f"{t:.2f}",
            f"{rpm:.0f}",
            f"{100 * throttle:.1f}",
            f"{shown_map:.1f}",
            f"{asked:.1f}",
            f"{lam:.3f}",
            f"{correction:.1f}",
            f"{clt_shown:.1f}",
            f"{iat + chance.gauss(0, 0.05):.1f}",
            f"{oil_shown:.1f}",
            f"{box + chance.gauss(0, 0.05):.1f}",
            f"{3.2 + rpm / 2600 + chance.gauss(0, 0.02):.2f}",
            f"{14.0 - 0.3 * fan + chance.gauss(0, 0.02):.2f}",
            f"{speed * 3.6:.1f}",
            str(gear),
            "ON" if fan else "OFF",
        ]


HEADER = [
    "Time (s)", "Engine speed (rpm)", "Throttle (%)", "Manifold pressure (kPa)", "Boost target (kPa)", "Wideband",
    "Closed loop correction (%)", "Coolant temp (°C)", "Intake air temp (°C)", "Oil temp (°C)", "Gearbox temp (°C)",
    "Oil pressure (bar)", "Battery voltage (V)", "Road speed (km/h)", "Gear", "Fan",
]


def main():
    for name, after, seed in (("petrel-before", False, 3), ("petrel-after", True, 4)):
        with open(f"{sys.argv[1]}/{name}.csv", "w", newline="", encoding="utf-8") as f:
            out = csv.writer(f)
            out.writerow(HEADER)
            out.writerows(drive(after, seed))


if __name__ == "__main__":
    main()
