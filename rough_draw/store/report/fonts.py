"""The application's own type on paper: text, its bold, the casual hand of titles, and even figures.

Each is one cut of the variable fonts that the screen uses (SIL Open Font License, beside the files), with the letters
of the languages written in Latin. Greek, Cyrillic, Armenian, Georgian, Hebrew and Arabic come from a cut of DejaVu Sans
(its licence beside it; letters of Arabic stand unjoined), Chinese, Japanese and Korean from the fonts that every reader
of PDF has by the standard's names. What none of them has is a box.
"""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.cidfonts import UnicodeCIDFont
from reportlab.pdfbase.ttfonts import TTFont

TEXT, BOLD, CASUAL, FIGURES = "RoughDrawText", "RoughDrawBold", "RoughDrawCasual", "RoughDrawFigures"
OTHERS = "RoughDrawOthers"
FILES = {TEXT: "text.ttf", BOLD: "text-bold.ttf", CASUAL: "casual.ttf", FIGURES: "figures.ttf", OTHERS: "others.ttf"}
EASTERN = (
    ("HYSMyeongJo-Medium", "[\u1100-\u11ff\u3130-\u318f\uac00-\ud7af]"),
    ("HeiseiMin-W3", "[\u3040-\u30ff\u31f0-\u31ff]"),
    ("STSong-Light", "[\u3000-\u303f\u3400-\u4dbf\u4e00-\u9fff\uff00-\uffef]"),
)
"""Fonts of the PDF standard by the letters that call for them: Korean, Japanese, and what all share."""
RIGHT_TO_LEFT = re.compile(
    "[\u0590-\u07ff\ufb1d-\ufefc](?:[ \u0590-\u07ff\ufb1d-\ufefc]*[\u0590-\u07ff\ufb1d-\ufefc])?"
)
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


@lru_cache(maxsize=len(EASTERN))
def _eastern(name: str) -> str:
    pdfmetrics.registerFont(UnicodeCIDFont(name))
    return name


def _has(letter: str, font: str, text: str) -> str | None:
    """The font that shows a letter, the wanted one where it can; None where none does. ``text``: what it stands in."""
    for name in (font, FIGURES, OTHERS):
        if ord(letter) in registered()[name]:
            return name
    for name, letters in EASTERN:
        if re.search(letters, text) and any(re.match(one, letter) for _, one in EASTERN):
            return _eastern(name)
    return None


def _in_order(text: str) -> str:
    """Words that are read from the right, turned: the library sets every letter from the left."""
    return RIGHT_TO_LEFT.sub(lambda m: m[0][::-1], text)


def marked_up(text: str, font: str = TEXT) -> str:
    """Plain text as the library's paragraphs take it: marks are printed, not obeyed; powers are raised; a letter that
    the font lacks is taken from another, or shown as a box.
    """
    # Signs that only steer a machine are not printed: two of them stand for where a power begins and ends.
    bare = CONTROL.sub(" ", text.translate(PLAIN))
    raised = _in_order(RAISED.sub(lambda m: "\0" + m[0].translate(SUPERSCRIPT) + "\1", bare))
    out: list[str] = []
    for letter in raised:
        if letter in "\0\1":
            out.append("<super>" if letter == "\0" else "</super>")
            continue
        name = _has(letter, font, raised)
        if name is None:
            out.append("□" if 0x25A1 in registered()[font] else "?")
        else:
            out.append(escape(letter) if name == font else f'<font name="{name}">{escape(letter)}</font>')
    return "".join(out)


def plain(text: str, font: str = TEXT) -> tuple[str, str]:
    """Text for a drawing, and the font that has all its letters: the wanted one where it can.

    Nothing can be raised there: powers have a caret. A letter that the font lacks is a question mark.
    """
    flat = _in_order(CONTROL.sub(" ", RAISED.sub(lambda m: "^" + m[0].translate(SUPERSCRIPT), text.translate(PLAIN))))
    fonts = [_has(letter, font, flat) for letter in flat]
    chosen = font
    if any(name not in (font, FIGURES, None) for name in fonts):
        eastern = next((name for name in fonts if name is not None and name not in registered()), None)
        chosen = eastern or OTHERS
    if chosen not in registered():
        return flat, chosen
    own = registered()[chosen]
    return "".join(c if ord(c) in own else "u" if c == "µ" else "?" for c in flat), chosen
