"""Mutated jobs, parts, fault lists and columns of numbers against every command, the bench and the window."""
import os
import random
import re
import resource
import subprocess
import tempfile
import time

from mutate import mutated

MOST_SECONDS = 5
MOST_KB = 600 * 1024

JOB_COMMANDS = [["check"], ["check", "--json"], ["expect"], ["expect", "--condition", "key-on", "--json"], ["netlist"],
                ["netlist", "--condition", "key-on", "--running"], ["seat"], ["needs"], ["pins"], ["pins", "--face", "mating"],
                ["cut"], ["cut", "--csv"], ["buy"], ["plan"], ["plan", "--closed", "intake"],
                ["scale", "--circuit", "clt"], ["scale", "--circuit", "map", "--breakpoints", "best"],
                ["scale", "--circuit", "clt", "--kind", "steinhart"], ["budget", "--circuit", "clt"],
                ["budget", "--circuit", "map", "--at", "98kPa"], ["range", "--circuit", "map"], ["switch", "--circuit", "map"]]
NUMBER_COMMANDS = [["fit"], ["fit", "--kind", "ntc"], ["fit", "--kind", "monotone"], ["throttle"]]
PARTS = {"sensors": "sensors", "ecus": "ecus", "connectors": "connectors", "terminals": "terminals"}
NTC = b"-20,15462\n0,5896\n20,2500\n40,1175\n60,596\n80,323\n100,187\n"
NONSENSE = re.compile(r"(?<![A-Za-z])[-+]?(nan|inf)(?![A-Za-z])", re.IGNORECASE)


class Run:
    """One program on one broken file: what was wrong with how it ended, or nothing."""

    def __init__(self, argv, env=None, stdin=subprocess.DEVNULL):
        self.argv = argv
        begun = time.monotonic()
        # Into files: a pipe that nobody reads would look like a hang.
        with tempfile.TemporaryFile() as out, tempfile.TemporaryFile() as err:
            process = subprocess.Popen(argv, stdin=stdin, stdout=out, stderr=err, env=env)
            self.hung = False
            while True:
                pid, status, usage = os.wait4(process.pid, os.WNOHANG)
                if pid:
                    break
                if time.monotonic() - begun > 4 * MOST_SECONDS:
                    self.hung = True
                    process.kill()
                    pid, status, usage = os.wait4(process.pid, 0)
                    break
                time.sleep(0.002)
            process.returncode = status
            self.seconds = usage.ru_utime + usage.ru_stime  # of its own: the machine may be busy
            self.kilobytes = usage.ru_maxrss
            self.signal = os.WTERMSIG(status) if os.WIFSIGNALED(status) else 0
            self.code = os.WEXITSTATUS(status) if os.WIFEXITED(status) else -1
            out.seek(0)
            err.seek(0)
            self.out = out.read(1 << 20).decode("utf-8", "replace")
            self.err = err.read(1 << 20).decode("utf-8", "replace")

    def trouble(self, file, codes):
        if self.hung or self.seconds > MOST_SECONDS:
            return f"took {self.seconds:.1f} s"
        if self.signal:
            return f"signal {self.signal}"
        if self.kilobytes > MOST_KB:
            return f"took {self.kilobytes // 1024} MB"
        if self.code not in codes:
            return f"exit code {self.code}"
        if self.code == 3 and os.path.basename(file) not in self.err + self.out:
            return "does not name the file: " + self.err[:200]
        if self.code == 0 and NONSENSE.search(self.out):
            return "prints " + NONSENSE.search(self.out).group(0)
        if len(self.err) > 20000:
            return f"{len(self.err)} bytes on its error stream"
        return None


