"""Practice scenarios made by hand with one thing wrong. Invented sites, invented people."""

from __future__ import annotations

from typing import Any

from rough_draw.core.practice.scenario import Fault, Hidden, Scenario
from rough_draw.scenarios.sheets import hidden, room, running, sheet
from rough_draw.scenarios.van import one_hose, two_hoses


def middling() -> list[Scenario]:
    """All of them."""

    def one(
        key: str, seed: int, title: str, brief: str, lesson: str, fault: Fault, level: int = 2, **more: Any
    ) -> Scenario:
        scope = more.pop("scope", None) or room()
        rig = more.pop("rig", None) or two_hoses(scope)
        site, unit = more.pop("at", ("hollow", "Growing room 3"))
        job = sheet(site, unit, scope, rig, more.pop("school", "deep-and-flat"))
        return Scenario(
            key=key, title=title, brief=brief, lesson=lesson, level=level, sheet=job, hidden=hidden(seed, fault), **more
        )

    ready = room()
    running_unit = room(condition="open-hours", open_hours=2.0)
    cold = room(ambient_c=-1.0, coldest_c=-2.0)
    wet = room(condition="open-hours", open_hours=20, humidity_pct=90)
    return [
        Scenario(
            key="ready-since-yesterday",
            title="Ready since yesterday",
            level=2,
            brief="Tested and ready since yesterday, says the note on the door. Breaker two is off. Nobody is there.",
            lesson="Power is dead when a meter says so on every leg, and a system is empty when every port has been "
            "seen at nothing, twice with minutes between: what creeps past a seat comes back.",
            sheet=sheet("larkspur", "Cold room 8", ready, two_hoses(ready)),
            hidden=Hidden(seed=206, unknowns={"water": -0.6}, found=("second-feed", "creeping")),
        ),
        Scenario(
            key="it-still-runs",
            title="It still runs",
            level=2,
            ends="release",
            brief="The coil of a cold room is to be changed, and the unit works: its charge is to stay in it. Once "
            "that is done and locked out a mate changes the coil; then it is yours to evacuate. The van is open.",
            lesson="Liquid valve closed, suction watched down to just above nothing and closed at once, stopped, seen "
            "to stand, locked out. Under nothing it draws air; left open the charge comes back.",
            sheet=sheet("larkspur", "Cold room 10", running_unit),
            rigged=False,
            working=True,
            hidden=hidden(207, water=-0.8),
        ),
        one(
            "six-hundred-and-no-lower",
            205,
            "Six hundred and no lower",
            "The pump was lent out last week. A new coil, dry as a bone, they say.",
            "Wet oil gives its water back all day. Close the system off, change it warm, pull on.",
            Fault(key="wet-oil", severity=-0.3),
        ),
        one(
            "everything-is-open-they-say",
            248,
            "Everything is open, they say",
            "One good hose, a good pump, a new dry coil: minutes, not more. The hand before you was in a hurry.",
            "A ball that stands halfway chokes like a core and leaks nothing, so neither gauge nor hold tells of it. "
            "Go along every handle first: along the line is open.",
            Fault(key="half-open:tool-a"),
            rig=one_hose(room()),
        ),
        one(
            "frost-on-the-quay",
            404,
            "Frost on the quay",
            "Minus one. The only socket is at the ticket office, on the cord of the Christmas lights.",
            "A pump on a thin cord in the cold runs slow and pulls badly. Listen to it; measure its voltage.",
            Fault(key="slow-pump"),
            scope=cold,
            at=("saltmarsh", "Kiosk"),
        ),
        one(
            "it-comes-down-but-so-slowly",
            782,
            "It comes down, but so slowly",
            "Cores pulled on both ports, says the note on the tool. New and dry.",
            "A core left in is by far the worst part of a rig. Pull again through each tool and look at what comes.",
            Fault(key="core:suction", severity=0.5),
        ),
        one(
            "new-hoses-new-room",
            532,
            "New hoses, new room",
            "New hoses came yesterday. The room is new too.",
            "New rubber gives gas off for hours. Pull on one hose at a time with the tools closed: it shows itself.",
            Fault(key="dirty-hose:hose-a", severity=1.1),
        ),
        one(
            "stuck-at-a-thousand",
            389,
            "Stuck at a thousand",
            "Everything was used yesterday on another room, and was fine.",
            "Rig and system are told apart by closing the tools: what stays high is on the pump's side of them.",
            Fault(key="hose-leak:hose-b", severity=0.3),
        ),
        one(
            "the-gauge-never-wakes-up",
            265,
            "The gauge never wakes up",
            "Twelve minutes on the pump, and the gauge is still over range.",
            "Never under a hundred thousand: an opening. A plunger not seated, a "
            "cap off. A thumb on the exhaust says so.",
            Fault(key="open", severity=-0.2),
            before=running(),
            arrive_s=720,
        ),
        one(
            "the-reading-jumps-about",
            262,
            "The reading jumps about",
            "The joint of the gauge was oiled well, so that it seals.",
            "A drop is enough: bubbles of lubricant make a gauge jump. Wipe it dry, a new gasket, hand tight.",
            Fault(key="jumping", severity=0.3),
        ),
        one(
            "it-holds-but-not-quite",
            490,
            "It holds, but not quite",
            "A flare was made again in a corner where nobody can reach. New room, dry.",
            "It rises straight on: a leak. It is found under nitrogen, not under "
            "vacuum; charging it now only loses charge.",
            Fault(key="system-leak", severity=-0.4),
            ends="release",
        ),
        one(
            "its-own-end",
            449,
            "Its own end",
            "The old pump had to come: the others are on the boat.",
            "A pump that cannot go deep on its own cannot on a system either. Blank it off, running.",
            Fault(key="worn-pump", severity=0.3),
            level=3,
        ),
        one(
            "two-hundred-too-much",
            705,
            "Two hundred too much",
            "The gauge saw a puff of refrigerant on the last job. Dry system, fresh oil.",
            "A fouled sensor reads too much, and a second gauge beside it says so. Alcohol cleans it.",
            Fault(key="fouled"),
            level=3,
        ),
        one(
            "the-pan-ran-over",
            510,
            "The pan ran over",
            "The drip pan stood in the open pipe over night. They shook it out, they say.",
            "A plateau under the water line that goes on and on: water boiling. Warmth, ballast, patience.",
            Fault(key="water", severity=-0.3),
            level=3,
            scope=wet,
        ),
    ]
