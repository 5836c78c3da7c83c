"""The application's own type on paper: text, its bold, the casual hand of titles, and even figures.

Each is one cut of the variable fonts that the screen uses (SIL Open Font License, beside the files), with the letters
of the languages written in Latin. Other scripts come from cuts of other families, their licences beside them: Greek,
Cyrillic, Armenian, Georgian, Hebrew and Arabic (its letters unjoined) from DejaVu Sans, Chinese and Japanese from Droid
Sans Fallback, Korean from Nanum Gothic. These two are large, and looked into only where they are called for. What none
of them has is a box.
"""

from __future__ import annotations

import re
from functools import lru_cache
from pathlib import Path
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

TEXT, BOLD, CASUAL, FIGURES = "RoughDrawText", "RoughDrawBold", "RoughDrawCasual", "RoughDrawFigures"
OTHERS, EASTERN, KOREAN = "RoughDrawOthers", "RoughDrawEastern", "RoughDrawKorean"
FILES = {TEXT: "text.ttf", BOLD: "text-bold.ttf", CASUAL: "casual.ttf", FIGURES: "figures.ttf", OTHERS: "others.ttf"}
RIGHT_TO_LEFT = re.compile(
    "[\u0590-\u07ff\ufb1d-\ufefc](?:[ \u0590-\u07ff\ufb1d-\ufefc]*[\u0590-\u07ff\ufb1d-\ufefc])?"
)
SUPERSCRIPT = str.maketrans("⁰¹²³⁴⁵⁶⁷⁸⁹⁻⁺", "0123456789-+")
RAISED = re.compile("[⁰⁴⁵⁶⁷⁸⁹⁻⁺]+[¹²³]*[⁰⁴⁵⁶⁷⁸⁹]*")
LARGE = {EASTERN: "eastern.ttf", KOREAN: "korean.ttf"}
FIRST_EASTERN = 0x3000
CONTROL = re.compile("[\x00-\x1f\x7f-\x9f\u2028\u2029]")
PLAIN = str.maketrans({"→": ">", "≤": "<", "≥": ">", "✓": "x", "μ": "µ"})
"""What no cut has, by the nearest that all have."""


@lru_cache(maxsize=1)
def registered() -> dict[str, frozenset[int]]:
    """The small fonts made known to the library, with the letters that each has."""
    found = {name: _known(name, file) for name, file in FILES.items()}
    pdfmetrics.registerFontFamily(TEXT, normal=TEXT, bold=BOLD, italic=TEXT, boldItalic=BOLD)
    return found


def _known(name: str, file: str) -> frozenset[int]:
    font = TTFont(name, str(Path(__file__).parent / "fonts" / file))
    pdfmetrics.registerFont(font)
    return frozenset(font.face.charToGlyph)


@lru_cache(maxsize=len(LARGE))
def _large(name: str) -> frozenset[int]:
    return _known(name, LARGE[name])


def _letters(name: str) -> frozenset[int]:
    return _large(name) if name in LARGE else registered()[name]


def _has(letter: str, font: str) -> str | None:
    """The font that shows a letter, the wanted one where it can; None where none does."""
    order = [font, FIGURES, OTHERS, *(LARGE if ord(letter) >= FIRST_EASTERN else ())]
    return next((name for name in order if ord(letter) in _letters(name)), None)


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
        name = _has(letter, font)
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
    fonts = [_has(letter, font) for letter in flat]
    chosen = next((name for name in (EASTERN, KOREAN, OTHERS) if name in fonts), font)
    own = _letters(chosen)
    return "".join(c if ord(c) in own else "u" if c == "µ" else "?" for c in flat), chosen
