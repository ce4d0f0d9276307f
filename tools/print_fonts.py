"""Makes the fonts of printed pages from those of the screen: fixed weights, uncompressed, as the PDF engine wants them.

Needs fonttools and brotli, which neither the application nor its tests need: the result is committed.
"""

from __future__ import annotations

from pathlib import Path

from fontTools.ttLib import TTFont  # type: ignore[import-not-found]
from fontTools.varLib.instancer import instantiateVariableFont  # type: ignore[import-not-found]

ROOT = Path(__file__).parent.parent / "src/cablux"
FONTS = (
    ("atkinson-latin", "Atkinson Hyperlegible Next", "Regular", {"wght": 400}),
    ("atkinson-latin", "Atkinson Hyperlegible Next", "Bold", {"wght": 700}),
    ("fraunces-latin", "Fraunces", "SemiBold", {"wght": 600, "opsz": 36}),
)


def main() -> None:
    """Writes the fonts."""
    for source, family, style, axes in FONTS:
        font = instantiateVariableFont(TTFont(ROOT / f"web/static/fonts/{source}.woff2"), axes, updateFontNames=False)
        font.flavor = None
        for record, text in ((1, family), (2, style), (4, f"{family} {style}"), (16, family), (17, style)):
            font["name"].setName(text, record, 3, 1, 0x409)
        font["OS/2"].usWeightClass = axes["wght"]
        name = f"{source.removesuffix('-latin')}-{style.lower()}.ttf"
        font.save(ROOT / "render/fonts" / name)
        print(name)


if __name__ == "__main__":
    main()
