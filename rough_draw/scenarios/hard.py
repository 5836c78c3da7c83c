"""Practice scenarios made by hand that are mean, or have several things wrong. Invented sites, invented people."""

from __future__ import annotations

from rough_draw.core.practice.scenario import Fault, Scenario
from rough_draw.core.sheet.setups import rig_from
from rough_draw.scenarios.sheets import hidden, of_template, room, running, sheet, short_lines
from rough_draw.scenarios.van import charging_hoses, fitted, oily_room, one_hose, two_hoses


def hard() -> list[Scenario]:
    """All of them."""
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
            key="down-in-a-quarter-of-an-hour",
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
            key="the-freezer-on-the-quay",
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
            key="the-kettle",
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
            key="a-cold-compressor",
            title="A cold compressor",
            level=3,
            brief="A whole circuit, recovered this morning in the cold; the compressor stands at eight degrees.",
            lesson="Cold oil keeps refrigerant and lets it go for hours. Warm the compressor; it levels off, no leak.",
            sheet=sheet("hollow", "Casing room", oily, two_hoses(oily, "Pump 1, 8 CFM")),
            hidden=hidden(304, Fault(key="refrigerant", severity=-0.5), water=-1.0),
        ),
        Scenario(
            key="alarm-in-a-fifth-of-a-litre",
            title="Alarm in a fifth of a litre",
            level=4,
            brief="Two short thin lines. On hold it rises so fast that the foreman wants every joint brazed again.",
            lesson="A tiny volume rises fast for nothing. The tool's own seat leaks: proved alone, it is the one that "
            "rises. A rate means nothing without the volume.",
            sheet=sheet("larkspur", "Sample fridge", tiny, two_hoses(tiny), "code-minimum"),
            hidden=hidden(305, Fault(key="seat:tool-a", severity=0.2)),
        ),
        Scenario(
            key="it-bends-and-then-it-does-not",
            title="It bends, and then it does not",
            level=4,
            brief="It ran in a vacuum for days and drew air. They have found the leak, they say, and mended it.",
            lesson="A curved start hides a straight rise: water first, a leak behind it. "
            "Dry it, hold longer, look again.",
            sheet=sheet("larkspur", "Cold room 2", both, one_hose(both), "two-limit"),
            hidden=hidden(306, Fault(key="water", severity=-0.8), Fault(key="system-leak", severity=-0.2)),
        ),
        Scenario(
            key="four-thousand-six-hundred",
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
            key="it-was-going-so-well",
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
            key="one-branch-of-the-rack",
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
