"""Write the cuts of the variable fonts that the screen uses: few letters' shapes, not every axis of each.

The families are the front end's own packages (SIL Open Font License); what is written is kept in the repository, since
it changes only with them.
"""

from __future__ import annotations

import io
import shutil
from pathlib import Path

from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

FRONT = Path(__file__).parents[1] / "frontend"
FAMILIES = FRONT / "node_modules" / "@fontsource-variable"
RECURSIVE = "recursive/files/recursive-latin-full-normal.woff2"
ATKINSON = "atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2"
CUTS: dict[str, tuple[str, dict[str, float | tuple[float, float]]]] = {
    # Figures stand under each other and are set plain and bold.
    "figures": (RECURSIVE, {"MONO": 1, "CASL": 0, "slnt": 0, "CRSV": 0, "wght": (400, 700)}),
    # Titles have one weight.
    "casual": (RECURSIVE, {"MONO": 0, "CASL": 1, "slnt": 0, "CRSV": 0.5, "wght": 750}),
    "text": (ATKINSON, {"wght": (400, 700)}),
}
FEATURES = ["kern", "liga", "tnum", "ccmp", "locl", "mark", "mkmk", "rvrn"]


def cut(source: Path, axes: dict[str, float | tuple[float, float]]) -> TTFont:
    """A font with its axes narrowed, of the features that the page asks for."""
    narrowed = instantiateVariableFont(TTFont(source), axes)
    # Read again: a narrowed font no longer knows its glyphs as they were stored.
    plain = io.BytesIO()
    narrowed.flavor = None
    narrowed.save(plain)
    plain.seek(0)
    font = TTFont(plain)
    options = Options(layout_features=FEATURES, hinting=False)
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=font.getBestCmap().keys())
    subsetter.subset(font)
    font.flavor = "woff2"
    return font


def main() -> None:
    out = FRONT / "src" / "fonts"
    out.mkdir(exist_ok=True)
    for name, (source, axes) in CUTS.items():
        file = out / f"{name}.woff2"
        cut(FAMILIES / source, axes).save(file)
        print(f"{file.name}: {file.stat().st_size} bytes")
    for family in ("recursive", "atkinson-hyperlegible-next"):
        shutil.copy(FAMILIES / family / "LICENSE", out / f"{family}-license.txt")


if __name__ == "__main__":
    main()
