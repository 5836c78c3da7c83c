"""Inks of the application on paper: each with one meaning, as on the screen by day."""

from __future__ import annotations

from reportlab.lib.colors import HexColor

PAPER = HexColor("#FAFBF3")
INK = HexColor("#16212B")
SOFT = HexColor("#55604F")
RULE = HexColor("#DCE4CC")
STRONG = HexColor("#BBCBA6")
MEASURED = HexColor("#1B3F9C")
PENCIL = HexColor("#7A7F70")
GREEN = HexColor("#1C6A43")
OCHRE = HexColor("#8A5A00")
STOP = HexColor("#B3261A")
