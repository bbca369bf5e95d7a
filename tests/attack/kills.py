"""Kills a program that edits and saves a job, at random moments and at chosen system calls, and looks what is left.

The program says what it has recorded ("kept N": beside the job; "saved N": in it). After the kill the job must read, its
lock must not be in the way, and the last number it said must be in the job or offered.
"""
import os
import random
import shutil
import signal
import subprocess
import tempfile
import time

CALLS = ["open", "write", "fsync", "rename", "unlink", "link"]
ACTIONS = ["ENOSPC", "EIO", "EINTR", "KILL", "KILL-AFTER"]
PATIENCE = 20


def environment(extra=None):
    return dict(os.environ, QT_QPA_PLATFORM="offscreen", XDG_CONFIG_HOME="/nonexistent", **(extra or {}))


def said(line):
    words = line.split()
    return int(words[1]) if len(words) == 2 and words[0] in ("kept", "saved") and words[1].isdigit() else None


def look(editor, job):
    """What a user finds afterwards: the numbers in the job and in what is offered, or what is wrong."""
    done = subprocess.run([editor, "--look", job], env=environment(), capture_output=True, timeout=PATIENCE, text=True)
    if done.returncode != 0:
        return None, f"looking ended with {done.returncode}: {done.stderr[:300]}"
    numbers = [int(word) for word in done.stdout.split()]
    return numbers, None


def begin(source, folder):
    job = os.path.join(folder, "petrel.vicegrip")
    shutil.copy(os.path.join(source, "data", "jobs", "petrel.vicegrip"), job)
    return job


def strays(folder):
    return [n for n in os.listdir(folder)
            if n not in ("petrel.vicegrip", ".petrel.vicegrip.saving", "..petrel.vicegrip.autosave.saving",
                         ".petrel.vicegrip.lock", ".petrel.vicegrip.autosave")]


def attack(source, build, deaths, seed):
    """Kills at random moments. Returns how often something was wrong."""
    rng = random.Random(seed)
    editor = os.path.join(build, "attacked_editor")
    wrong = 0
    with tempfile.TemporaryDirectory() as folder:
        job = begin(source, folder)
        number = recorded = 0
        for i in range(deaths):
            process = subprocess.Popen([editor, job, str(number)], env=environment(), stdout=subprocess.PIPE,
                                       stderr=subprocess.DEVNULL)
            # From its first word on; the start itself is killed as well, now and then.
            if rng.random() < 0.9:
                first = process.stdout.readline()
                number = said(first.decode()) or number
            time.sleep(rng.random() ** 2 * 0.5)
            process.send_signal(signal.SIGKILL)
            rest = process.stdout.read().decode("utf-8", "replace")
            process.wait()
            for line in rest.split("\n")[:-1]:  # a last one without an end was not said
                number = max(number, said(line) or 0)
            recorded = max(recorded, number)
            numbers, trouble = look(editor, job)
            if trouble is None and max(numbers, default=0) < number:
                trouble = f"{number} was recorded, {numbers} is left"
            if trouble is None and strays(folder):
                trouble = f"strays: {strays(folder)}"
            if trouble:
                wrong += 1
                print(f"kill {i}: {trouble}")
                job = begin(source, folder)
                number = 0
    print(f"kills: {deaths}, {recorded} edits recorded, {wrong} wrong")
    if recorded < deaths:
        print("hardly anything was recorded: the attack itself is broken")
        wrong += 1
    return wrong


def faults(source, build):
    """One fault or kill at the n-th of each system call. Returns how often something was wrong."""
    editor = os.path.join(build, "attacked_editor")
    shim = os.path.join(build, "libattack_faults.so")
    wrong = runs = hits = 0
    for call in CALLS:
        for action in ACTIONS:
            for nth in range(1, 7):
                with tempfile.TemporaryDirectory() as folder, tempfile.TemporaryDirectory() as other:
                    job = begin(source, folder)
                    report = os.path.join(other, "hit")
                    env = environment({"LD_PRELOAD": shim, "ATTACK_FOLDER": folder, "ATTACK_CALL": call,
                                       "ATTACK_ACTION": action, "ATTACK_NTH": str(nth), "ATTACK_REPORT": report})
                    done = subprocess.run([editor, job, "0", "6"], env=env, capture_output=True, timeout=PATIENCE,
                                          text=True)
                    runs += 1
                    hits += os.path.exists(report)
                    trouble = None
                    killed = action.startswith("KILL")
                    if done.returncode not in ((0, -signal.SIGKILL) if killed else (0,)):
                        trouble = f"ended with {done.returncode}: {done.stderr[:200]}"
                    number = max([said(line) or 0 for line in done.stdout.split("\n")[:-1]], default=0)
                    if trouble is None:
                        numbers, trouble = look(editor, job)
                        if trouble is None and max(numbers, default=0) < number:
                            trouble = f"{number} was recorded, {numbers} is left"
                    if trouble:
                        wrong += 1
                        print(f"{action} at {call} {nth}: {trouble}")
    print(f"faults: {hits} of {runs} system calls met, {wrong} wrong")
    if hits < runs / 3:
        print("the faults did not meet the program: the attack itself is broken")
        wrong += 1
    return wrong
