"""Jobs as large as their schema allows, in every direction: the time may grow with the size and no faster."""
import copy
import json
import os
import tempfile

from mutations import Run


def chained(job, count):
    for i in range(count):
        job["joints"].append({"id": f"Z{i}", "label": f"Splice {i}", "kind": "splice"})
        job["wires"].append(wire(i, job["wires"][0]["from"] if i == 0 else f"Z{i - 1}", f"Z{i}"))


def starred(job, count):
    for i in range(count):
        job["joints"].append({"id": f"Z{i}", "label": f"Splice {i}", "kind": "splice"})
        job["wires"].append(wire(i, job["wires"][0]["from"], f"Z{i}"))


def fused(job, count):
    fuse = next(s for s in job["switches"] if s["kind"] == "fuse")
    for i in range(count):
        job["joints"].append({"id": f"Z{i}", "label": f"Fuse outlet {i}", "kind": "splice"})
        job["switches"].append(dict(fuse, id=f"f{i}", to=f"Z{i}"))
        job["wires"].append(wire(i, f"Z{i}", "S1"))


def plugged(job, count):
    for i in range(900):
        job["connectors"].append({"id": f"XX{i}", "label": f"Plug {i}", "kind": "sensor",
                                  "cavities": [str(k) for k in range(1, 60)]})
    for i in range(count):
        job["wires"].append(wire(i, f"XX{i % 900}.{1 + i // 900}", f"XX{(i * 7 + 1) % 900}.{30 + i // 900}"))


def wire(i, start, end):
    return {"id": f"zz{i}", "from": start, "to": end, "length_m": 0.5, "area_mm2": 0.5, "colour": "BK"}


def proved(job, count):
    job["proofs"] += [copy.deepcopy(job["proofs"][i % len(job["proofs"])]) for i in range(count)]


def logged(job, count):
    job["log"] = [copy.deepcopy(job["log"][i % len(job["log"])]) for i in range(count)]


def crowded(job, count):
    """Many coolant sensors without a seat."""
    circuit = next(c for c in job["circuits"] if c["id"] == "clt")
    device = next(d for d in job["devices"] if d["id"] == circuit["device"])
    plug = next(c for c in job["connectors"] if c["id"] == device["connector"])
    for i in range(count):
        job["connectors"].append(dict(copy.deepcopy(plug), id=f"C{i}Q"))
        job["devices"].append(dict(device, id=f"d{i}", connector=f"C{i}Q"))
        extra = dict(copy.deepcopy(circuit), id=f"c{i}", name=f"Coolant {i}", device=f"d{i}", locked=False, want="preferred")
        extra.pop("input", None)
        job["circuits"].append(extra)


def seated(job, count):
    """As many inputs as well, no two of them alike."""
    crowded(job, count)
    for box in range(4):
        unit = {k: copy.deepcopy(v) for k, v in job["ecu"].items() if k not in ("inputs", "outputs", "pins", "name")}
        unit.update(name=f"Box {box}", inputs=[], pins=[])
        for k in range(count // 4):
            inputs = job["ecu"]["inputs"]
            unit["inputs"].append(dict(copy.deepcopy(inputs[k % len(inputs)]), id=f"X{box}_{k}",
                                       withstands_v=16 + k + box * 0.001))
            unit["pins"].append({"at": f"EX{box}.{k + 1}", "role": "input", "input": f"X{box}_{k}"})
        job["connectors"].append({"id": f"EX{box}", "label": f"Box {box}", "kind": "ecu",
                                  "cavities": [str(k + 1) for k in range(count // 4)]})
        job.setdefault("expanders", []).append(unit)


JOBS = [("check", chained, 4900), ("check", starred, 4900), ("check", fused, 2400), ("check", plugged, 4900),
        ("check", proved, 12000), ("check", logged, 20000), ("check", crowded, 900), ("seat", seated, 400)]


def attack(source, build):
    """Returns how often something was wrong."""
    cli = os.path.join(build, "vicegrip-cli")
    wrong = 0
    with open(os.path.join(source, "data", "jobs", "petrel.vicegrip")) as petrel:
        text = petrel.read()
    with tempfile.TemporaryDirectory() as folder:
        file = os.path.join(folder, "large.vicegrip")

        def run(what, command, codes):
            nonlocal wrong
            done = Run([cli, command, file])
            trouble = done.trouble(file, codes)
            wrong += trouble is not None
            print(f"large: {what}: {done.seconds:.2f} s, {done.kilobytes // 1024} MB{'' if trouble is None else ': ' + trouble}")

        for command, grow, count in JOBS:
            job = json.loads(text)
            grow(job, count)
            with open(file, "w") as out:
                json.dump(job, out)
            run(f"{command}, {count} more {grow.__name__}", command, (0, 1))
        with open(file, "w") as out:
            out.write("[" + "{}," * 10_500_000 + "{}]")
        run("31 MB of empty objects", "check", (3,))
    return wrong
