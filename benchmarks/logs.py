#!/usr/bin/python3
"""Times reading and reviewing a log of twenty columns against pandas' C reader, which only reads it, in turns, in one
run; and the same on one processor.

Usage: logs.py BIN_FOLDER [ROWS]. Prints the medians and their ratios, and the memory against that of the numbers as
doubles. Targets: pandas takes at least 5 times as long (2 times on one processor), under 1.5 times the doubles.
"""
import os
import pathlib
import re
import statistics
import subprocess
import sys
import tempfile
import time

import numpy
import pandas

folder = pathlib.Path(sys.argv[1])
rows = int(sys.argv[2]) if len(sys.argv) > 2 else 2_000_000
job = pathlib.Path(__file__).resolve().parent.parent / "data/jobs/petrel.vicegrip"
chance = numpy.random.default_rng(1)
names = ["Time (s)", "Engine speed (rpm)", "Throttle (%)", "Manifold pressure (kPa)", "Coolant temp (°C)"]
names += [f"Column {i}" for i in range(len(names), 21)]


def timed(run):
    begin = time.perf_counter()
    run()
    return time.perf_counter() - begin


def peak(command):
    """Bytes at most, as the kernel counts them since the program began."""
    most = 0
    with subprocess.Popen(command, stdout=subprocess.DEVNULL) as running:
        while running.poll() is None:
            status = pathlib.Path(f"/proc/{running.pid}/status").read_text(encoding="ascii")
            found = re.search(r"VmHWM:\s+(\d+)", status)
            most = max(most, int(found.group(1)) * 1024 if found else 0)
            time.sleep(0.005)
    return most


with tempfile.TemporaryDirectory() as place:
    log = pathlib.Path(place) / "log.csv"
    with open(log, "w", encoding="utf-8") as out:
        out.write(",".join(names) + "\n")
        for start in range(0, rows, 200_000):
            n = min(200_000, rows - start)
            block = chance.normal(50, 15, (n, 21))
            block[:, 0] = (start + numpy.arange(n)) * 0.01
            numpy.savetxt(out, block, delimiter=",", fmt=["%.2f"] + [f"%.{i % 3 + 1}f" for i in range(20)])

    def ours(command):
        return lambda: subprocess.run([folder / "vicegrip-cli", *command], check=False, stdout=subprocess.DEVNULL)

    # `pulls` reads and hardly looks; `review` goes by every rule.
    every = {"pulls": ours(["pulls", log]), "review": ours(["review", log, job]), "pandas": lambda: pandas.read_csv(log)}
    for processors in (None, {0}):
        if processors:
            os.sched_setaffinity(0, processors)
        times = {name: [] for name in every}
        for _ in range(3):
            for name, run in every.items():
                times[name].append(timed(run))
        medians = {name: statistics.median(t) for name, t in times.items()}
        print("one processor" if processors else "all processors")
        for name, taken in medians.items():
            print(f"  {name:8} {taken:7.2f} s   {medians['pandas'] / taken:6.2f} times as fast as pandas")
    most = peak([folder / "vicegrip-cli", "review", log, job])
    print(f"memory   {most / (rows * 21 * 8):6.2f} of the numbers as doubles")
