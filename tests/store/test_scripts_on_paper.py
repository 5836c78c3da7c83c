"""Names in the scripts that people write them in: on reports and labels, in text and in drawings."""

from __future__ import annotations

import io
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pypdf import PdfReader
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Paragraph

from rough_draw.core.sheet.kit import KitItem
from rough_draw.store import labels
from rough_draw.store.report.fonts import BOLD, EASTERN, FIGURES, KOREAN, OTHERS, TEXT, marked_up, plain, registered
from rough_draw.store.report.style import SMALL

NAMES = {
    "cyrillic": "Холодный склад № 4",
    "greek": "Ψυγείο ανθέων",
    "armenian": "Սառնարան",
    "georgian": "მაცივარი",
    "polish": "Chłodnia Żółwińska",
    "vietnamese": "Kho lạnh Đường Thủy",
    "chinese": "花卉冷库",
    "japanese": "フェリー乗り場の冷蔵室",
    "korean": "버섯 농장",
}


def letters(pdf: bytes) -> str:
    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)
    return re.sub(r"\s", "", text)


@pytest.mark.parametrize("name", NAMES.values(), ids=NAMES)
def test_a_name_is_printed_in_its_own_letters(name: str) -> None:
    assert "□" not in marked_up(name)
    assert "?" not in marked_up(name)
    shown, font = plain(name)
    assert shown == name
    item = KitItem(id=7, kind="pump", name=name, values={})
    assert re.sub(r"\s", "", name) in letters(labels.sheet([item]))
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=A4)
    canvas.setFont(font, 9)
    canvas.drawString(50, 700, shown)
    canvas.save()
    assert re.sub(r"\s", "", name) in letters(out.getvalue())


@pytest.mark.parametrize("name", ["מחסן קירור", "غرفة تبريد"], ids=["hebrew", "arabic"])
def test_what_is_read_from_the_right_is_set_from_there(name: str) -> None:
    shown, font = plain(name)
    assert font == OTHERS
    assert shown == name[::-1]
    # What is around it keeps its side.
    assert plain(f"Unit {name} 4")[0] == f"Unit {name[::-1]} 4"


def test_plain_latin_keeps_the_applications_own_type() -> None:
    for font in (TEXT, BOLD, FIGURES):
        assert plain("Cold room 4, 500", font) == ("Cold room 4, 500", font)
    assert marked_up("Cold room 4") == "Cold room 4"


@given(st.text(max_size=60))
def test_whatever_is_written_can_be_set(text: str) -> None:
    """Never a fault, never a sign that steers a machine; marks of a page are printed, not obeyed."""
    Paragraph(marked_up(text), SMALL).wrap(300, 300)
    shown, font = plain(text)
    assert not re.search("[\x00-\x1f\x7f]", shown)
    canvas = Canvas(io.BytesIO(), pagesize=A4)
    canvas.setFont(font, 8)
    canvas.drawString(10, 10, shown)
    canvas.save()


def test_every_cut_has_its_letters() -> None:
    assert all(len(found) > 100 for found in registered().values())
    for name, letter in ((EASTERN, "冷"), (KOREAN, "농")):
        assert plain(letter) == (letter, name)
