"""Practice scenarios made by hand: from a dry line set to the mean ones. Invented sites, invented people."""

from __future__ import annotations

from functools import cache
from typing import Any

from rough_draw.core.practice.scenario import Fault, Scenario
from rough_draw.core.sheet.setups import rig_from
from rough_draw.scenarios.sheets import hidden, of_template, room, running, sheet, short_lines
from rough_draw.scenarios.van import charging_hoses, fitted, oily_room, one_hose, two_hoses


@cache
def by_hand() -> tuple[Scenario, ...]:
    """Every scenario, the easy ones first. Made once: each is checked against its own rig and system."""
    return tuple(sorted([*_easy(), *_middling(), *_hard()], key=lambda s: s.level))


def _easy() -> list[Scenario]:
    lines = of_template("line-set", ambient_c=18.0, coldest_c=17.0)
    plain = room()
    cylinder = of_template("cylinder", ambient_c=15.0, coldest_c=15.0)
    ballast = room()
    return [
        Scenario(
            key="dry-line-set",
            title="A dry line set",
            level=1,
            brief="Two new lines for the flower store, brazed under nitrogen, pressure tested, vented. The rig is on.",
            lesson="Nothing is the matter: draw, isolate, stop the pump, hold, and say so. What is dry is quick.",
            sheet=sheet("larkspur", "Store lines", lines, two_hoses(lines)),
            hidden=hidden(101, water=-0.8),
        ),
        Scenario(
            key="your-own-rig",
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
            key="ballast-forgotten",
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
            key="recovery-cylinder",
            title="An empty recovery cylinder",
            level=1,
            brief="The same work in small: an empty cylinder is to be evacuated before use.",
            lesson="A small volume goes down at once, and rises fast for the same leak. Rate means nothing without it.",
            sheet=sheet("saltmarsh", "Cylinder 12 l", cylinder, rig_from("single-port", cylinder), "code-minimum"),
            hidden=hidden(104),
        ),
    ]


def _middling() -> list[Scenario]:
    def one(key: str, title: str, brief: str, lesson: str, fault: Fault, level: int = 2, **more: Any) -> Scenario:
        scope = more.pop("scope", None) or room()
        rig = more.pop("rig", None) or two_hoses(scope)
        site, unit = more.pop("at", ("hollow", "Growing room 3"))
        job = sheet(site, unit, scope, rig, more.pop("school", "deep-and-flat"))
        seed = more.pop("seed", 200 + sum(key.encode()) % 700)
        return Scenario(
            key=key, title=title, brief=brief, lesson=lesson, level=level, sheet=job, hidden=hidden(seed, fault), **more
        )

    cold = room(ambient_c=-1.0, coldest_c=-2.0)
    wet = room(condition="open-hours", open_hours=20, humidity_pct=90)
    return [
        one(
            "wet-oil",
            "Six hundred and no lower",
            "The pump was lent out last week. A new coil, dry as a bone, they say.",
            "Wet oil gives its water back all day. Close the system off, change it warm, pull on.",
            Fault(key="wet-oil", severity=-0.3),
        ),
        one(
            "halfway",
            "Everything is open, they say",
            "One good hose, a good pump, a new dry coil: minutes, not more. The hand before you was in a hurry.",
            "A ball that stands halfway chokes like a core and leaks nothing, so neither gauge nor hold tells of it. "
            "Go along every handle first: along the line is open.",
            Fault(key="half-open:tool-a"),
            rig=one_hose(room()),
        ),
        one(
            "thin-cord",
            "Frost on the quay",
            "Minus one. The only socket is at the ticket office, on the cord of the Christmas lights.",
            "A pump on a thin cord in the cold runs slow and pulls badly. Listen to it; measure its voltage.",
            Fault(key="slow-pump"),
            scope=cold,
            at=("saltmarsh", "Kiosk"),
        ),
        one(
            "core-still-in",
            "It comes down, but so slowly",
            "Cores pulled on both ports, says the note on the tool. New and dry.",
            "A core left in is by far the worst part of a rig. Pull again through each tool and look at what comes.",
            Fault(key="core:suction", severity=0.5),
        ),
        one(
            "dirty-hose",
            "New hoses, new room",
            "New hoses came yesterday. The room is new too.",
            "New rubber gives gas off for hours. Pull on one hose at a time with the tools closed: it shows itself.",
            Fault(key="dirty-hose:hose-a", severity=1.1),
        ),
        one(
            "hose-leak",
            "Stuck at a thousand",
            "Everything was used yesterday on another room, and was fine.",
            "Rig and system are told apart by closing the tools: what stays high is on the pump's side of them.",
            Fault(key="hose-leak:hose-b", severity=0.3),
        ),
        one(
            "plunger",
            "The gauge never wakes up",
            "Twelve minutes on the pump, and the gauge is still over range.",
            "Never under a hundred thousand: an opening. A plunger not seated, a "
            "cap off. A thumb on the exhaust says so.",
            Fault(key="open", severity=-0.2),
            before=running(),
            arrive_s=720,
        ),
        one(
            "jumping",
            "The reading jumps about",
            "The joint of the gauge was oiled well, so that it seals.",
            "A drop is enough: bubbles of lubricant make a gauge jump. Wipe it dry, a new gasket, hand tight.",
            Fault(key="jumping", severity=0.3),
        ),
        one(
            "plain-leak",
            "It holds, but not quite",
            "A flare was made again in a corner where nobody can reach. New room, dry.",
            "It rises straight on: a leak. It is found under nitrogen, not under "
            "vacuum; charging it now only loses charge.",
            Fault(key="system-leak", severity=-0.4),
            ends="release",
        ),
        one(
            "worn-pump",
            "Its own end",
            "The old pump had to come: the others are on the boat.",
            "A pump that cannot go deep on its own cannot on a system either. Blank it off, running.",
            Fault(key="worn-pump", severity=0.3),
            level=3,
        ),
        one(
            "fouled-gauge",
            "Two hundred too much",
            "The gauge saw a puff of refrigerant on the last job. Dry system, fresh oil.",
            "A fouled sensor reads too much, and a second gauge beside it says so. Alcohol cleans it.",
            Fault(key="fouled"),
            level=3,
        ),
        one(
            "free-water",
            "The pan ran over",
            "The drip pan stood in the open pipe over night. They shook it out, they say.",
            "A plateau under the water line that goes on and on: water boiling. Warmth, ballast, patience.",
            Fault(key="water", severity=-0.3),
            level=3,
            scope=wet,
        ),
    ]


