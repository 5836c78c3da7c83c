"""Numbers as somebody writes them: thousands and decimals by habit, as many digits as are worth reading."""

from __future__ import annotations

import math
from decimal import Decimal
from functools import lru_cache

from babel.numbers import format_decimal

WRITTEN = {"point": "en_US", "comma": "de_DE", "space": "fr_FR"}
"""1,234.5, 1.234,5 and 1 234,5."""


SUPERSCRIPT = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")
LONGEST = 1e15
"""From here on nobody counts the digits, and floats have no more of them."""


def scientific(value: float, numbers: str = "point") -> str:
    """As a power of ten; whole numbers of any length too.

    >>> scientific(0.000123), scientific(-(10**400), "comma")
    ('1.2 × 10⁻⁴', '−1,0 × 10⁴⁰⁰')
    """
    mantissa, power = f"{Decimal(value):.1e}".split("e")
    return f"{fixed(float(mantissa), 1, numbers)} × 10{str(int(power)).translate(SUPERSCRIPT)}"


@lru_cache(maxsize=4096)
def fixed(value: float, places: int, numbers: str = "point") -> str:
    """With so many places after the point; what nobody would count the digits of as a power of ten.

    >>> fixed(1234.56, 1), fixed(1234.56, 1, "comma"), fixed(1e40, 0), fixed(math.nan, 1)
    ('1,234.6', '1.234,6', '1.0 × 10⁴⁰', '–')
    """
    if abs(value) >= LONGEST:
        return scientific(value, numbers) if not isinstance(value, float) or math.isfinite(value) else "–"
    if value != value:
        return "–"
    pattern = "#,##0" + ("." + "0" * places if places > 0 else "")
    text = str(format_decimal(value, format=pattern, locale=WRITTEN[numbers]))
    # A minus is a minus, and what rounds to nothing has none.
    return text.lstrip("-") if not any(c in "123456789" for c in text) else text.replace("-", "−")


def significant(value: float, digits: int, numbers: str = "point") -> str:
    """With about so many digits: 9.9996 is 10.0; of large numbers every one before the point.

    >>> significant(9.9996, 3), significant(0.012345, 3), significant(18340.0, 3)
    ('10.0', '0.0123', '18,340')
    """
    if value == 0 or not abs(value) < LONGEST:
        return "0" if value == 0 else fixed(value, 0, numbers)
    size = abs(float(f"{value:.{digits}g}"))
    places = max(0, digits - 1 - math.floor(math.log10(size)))
    return fixed(value, min(places, 6), numbers)


def plain(value: float, places: int, numbers: str = "point") -> str:
    """With at most so many places, and none that say nothing.

    >>> plain(20.0, 1), plain(20.5, 1)
    ('20', '20.5')
    >>> plain(0.219, 6), plain(8.50, 6)
    ('0.219', '8.5')
    """
    if not abs(value) < LONGEST:
        return fixed(value, 0, numbers)
    said = next(k for k in range(places + 1) if k == places or round(value, k) == round(value, places))
    return fixed(value, said, numbers)
