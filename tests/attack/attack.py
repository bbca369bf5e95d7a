#!/usr/bin/env python3
"""Attacks the programs and says what they did not stand.

    attack.py SOURCE BUILD                 the short form, as in every check
    attack.py SOURCE BUILD --long          10,000 mutations, 1,000 kills
    attack.py SOURCE BUILD --keep FOLDER   files that show what was wrong are kept there

SOURCE is the tree, BUILD the folder of its programs. Ends with 1 when anything was wrong.
"""
import argparse
import os
import sys
from concurrent.futures import ProcessPoolExecutor

sys.path.insert(0, os.path.dirname(os.path.abspath(__file__)))
import kills  # noqa: E402
import large  # noqa: E402
import mutations  # noqa: E402


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("source")
    parser.add_argument("build")
    parser.add_argument("--long", action="store_true")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--keep")
    options = parser.parse_args()
    runs, deaths = (10000, 1000) if options.long else (300, 24)
    workers = os.cpu_count() or 1
    share = lambda whole, i: whole // workers + (1 if i < whole % workers else 0)
    with ProcessPoolExecutor(workers) as pool:
        jobs = [pool.submit(mutations.attack, options.source, options.build, share(runs, i),
                            options.seed * 1000 + i, options.keep) for i in range(workers)]
        wrong = sum(job.result() for job in jobs)
        jobs = [pool.submit(kills.attack, options.source, options.build, share(deaths, i),
                            options.seed * 1000 + i) for i in range(workers)]
        wrong += sum(job.result() for job in jobs)
    wrong += kills.faults(options.source, options.build)
    wrong += large.attack(options.source, options.build)
    print("nothing lost, nothing knocked over" if wrong == 0 else f"{wrong} wrong")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
