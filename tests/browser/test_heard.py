"""A whole job as it is heard: the tree that a screen reader reads out, stage by stage, on a desk and on a phone."""

from __future__ import annotations

import itertools
import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field

import pytest
from playwright.sync_api import Page, expect

from rough_draw.core.proving.stage_progress import STAGES
from tests.browser.test_access import PAGES, there
from tests.browser.waits import Visits
from tests.depth import first, whole

pytestmark = pytest.mark.browser

PRESSED = ("button", "link", "textbox", "checkbox", "radio", "combobox", "tab", "slider", "spinbutton", "switch")
GROUPS = (
    "region",
    "group",
    "radiogroup",
    "list",
    "listitem",
    "dialog",
    "form",
    "table",
    "row",
    "navigation",
    "section",
)


@dataclass(frozen=True)
class Heard:
    """One thing that is read out: its role and name, its heading's level, the named groups that it stands in."""

    role: str
    name: str
    level: int
    within: tuple[str, ...] = field(default=())


def heard(page: Page) -> list[Heard]:
    """Everything on the page in the order in which it is read out."""
    cdp = page.context.new_cdp_session(page)
    nodes = cdp.send("Accessibility.getFullAXTree")["nodes"]
    cdp.detach()
    by_id = {n["nodeId"]: n for n in nodes}

    def walk(node: dict, within: tuple[str, ...]) -> Iterator[Heard]:  # type: ignore[type-arg]
        role = str(node.get("role", {}).get("value", ""))
        name = str(node.get("name", {}).get("value", "")).strip()
        if not node.get("ignored"):
            level = next((p["value"]["value"] for p in node.get("properties", []) if p["name"] == "level"), 0)
            yield Heard(role, name, int(level), within)
            if role in GROUPS and name:
                within = (*within, f"{role} {name}")
        for child in node.get("childIds", []):
            if child in by_id:
                yield from walk(by_id[child], within)

    return list(walk(nodes[0], ()))


def faults(found: list[Heard]) -> list[str]:
    """What would be lost on who only listens."""
    told = []
    headings = [h for h in found if h.role == "heading"]
    if [h.level for h in headings].count(1) != 1:
        told.append(f"headings of level 1: {[h.name for h in headings if h.level == 1]}")
    for before, after in itertools.pairwise(headings):
        if after.level > before.level + 1 and (before.level, after.level) != (2, 4):
            told.append(f"a level is left out before '{after.name}'")
    pressed = [h for h in found if h.role in PRESSED]
    told += [f"{h.role} without a name in {h.within[-2:]}" for h in pressed if not re.search(r"\w", h.name)]
    # A choice of its group, or a tab of its list, may be called what another's is.
    same = Counter((h.within, h.role, h.name) for h in pressed)
    told += [f"{n} × {role} '{name}' in {where[-2:]}" for (where, role, name), n in same.items() if n > 1]
    told += [f"a picture without a name in {h.within[-2:]}" for h in found if h.role in ("image", "img") and not h.name]
    return told


@pytest.mark.parametrize("width", first(1, [390, 1280]))
def test_every_stage_can_be_told_from_what_is_heard(page: Page, site: str, width: int) -> None:
    page.set_viewport_size({"width": width, "height": 844})
    page.goto(f"{site}/")
    there(page)
    found: dict[str, list[str]] = {}
    visits = Visits(page, site)
    for stage in STAGES:
        visits.go(PAGES[stage])
        there(page)
        expect(page).to_have_title(re.compile(f"^{stage}: ", re.IGNORECASE))
        told = heard(page)
        names = [h.name for h in told]
        if wrong := faults(told):
            found[stage] = wrong
        for landmark in ("main", "navigation"):
            assert any(h.role == landmark for h in told), (stage, landmark)
        assert "Stages" in names
    assert found == {}


@whole
def test_a_change_of_stage_is_heard_from_its_top(page: Page, site: str) -> None:
    """Stage by stage by keys: where the reading begins anew, and what it begins with."""
    page.goto(f"{site}/jobs/hollow-5/scope")
    there(page)
    for stage in STAGES[1:]:
        page.keyboard.press("]")
        expect(page).to_have_url(re.compile(f"/{stage}$"))
        there(page)
        focused = "() => document.activeElement?.closest('main') !== null && document.activeElement?.textContent"
        told = page.wait_for_function(focused).json_value()
        assert "Hollow Bank" in str(told), (stage, told)
        expect(page).to_have_title(re.compile(f"^{stage}: ", re.IGNORECASE))
