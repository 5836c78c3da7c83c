"""One cell of a table: a number as it is written."""

from __future__ import annotations

import re

from rough_draw.core.message import Fault, message


def number(cell: str, decimal_comma: bool) -> float:
    """A written number: thousands separators dropped, decimal comma if said so. Raises Fault."""
    s = cell.strip().replace("\u00a0", "").replace("\u2212", "-").replace("'", "")
    if decimal_comma:
        s = (
            s.replace(".", "").replace(",", ".")
            if re.fullmatch(r"-?\d{1,3}(\.\d{3})+(,\d+)?", s)
            else s.replace(",", ".")
        )
    elif re.fullmatch(r"-?\d{1,3}(,\d{3})+(\.\d+)?", s):
        s = s.replace(",", "")
    if not re.fullmatch(r"[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?", s):
        raise Fault(message("table-number", text=cell[:40]))
    return float(s)
