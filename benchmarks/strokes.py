#!/usr/bin/python3
"""Times the whole judgement of a ten-million-row stroke file against pandas, which only reads it, in turns, in one run.

Usage: strokes.py BIN_FOLDER. Prints both medians and their ratio; the target is under 2 s.
"""
import pathlib
import statistics
import subprocess
import sys
import tempfile
import time

import numpy
import pandas

cli = pathlib.Path(sys.argv[1]) / "vicegrip-cli"
rows, rate = 10_000_000, 250_000
seconds = numpy.arange(rows) / rate
stops = [(0, 0.4), (4, 0.4), (10, 4.5), (14, 4.5), (20, 0.4), (24, 0.4), (30, 4.5), (34, 4.5), (40, 0.4)]
volts = numpy.interp(seconds, *zip(*stops)) + numpy.random.default_rng(1).normal(0, 0.003, rows)
with tempfile.TemporaryDirectory() as folder:
    file = pathlib.Path(folder) / "strokes.csv"
    with open(file, "w", encoding="ascii") as out:
        out.write("time (s),volts\n")
        for start in range(0, rows, 1_000_000):
            part = slice(start, start + 1_000_000)
            out.write("\n".join(f"{t:.6f},{v:.4f}" for t, v in zip(seconds[part], volts[part])) + "\n")
    times = {"vicegrip": [], "pandas": []}
    for _ in range(3):
        begin = time.perf_counter()
        subprocess.run([cli, "throttle", file], check=True, stdout=subprocess.DEVNULL)
        times["vicegrip"].append(time.perf_counter() - begin)
        begin = time.perf_counter()
        pandas.read_csv(file)
        times["pandas"].append(time.perf_counter() - begin)
for name, taken in times.items():
    print(f"{name:12} {statistics.median(taken):7.2f} s")
print(f"ratio        {statistics.median(times['vicegrip']) / statistics.median(times['pandas']):7.2f}   (target: under 2 s)")
