"""`./instavis validate [TOPIC …] [--figures DIR]`: the method's figures as Markdown tables and pictures."""

from __future__ import annotations

import argparse
import importlib
from pathlib import Path

TOPICS = ("flight", "impact", "inverse", "reading", "cause", "outside", "choice", "proof", "pivot", "camera")
FIGURES = {
    "flight-carry": ("flight", "draw"),
    "impact-share": ("impact", "draw"),
    "impact-spin": ("impact", "draw_spin"),
    "impact-tilt": ("impact", "draw_tilt"),
    "cause-reliability": ("cause", "draw"),
}


def main() -> int:
    """Print the tables of the topics; draw their figures if requested."""
    parser = argparse.ArgumentParser(prog="instavis validate", description=__doc__)
    parser.add_argument("topic", nargs="*", help=f"of {', '.join(TOPICS)}; all when none is named")
    parser.add_argument("--figures", type=Path, help="folder to write SVG figures to")
    options = parser.parse_args()
    unknown = set(options.topic) - set(TOPICS)
    if unknown:
        parser.error(f"there is no topic {', '.join(sorted(unknown))}; there are {', '.join(TOPICS)}")
    topics = options.topic or TOPICS
    for topic in topics:
        for table in importlib.import_module(f"validation.{topic}").tables():
            print(table.text(), flush=True)
    if options.figures:
        _figures(options.figures, topics)
    return 0


def _figures(folder: Path, topics) -> None:
    import matplotlib

    matplotlib.use("svg")
    matplotlib.rcParams |= {
        "svg.hashsalt": "instavis",
        "font.size": 9,
        "axes.spines.top": False,
        "axes.spines.right": False,
    }
    from matplotlib import pyplot

    folder.mkdir(parents=True, exist_ok=True)
    for name, (topic, draw) in FIGURES.items():
        if topic not in topics:
            continue
        figure, axes = pyplot.subplots(figsize=(5, 3.4), layout="constrained")
        getattr(importlib.import_module(f"validation.{topic}"), draw)(axes)
        figure.savefig(folder / f"{name}.svg", metadata={"Date": None})
        pyplot.close(figure)


if __name__ == "__main__":
    raise SystemExit(main())
