#!/usr/bin/env python3
"""The manual: the help's own texts, one page, with the pictures of the documentation. Usage: HELP PICTURES OUT"""
import html
import pathlib
import shutil
import subprocess
import sys

# Stage by stage, as hands go: file of the help, heading, pictures.
PAGES = [
    ("first", "A job", ["start"]),
    ("board", "Board", ["board"]),
    ("brief", "Brief", ["brief"]),
    ("inputs", "Inputs", ["inputs"]),
    ("pins", "Pins: plug", ["pins"]),
    ("pins-remap", "Pins: remap", []),
    ("pins-wires", "Pins: wires", []),
    ("pins-harness", "Pins: harness", ["pins-harness"]),
    ("pins-feeds", "Pins: feeds", []),
    ("pins-buy", "Pins: to buy", []),
    ("pins-order", "Pins: order of hands", []),
    ("meter", "Meter", ["meter"]),
    ("meter-click", "Meter: click test", []),
    ("meter-wiggle", "Meter: wiggle test", []),
    ("practice", "Practice bench", ["practice"]),
    ("links", "Links", ["links"]),
    ("scale", "Scale: table", ["scale"]),
    ("scale-readings", "Scale: readings", []),
    ("scale-budget", "Scale: error budget", ["scale-budget"]),
    ("scale-strokes", "Scale: throttle limits", ["scale-throttle-night"]),
    ("scale-fuel", "Scale: flex fuel", ["scale-flex"]),
    ("scale-switch", "Scale: switch", []),
    ("scale-speed", "Scale: road speed", []),
    ("scale-probe", "Scale: thermocouple", []),
    ("trigger", "Trigger", []),
    ("trigger-hand", "Trigger: by hand", []),
    ("trigger-gap", "Trigger: gap and seat", []),
    ("trigger-capture", "Trigger: capture", ["trigger"]),
    ("trigger-light", "Trigger: timing light", []),
    ("trigger-mount", "Trigger: where to mount", []),
    ("start", "Start", ["run-sheet"]),
    ("start-logs", "Start: logs", ["log-review"]),
    ("handover", "Handover: build book", ["handover"]),
    ("handover-diagram", "Handover: wiring diagram", ["handover-diagram"]),
    ("handover-labels", "Handover: labels", []),
    ("handover-packet", "Handover: tuner's packet", []),
    ("handover-again", "Handover: after a change", []),
    ("handover-compare", "Handover: compare", []),
    ("handover-photos", "Handover: photos", []),
    ("handover-lists", "Handover: lists", []),
    ("handover-logbook", "Handover: logbook", []),
    ("preferences", "Preferences", []),
]

STYLE = """body{margin:0 auto;max-width:46rem;padding:2rem 1rem;font:1rem/1.5 Inter,sans-serif;color:#1b2226;background:#fcfbf7}
img{width:100%;border:1px solid #d3cec2}h1,h2{font-weight:600}dt{font-weight:600}dd{margin:0 0 .5rem}nav a{margin-right:1rem}
a{color:#1f5b66}"""


def fragment(markdown: str) -> str:
    return subprocess.run(["cmark"], input=markdown, capture_output=True, text=True, check=True).stdout


def main(help_folder: pathlib.Path, pictures: pathlib.Path, out: pathlib.Path) -> None:
    unknown = {f.stem for f in help_folder.glob("*.md")} - {p[0] for p in PAGES} - {"glossary"}
    if unknown:
        sys.exit(f"no place in the manual for: {', '.join(sorted(unknown))}")
    out.mkdir(parents=True, exist_ok=True)
    body, links = [], []
    for name, heading, shots in PAGES:
        text = (help_folder / f"{name}.md").read_text(encoding="utf-8")
        body.append(f'<h2 id="{name}">{html.escape(heading)}</h2>')
        body.append(fragment(text.replace("\n## Sources", "\n### Where its numbers come from")))
        for shot in shots:
            shutil.copy(pictures / f"{shot}.png", out)
            body.append(f'<p><img src="{shot}.png" alt="{html.escape(heading)}"></p>')
        links.append(f'<a href="#{name}">{html.escape(heading)}</a>')
    body.append('<h2 id="glossary">Words, as they are meant here</h2><dl>')
    links.append('<a href="#glossary">Words</a>')
    for line in (help_folder / "glossary.md").read_text(encoding="utf-8").splitlines():
        if line:
            term, meaning = line.split(": ", 1)
            body.append(f"<dt>{html.escape(term)}</dt><dd>{html.escape(meaning)}</dd>")
    body.append("</dl>")
    page = (
        '<!DOCTYPE html><html lang="en"><head><meta charset="utf-8"><title>Vicegrip: manual</title>'
        f"<style>{STYLE}</style></head><body><h1>Vicegrip</h1><nav>{' '.join(links)}</nav>"
        + "\n".join(body)
        + "</body></html>\n"
    )
    (out / "index.html").write_text(page, encoding="utf-8")


if __name__ == "__main__":
    main(*(pathlib.Path(a) for a in sys.argv[1:4]))
