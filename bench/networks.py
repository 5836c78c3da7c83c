"""The networks that are measured."""

from __future__ import annotations

from rough_draw.core.engine.network import Gas, Network, Node, Outgassing, Pool, Pump, Sorbed, Tube


def rig_of_twelve(water: float = 0.002) -> Network:
    """Twelve nodes, two gases: pump, tee, two hoses with tools, ports, a system of four sections, a spare branch."""
    nodes = (
        Node("pump", 5e-5),
        Node("tee", 5e-5),
        Node("hose a", 5e-5),
        Node("hose b", 5e-5),
        Node("port a", 5e-6),
        Node("port b", 5e-6),
        Node("suction", 2e-3, group="system"),
        Node("coil", 5e-3, 288.0, "system"),
        Node("line end", 4e-4, group="system"),
        Node("line", 4e-4, group="system"),
        Node("branch", 1e-4),
        Node("cap", 1e-4),
    )
    tubes = (
        Tube(name="intake", a="pump", b="tee", bore=0.0127, length=0.05),
        Tube(name="a", a="tee", b="hose a", bore=0.0103, length=1.8),
        Tube(name="b", a="tee", b="hose b", bore=0.0080, length=1.8),
        Tube(name="tool a", a="hose a", b="port a", bore=0.0095, length=0.08),
        Tube(name="tool b", a="hose b", b="port b", bore=0.0095, length=0.08),
        Tube(name="core a", a="port a", b="suction", bore=0.0048, length=0.012),
        Tube(name="core b", a="port b", b="line", bore=0.0048, length=0.012),
        Tube(name="suction line", a="suction", b="coil", bore=0.020, length=15),
        Tube(name="metering", a="coil", b="line end", bore=0.0015, length=0.005),
        Tube(name="liquid line", a="line end", b="line", bore=0.008, length=15),
        Tube(name="to branch", a="tee", b="branch", bore=0.006, length=1.0),
        Tube(name="to cap", a="branch", b="cap", bore=0.006, length=1.0),
    )
    return Network(
        nodes=nodes,
        tubes=tubes,
        pumps=(Pump(node="pump", speed=5 * 4.719e-4, ultimate=3.0, ultimate_water=1.0),),
        outgassing=(
            Outgassing(node="hose a", gas=Gas.AIR, steady=1e-5, fresh=5e-5),
            Outgassing(node="hose b", gas=Gas.WATER, steady=0.0, fresh=2e-5),
        ),
        pools=(Pool("coil", water, 3e-3, 2.0),) if water else (),
        sorbed=(Sorbed(node="coil", gas=Gas.WATER, mass=5e-5, tau=1800.0, capacity=1e-8),),
        humidity=0.01,
    )


def branching(count: int) -> Network:
    """A system of many branches off one main, ``count`` nodes in all."""
    nodes = [Node("pump", 5e-5)]
    tubes = []
    for k in range(1, count):
        nodes.append(Node(f"n{k}", 2e-4 + 1e-5 * (k % 7), group="system"))
        before = "pump" if k == 1 else f"n{k - 1 if k % 4 else max(1, k - 4)}"
        tubes.append(Tube(name=f"t{k}", a=before, b=f"n{k}", bore=0.009, length=0.8))
    return Network(
        nodes=tuple(nodes), tubes=tuple(tubes), pumps=(Pump(node="pump", speed=2.4e-3, ultimate=3.0),), humidity=0.01
    )
