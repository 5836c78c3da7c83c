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
        Tube("intake", "pump", "tee", 0.0127, 0.05),
        Tube("a", "tee", "hose a", 0.0103, 1.8),
        Tube("b", "tee", "hose b", 0.0080, 1.8),
        Tube("tool a", "hose a", "port a", 0.0095, 0.08),
        Tube("tool b", "hose b", "port b", 0.0095, 0.08),
        Tube("core a", "port a", "suction", 0.0048, 0.012),
        Tube("core b", "port b", "line", 0.0048, 0.012),
        Tube("suction line", "suction", "coil", 0.020, 15),
        Tube("metering", "coil", "line end", 0.0015, 0.005),
        Tube("liquid line", "line end", "line", 0.008, 15),
        Tube("to branch", "tee", "branch", 0.006, 1.0),
        Tube("to cap", "branch", "cap", 0.006, 1.0),
    )
    return Network(
        nodes,
        tubes,
        (Pump("pump", 5 * 4.719e-4, 3.0, 1.0),),
        outgassing=(Outgassing("hose a", Gas.AIR, 1e-5, 5e-5), Outgassing("hose b", Gas.WATER, 0.0, 2e-5)),
        pools=(Pool("coil", water, 3e-3, 2.0),) if water else (),
        sorbed=(Sorbed("coil", Gas.WATER, 5e-5, 1800.0, 1e-8),),
        humidity=0.01,
    )


def branching(count: int) -> Network:
    """A system of many branches off one main, ``count`` nodes in all."""
    nodes = [Node("pump", 5e-5)]
    tubes = []
    for k in range(1, count):
        nodes.append(Node(f"n{k}", 2e-4 + 1e-5 * (k % 7), group="system"))
        before = "pump" if k == 1 else f"n{k - 1 if k % 4 else max(1, k - 4)}"
        tubes.append(Tube(f"t{k}", before, f"n{k}", 0.009, 0.8))
    return Network(tuple(nodes), tuple(tubes), (Pump("pump", 2.4e-3, 3.0),), humidity=0.01)
