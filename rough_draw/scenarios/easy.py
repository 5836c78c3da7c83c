"""Practice scenarios made by hand to begin with. Invented sites, invented people."""

from __future__ import annotations

from rough_draw.core.practice.scenario import Scenario
from rough_draw.core.sheet.setups import rig_from
from rough_draw.scenarios.sheets import hidden, of_template, room, running, sheet
from rough_draw.scenarios.van import two_hoses


def easy() -> list[Scenario]:
    """All of them."""
    lines = of_template("line-set", ambient_c=18.0, coldest_c=17.0)
    plain = room()
    cylinder = of_template("cylinder", ambient_c=15.0, coldest_c=15.0)
    ballast = room()
    return [
        Scenario(
            key="a-dry-line-set",
            title="A dry line set",
            level=1,
            brief="Two new lines for the flower store, brazed under nitrogen, pressure tested, vented. The rig is on.",
            lesson="Nothing is the matter: draw, isolate, stop the pump, hold, and say so. What is dry is quick.",
            sheet=sheet("larkspur", "Store lines", lines, two_hoses(lines)),
            hidden=hidden(101, water=-0.8),
        ),
        Scenario(
            key="put-your-own-rig-on",
            title="Put your own rig on",
            level=1,
            ends="release",
            brief="A new cold room on its condensing unit, dry, pressure tested. Nothing is screwed on yet: the van is "
            "yours. The unit keeps its charge behind its two service valves.",
            lesson="Two large hoses, three tools and the gauge on the third answer every question. Close the gauge "
            "off, crack one service valve, see pressure, put the cores back, and only then take anything off.",
            sheet=sheet("larkspur", "Cold room 5", plain),
            rigged=False,
            hidden=hidden(102, water=-0.4),
        ),
        Scenario(
            key="it-stops-over-a-thousand",
            title="It stops over a thousand",
            level=1,
            brief="The apprentice started the pump half an hour ago and went for rolls. "
            "The reading has not moved since.",
            lesson="The commonest stall: the ballast is open. Looking takes seconds.",
            sheet=sheet("larkspur", "Cold room 6", ballast, two_hoses(ballast)),
            before=running(ballast=True),
            arrive_s=1800,
            hidden=hidden(103, water=-0.6),
        ),
        Scenario(
            key="an-empty-recovery-cylinder",
            title="An empty recovery cylinder",
            level=1,
            brief="The same work in small: an empty cylinder is to be evacuated before use.",
            lesson="A small volume goes down at once, and rises fast for the same leak. Rate means nothing without it.",
            sheet=sheet("saltmarsh", "Cylinder 12 l", cylinder, rig_from("single-port", cylinder), "code-minimum"),
            hidden=hidden(104),
        ),
    ]
