#!/usr/bin/env python3
"""Times the first usable window with the demo job against a bare QMainWindow process, in turns, in one run.

Usage: first_window.py BIN_FOLDER. Prints both medians and their ratio; the target is at most 1.5.
"""
import os
import pathlib
import statistics
import subprocess
import sys
import time

bin_folder = pathlib.Path(sys.argv[1])
job = pathlib.Path(__file__).parent.parent / "data/jobs/petrel.vicegrip"
env = dict(os.environ, XDG_CONFIG_HOME="/nonexistent", QT_QPA_PLATFORM=os.environ.get("QT_QPA_PLATFORM", "offscreen"))
commands = {
    "bare window": [bin_folder / "bare_window"],
    "vicegrip": [bin_folder / "vicegrip", job, "--quit-when-usable"],
}
times = {name: [] for name in commands}
for _ in range(15):
    for name, command in commands.items():
        start = time.perf_counter()
        subprocess.run(command, env=env, check=True, stderr=subprocess.DEVNULL)  # a timeout would poll in steps
        times[name].append(time.perf_counter() - start)
medians = {name: statistics.median(t[2:]) for name, t in times.items()}
for name, median in medians.items():
    print(f"{name:12} {median * 1000:7.1f} ms")
print(f"ratio        {medians['vicegrip'] / medians['bare window']:7.2f}   (target: at most 1.5)")
