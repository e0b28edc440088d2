"""Make sample clips: ``python -m bodies shipped|fitting|demo FOLDER`` in an environment with `requirements.txt`."""

from __future__ import annotations

import argparse
from pathlib import Path

from bodies import sets
from bodies.clips import make
from bodies.shape import body_model, load


def main() -> None:
    """Make every clip of a set that is not yet in the folder."""
    parser = argparse.ArgumentParser(prog="python -m bodies", description=__doc__)
    parser.add_argument("which", choices=("shipped", "fitting", "demo"))
    parser.add_argument("folder", type=Path)
    options = parser.parse_args()
    options.folder.mkdir(parents=True, exist_ok=True)
    model = body_model()
    for scene in getattr(sets, options.which)():
        if not (options.folder / f"{scene.name}.json").exists():
            print(make(scene, load(model, scene.phenotype), options.folder), flush=True)


if __name__ == "__main__":
    main()