def _hard() -> list[Scenario]:
    freezer = of_template("freezer", ambient_c=16.0, coldest_c=10.0)
    solenoids = tuple(x.id for x in freezer.links if x.kind == "solenoid")
    manifold = room()
    stopped = room()
    tiny = short_lines()
    both = room(condition="leak-drawn-air", humidity_pct=85)
    iced = room(ambient_c=6.0, coldest_c=2.0, condition="open-hours", open_hours=6)
    opens, mean = room(), room(condition="open-hours", open_hours=12, humidity_pct=80)
    oily = oily_room()
    rack = of_template("rack-circuit", ambient_c=18.0, coldest_c=12.0)
    valves = tuple(x.id for x in rack.links if x.id.startswith("valve-"))
    return [
        Scenario(
            key="gauge-on-the-wrong-side",
            title="Down in a quarter of an hour",
            level=3,
            brief="A manifold, two charging hoses, and it is already under target: ready "
            "to charge, says the apprentice.",
            lesson="At the manifold with the cores in, the gauge says what the pump has, not the system. Rig it anew: "
            "cores out, large hoses, the gauge far from the pump.",
            sheet=sheet(
                "saltmarsh",
                "Bait store",
                manifold,
                charging_hoses(manifold, "Pump 1, 8 CFM", "Gauge 2"),
                "code-minimum",
            ),
            before=running(),
            arrive_s=810,
            hidden=hidden(301),
        ),
        Scenario(
            key="solenoid-shut",
            title="The freezer on the quay",
            level=3,
            brief="A freezer, two evaporators, the power locked out. It came down faster than it was planned to.",
            lesson="Without power a solenoid is closed, and what is behind it stays at the "
            "atmosphere: nothing on the gauge "
            "says so. Go along every valve with the magnet before the draw.",
            sheet=sheet("saltmarsh", "Fish freezer", freezer, two_hoses(freezer, "Pump 1, 8 CFM"), "two-limit"),
            hidden=hidden(302, shut=solenoids, water=-1.3),
        ),
        Scenario(
            key="pump-stopped-first",
            title="The kettle",
            level=3,
            brief="It was nearly there; then the breaker was needed for the kettle. Nothing had been isolated.",
            lesson="A stopped pump lets its air and oil back: what rises is that, not a "
            "leak. Draw again, isolate first, "
            "pump off second.",
            sheet=sheet("hollow", "Growing room 1", stopped, two_hoses(stopped)),
            before=running(("pump-off", 1500.0)),
            arrive_s=1620,
            hidden=hidden(303),
        ),
        Scenario(
            key="refrigerant-in-oil",
            title="A cold compressor",
            level=3,
            brief="A whole circuit, recovered this morning in the cold; the compressor stands at eight degrees.",
            lesson="Cold oil keeps refrigerant and lets it go for hours. Warm the compressor; it levels off, no leak.",
            sheet=sheet("hollow", "Casing room", oily, two_hoses(oily, "Pump 1, 8 CFM")),
            hidden=hidden(304, Fault(key="refrigerant", severity=-0.5), water=-1.0),
        ),
        Scenario(
            key="seat-on-a-tiny-volume",
            title="Alarm in a fifth of a litre",
            level=4,
            brief="Two short thin lines. On hold it rises so fast that the foreman wants every joint brazed again.",
            lesson="A tiny volume rises fast for nothing. The tool's own seat leaks: proved alone, it is the one that "
            "rises. A rate means nothing without the volume.",
            sheet=sheet("larkspur", "Sample fridge", tiny, two_hoses(tiny), "code-minimum"),
            hidden=hidden(305, Fault(key="seat:tool-a", severity=0.2)),
        ),
        Scenario(
            key="leak-behind-water",
            title="It bends, and then it does not",
            level=4,
            brief="It ran in a vacuum for days and drew air. They have found the leak, they say, and mended it.",
            lesson="A curved start hides a straight rise: water first, a leak behind it. "
            "Dry it, hold longer, look again.",
            sheet=sheet("larkspur", "Cold room 2", both, one_hose(both), "two-limit"),
            hidden=hidden(306, Fault(key="water", severity=-0.8), Fault(key="system-leak", severity=-0.2)),
        ),
        Scenario(
            key="ice",
            title="Four thousand six hundred",
            level=4,
            ends="release",
            brief="A cellar at six degrees, the coil had stood open under a dripping "
            "roof. It fell quickly, then no more.",
            lesson="Water pulled too fast freezes and then hardly gives vapour. Break with nitrogen, warm, pull again.",
            sheet=sheet("hollow", "Cellar", iced, two_hoses(iced)),
            before=running(),
            arrive_s=900,
            hidden=hidden(307, Fault(key="ice", severity=-0.4)),
        ),
        Scenario(
            key="opens-in-the-middle",
            title="It was going so well",
            level=4,
            brief="Five minutes of a good draw; then a lorry backs into the platform.",
            lesson="A rise in the middle of a draw is something that has just opened. It is not mended by pulling.",
            sheet=sheet("saltmarsh", "Platform store", opens, two_hoses(opens)),
            before=running(),
            arrive_s=300,
            hidden=hidden(308, Fault(key="system-leak", severity=0.6, at_s=600)),
        ),
        Scenario(
            key="rack-in-the-rain",
            title="One branch of the rack",
            level=5,
            brief="A rack circuit with its cases, between its stop valves. The new hoses are on. A long day.",
            lesson="First every valve, then the rig by itself, then the system. One thing "
            "at a time, each told by a test.",
            sheet=sheet(
                "saltmarsh",
                "Rack, circuit 3",
                rack,
                fitted(rig_from("single-port", rack), pump="Pump 1, 8 CFM"),
                "two-limit",
            ),
            hidden=hidden(309, Fault(key="dirty-hose:hose-a", severity=1.5), shut=valves),
        ),
        Scenario(
            key="three-at-once",
            title="Three at once",
            level=5,
            ends="release",
            brief="Opened for twelve hours in the wet; the pump was lent out; the gauge came back with it.",
            lesson="One cure shows the next fault. Blank-off and a second gauge first: "
            "know your tools before the system.",
            sheet=sheet("larkspur", "Cold room 7", mean, two_hoses(mean)),
            hidden=hidden(
                310,
                Fault(key="wet-oil", severity=-0.5),
                Fault(key="fouled", severity=-0.3),
                Fault(key="water", severity=-0.8),
            ),
        ),
    ]