class Mutations:
    def __init__(self, source, build, folder, seed):
        self.cli = os.path.join(build, "vicegrip-cli")
        self.bench = os.path.join(build, "vicegrip-bench")
        self.window = os.path.join(build, "vicegrip")
        self.folder = folder
        self.rng = random.Random(seed)
        read = lambda *path: open(os.path.join(source, "data", *path), "rb").read()
        names = lambda *path: sorted(os.listdir(os.path.join(source, "data", *path)))
        self.jobs = [read("jobs", n) for n in names("jobs")]
        self.petrel = os.path.join(source, "data", "jobs", "petrel.vicegrip")
        self.sheets = [read("faults", n) for n in names("faults")]
        self.numbers = [read("recordings", n)[:60000] for n in names("recordings")] + [NTC]
        self.parts = [(kind, read("library", kind, n)) for kind in PARTS for n in names("library", kind)]
        self.seconds = 0.0
        self.kilobytes = 0
        self.runs = 0

    def write(self, name, data):
        path = os.path.join(self.folder, name)
        os.makedirs(os.path.dirname(path), exist_ok=True)
        with open(path, "wb") as out:
            out.write(data)
        return path

    def one(self):
        """Breaks one file and runs one program on it. Returns None, or what was wrong and the file that shows it."""
        rng = self.rng
        draw = rng.random()
        env = dict(os.environ, QT_QPA_PLATFORM="offscreen", XDG_DATA_HOME=os.path.join(self.folder, "data"),
                   XDG_CONFIG_HOME=os.path.join(self.folder, "config"))
        codes = (0, 1, 3, 4)
        if draw < 0.60:
            file = self.write("broken.vicegrip", mutated(rng, rng.choice(self.jobs)))
            command = rng.choice(JOB_COMMANDS)
            argv = [self.cli, command[0], file] + command[1:]
        elif draw < 0.75:
            file = self.write("broken.csv", mutated(rng, rng.choice(self.numbers)))
            command = rng.choice(NUMBER_COMMANDS)
            argv = [self.cli, command[0], file] + command[1:]
        elif draw < 0.85:
            file = self.write("broken.json", mutated(rng, rng.choice(self.sheets)))
            argv = [self.cli, "netlist", self.petrel, "--faults", file]
        elif draw < 0.93:
            kind, part = rng.choice(self.parts)
            file = self.write(os.path.join("data", "vicegrip", "library", kind, "broken.json"), mutated(rng, part))
            argv = [self.cli, "range", self.petrel, "--circuit", "map"]
            codes = (0, 4)
        elif draw < 0.97:
            sheet = rng.random() < 0.5
            file = (self.write("broken.json", mutated(rng, rng.choice(self.sheets))) if sheet else
                    self.write("broken.vicegrip", mutated(rng, rng.choice(self.jobs))))
            argv = [self.bench, self.petrel, "--faults", file] if sheet else [self.bench, file]
            codes = (0, 3)
        else:
            file = self.write("broken.vicegrip", mutated(rng, rng.choice(self.jobs)))
            argv = [self.window, "--quit-when-usable", file]
            codes = (0,)
        run = Run(argv, env)
        self.runs += 1
        self.seconds = max(self.seconds, run.seconds)
        self.kilobytes = max(self.kilobytes, run.kilobytes)
        trouble = run.trouble(file, codes)
        if "library" in file:
            os.remove(file)
        return None if trouble is None else (trouble, " ".join(argv), open(file, "rb").read() if os.path.exists(file) else b"")


def attack(source, build, runs, seed=1, keep=None):
    """Prints what was wrong and the figures; returns how many runs were."""
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    wrong = 0
    with tempfile.TemporaryDirectory() as folder:
        mutations = Mutations(source, build, folder, seed)
        for i in range(runs):
            found = mutations.one()
            if found is None:
                continue
            wrong += 1
            trouble, argv, data = found
            print(f"mutation {i}: {trouble}: {argv}")
            if keep:
                os.makedirs(keep, exist_ok=True)
                with open(os.path.join(keep, f"{seed}-{i}"), "wb") as out:
                    out.write(data)
        print(f"mutations: {mutations.runs} runs, {wrong} wrong; slowest {mutations.seconds:.2f} s, largest "
              f"{mutations.kilobytes // 1024} MB")
    return wrong
