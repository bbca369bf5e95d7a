"""Broken, huge, truncated and hostile versions of good files. The same seed gives the same ones."""
import json
import random

NUMBERS = ["1e308", "-1e308", "1e999", "0", "-0", "-1", "1e-300", "9007199254740993", "0.1e-5", "NaN", "Infinity",
           "1e12", "-1e12", "0x10", "1e200", "5e-324"]
TEXTS = ["", " ", "\u0000", "a" * 300, "\u202e", "../../x", "<b>x</b>", "%s%n", "'; --", "\ud83d\ude00", "\n", "x" * 30000,
         "BAT-", "A.7", "null"]


def places(node):
    """Every container of the document with each of its keys, at any depth."""
    found = []

    def walk(n):
        keys = n.keys() if isinstance(n, dict) else range(len(n))
        for k in keys:
            found.append((n, k))
            if isinstance(n[k], (dict, list)) and n[k]:
                walk(n[k])

    walk(node)
    return found


def somewhere(rng, node):
    found = places(node)
    return rng.choice(found) if found else None


def in_document(rng, text):
    """One to three changes of what the JSON means; half of them leave it a document that is understood."""
    document = json.loads(text)
    marks = {}
    for _ in range(rng.choice([1, 1, 1, 2, 3])):
        place = somewhere(rng, document)
        if place is None:
            break
        at, key = place
        kind = rng.choice([0, 1, 2, 3, 4, 5, 6, 7, 7, 7, 7, 7, 7, 8, 8])
        if kind == 0:
            mark = f"@@{len(marks)}@@"
            marks[f'"{mark}"'] = rng.choice(NUMBERS)
            at[key] = mark
        elif kind == 1:
            at[key] = rng.choice(TEXTS)
        elif kind == 2:
            del at[key]
        elif kind == 3 and isinstance(at, list):
            at.extend([at[key]] * rng.choice([1, 2, 50]))
        elif kind == 4:
            other = somewhere(rng, document)
            at[key] = json.loads(json.dumps(other[0][other[1]]))
        elif kind == 5:
            at[key] = rng.choice([None, True, [], {}, [[]], {"": {}}])
        elif kind == 6 and isinstance(at, dict):
            at[rng.choice(TEXTS)] = at[key]
        elif kind == 7:
            numbers = [(a, k) for a, k in places(document) if isinstance(a[k], (int, float)) and not isinstance(a[k], bool)]
            for a, k in rng.sample(numbers, min(len(numbers), rng.choice([1, 1, 3, 20]))):
                a[k] = a[k] * rng.choice([-1, 0, 0.1, 0.5, 1.0000001, 2, 10, 1e-6, 1e6])
        elif kind == 8 and isinstance(at, list):
            rng.shuffle(at)
    out = json.dumps(document, ensure_ascii=False)
    for mark, number in marks.items():
        out = out.replace(mark, number)
    return out.encode("utf-8", "surrogatepass")


def in_bytes(rng, data):
    """Changes that know nothing of the format."""
    out = bytearray(data)
    for _ in range(rng.randint(1, 4)):
        if not out:
            break
        at = rng.randrange(len(out))
        kind = rng.randrange(7)
        if kind == 0:
            out[at] ^= 1 << rng.randrange(8)
        elif kind == 1:
            del out[at:]
        elif kind == 2:
            out[at:at] = rng.choice([b"[" * 5000, b"\x00" * 9, b"\n" * 3000, b"9" * 400, b"\xff\xfe", b"{", b'"', b"," * 99,
                                     b"a" * 40000])
        elif kind == 3:
            del out[at:at + rng.randint(1, 400)]
        elif kind == 4:
            piece = out[at:at + rng.randint(1, 2000)]
            out[at:at] = piece * rng.randint(1, 5)
        elif kind == 5:
            out[at:at + 1] = bytes([rng.randrange(256)])
        else:
            number = rng.choice(NUMBERS).encode()
            out[at:at + len(number)] = number
    return bytes(out)


def mutated(rng, data):
    """The file broken in one of the two ways."""
    if rng.random() < 0.6:
        try:
            return in_document(rng, data.decode())
        except ValueError:
            pass
    return in_bytes(rng, data)
