"""The application's own type on paper: text, its bold, the casual hand of titles, and even figures.

Each is one cut of the variable fonts that the screen uses (SIL Open Font License, beside the files), with the letters
of the languages written in Latin.
"""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

TEXT, BOLD, CASUAL, FIGURES = "RoughDrawText", "RoughDrawBold", "RoughDrawCasual", "RoughDrawFigures"
FILES = {TEXT: "text.ttf", BOLD: "text-bold.ttf", CASUAL: "casual.ttf", FIGURES: "figures.ttf"}
SUPERSCRIPT = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹⁻⁺", "0123456789-+")
RAISED = re.compile("[⁰⁴⁵⁶⁷⁸⁹⁻⁺]+[¹²³]*[⁰⁴⁵⁶⁷⁸⁹]*")
CONTROL = re.compile("[\x00-\x1f\x7f-\x9f\u2028\u2029]")
PLAIN = str.maketrans({"→": ">", "≤": "<", "≥": ">", "✓": "x", "μ": "µ"})
"""What no cut has, by the nearest that all have."""


@lru_cache(maxsize=1)
def registered() -> dict[str, frozenset[int]]:
    """The fonts made known to the library, with the letters that each has."""
    found = {}
    for name, file in FILES.items():
        font = TTFont(name, str(Path(__file__).parent / "fonts" / file))
        pdfmetrics.registerFont(font)
        found[name] = frozenset(font.face.charToGlyph)
    pdfmetrics.registerFontFamily(TEXT, normal=TEXT, bold=BOLD, italic=TEXT, boldItalic=BOLD)
    return found


def marked_up(text: str, font: str = TEXT) -> str:
    """Plain text as the library's paragraphs take it: marks are printed, not obeyed; powers are raised; a letter that
    the font lacks is taken from the figures, or shown as a box.
    """
    # Signs that only steer a machine are not printed: two of them stand for where a power begins and ends.
    bare = CONTROL.sub(" ", text.translate(PLAIN))
    raised = RAISED.sub(lambda m: "\0" + m[0].translate(SUPERSCRIPT) + "\1", bare)
    own, other = registered()[font], registered()[FIGURES]
    out = []
    for letter in raised:
        code = ord(letter)
        if letter in "\0\1":
            out.append("<super>" if letter == "\0" else "</super>")
        elif code in own:
            out.append(escape(letter))
        elif code in other:
            out.append(f'<font name="{FIGURES}">{escape(letter)}</font>')
        else:
            out.append("□" if 0x25A1 in own else "?")
    return "".join(out)


def plain(text: str, font: str = TEXT) -> str:
    """Text for a drawing, where nothing can be raised: powers with a caret, no letter that the font lacks."""
    flat = RAISED.sub(lambda m: "^" + m[0].translate(SUPERSCRIPT), text.translate(PLAIN))
    own = registered()[font]
    return "".join(c if ord(c) in own else "u" if c == "µ" else "?" for c in flat)
