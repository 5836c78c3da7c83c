"""Parts of a rig by generic class: bores, lengths, permeation. No make is named; a measured part overrides these."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA

CORE_IN_BORE = Quantity(
    1.5e-3, 1.0e-3, 2.0e-3, "m", "estimate: annular throat of a depressed valve core, equivalent bore"
)
CORE_IN_LENGTH = Quantity(10e-3, 7e-3, 13e-3, "m", "estimate: length of the throat of a valve core")
PORT_BORE = {
    "1/4 in": Quantity(4.6e-3, 4.2e-3, 5.0e-3, "m", "estimate: 1/4 in flare service port with its core out"),
    "5/16 in": Quantity(5.8e-3, 5.2e-3, 6.4e-3, "m", "estimate: 5/16 in flare service port with its core out"),
    "3/8 in": Quantity(7.4e-3, 6.6e-3, 8.2e-3, "m", "estimate: 3/8 in flare service port with its core out"),
    "1/2 in": Quantity(10.2e-3, 9.2e-3, 11.0e-3, "m", "estimate: 1/2 in flare service port"),
}
PORT_LENGTH = Quantity(15e-3, 10e-3, 20e-3, "m", "estimate: service port stem")
TOOL_BORE = {
    "1/4 in": Quantity(6.3e-3, 5.2e-3, 7.2e-3, "m", "estimate: core tool with 1/4 in hose end, ball and body"),
    "3/8 in": Quantity(8.0e-3, 6.5e-3, 9.0e-3, "m", "estimate: core tool with 3/8 in hose end, ball and body"),
    "1/2 in": Quantity(10.5e-3, 9.0e-3, 12.0e-3, "m", "estimate: core tool with 1/2 in hose end, ball and body"),
}
TOOL_LEAK = Quantity(2e-5, 5e-6, 1e-4, "Pa·m³/s", "estimate: leak past the seals of a tool not made for vacuum")
TOOL_VOLUME = Quantity(8e-6, 5e-6, 12e-6, "m³", "estimate: core tool with its core out")
VALVE_BORE = Quantity(9.0e-3, 7.0e-3, 11.0e-3, "m", "estimate: small full-bore ball valve")
VALVE_LENGTH = Quantity(60e-3, 45e-3, 80e-3, "m", "estimate: small ball valve, end to end")
ADAPTER_BORE = Quantity(4.6e-3, 4.0e-3, 5.4e-3, "m", "estimate: flare adapter, its narrower end")
ADAPTER_LENGTH = Quantity(30e-3, 20e-3, 40e-3, "m", "estimate: flare adapter")
TEE_BORE = Quantity(12.0e-3, 9.0e-3, 15.0e-3, "m", "estimate: vacuum tee, one branch")
TEE_LENGTH = Quantity(35e-3, 25e-3, 55e-3, "m", "estimate: vacuum tee, one branch")
TOOL_LENGTH = Quantity(90e-3, 70e-3, 120e-3, "m", "estimate: core tool, end to end")
DEPRESSOR_BORE = Quantity(2.4e-3, 1.8e-3, 3.0e-3, "m", "estimate: hose end with its depressor left in")
DEPRESSOR_LENGTH = Quantity(8e-3, 5e-3, 12e-3, "m", "estimate: hose end with its depressor left in")
END_LENGTH = Quantity(25e-3, 15e-3, 35e-3, "m", "estimate: swivel nut and barb of one hose end")
PUMP_INLET_BORE = Quantity(10e-3, 8e-3, 12e-3, "m", "estimate: pump intake passages")
TEE_VOLUME = Quantity(15e-6, 8e-6, 25e-6, "m³", "estimate: tee and intake passages")

MANIFOLD_BORE = {
    "two-valve": Quantity(4.5e-3, 3.5e-3, 5.5e-3, "m", "estimate: three-port manifold passages and valves"),
    "four-port": Quantity(6.5e-3, 5.0e-3, 8.0e-3, "m", "estimate: four-port large-bore manifold"),
}
MANIFOLD_LENGTH = Quantity(120e-3, 90e-3, 160e-3, "m", "estimate: passage from centre to side port")

HOSE_BORE = {
    "1/4 in": Quantity(5.4e-3, 4.8e-3, 6.3e-3, "m", "estimate: 3/16–1/4 in true bore"),
    "3/8 in": Quantity(8.7e-3, 8.0e-3, 9.5e-3, "m", "estimate: nominal 3/8 in"),
    "1/2 in": Quantity(12.2e-3, 11.2e-3, 12.7e-3, "m", "estimate: nominal 1/2 in"),
    "3/4 in": Quantity(18.3e-3, 17.0e-3, 19.0e-3, "m", "estimate: nominal 3/4 in"),
}
HOSE_END_BORE = {
    "1/4 in": Quantity(4.6e-3, 4.0e-3, 5.2e-3, "m", "estimate: 1/4 in flare end"),
    "3/8 in": Quantity(6.4e-3, 5.0e-3, 7.5e-3, "m", "estimate: 3/8 in or large-bore 1/4 in flare end"),
    "1/2 in": Quantity(8.5e-3, 6.4e-3, 10.0e-3, "m", "estimate: end of a 1/2 in hose"),
    "3/4 in": Quantity(14.0e-3, 11.0e-3, 16.0e-3, "m", "estimate: end of a 3/4 in hose"),
}

HOSE_STEADY = {
    "vacuum": Quantity(6e-6, 2e-6, 2e-5, "Pa·m³/s per m", "estimate: permeation of a vacuum-rated hose"),
    "pressure": Quantity(1e-4, 3e-5, 3e-4, "Pa·m³/s per m", "estimate: permeation of a rubber charging hose"),
}
HOSE_FRESH = {
    "new": Quantity(4e-4, 1e-4, 1.5e-3, "Pa·m³/s per m", "estimate: outgassing of new rubber, falls as 1/t"),
    "used": Quantity(4e-5, 1e-5, 1.5e-4, "Pa·m³/s per m", "estimate: outgassing of a hose long in use"),
    "old": Quantity(1.5e-4, 4e-5, 6e-4, "Pa·m³/s per m", "estimate: oil and moisture in an old hose"),
}

PUMP_ULTIMATE = Quantity(25 * MICRON_PA, 12 * MICRON_PA, 60 * MICRON_PA, "Pa", "estimate: two-stage pump, fresh oil")
PUMP_SPEED_SHARE = Quantity(0.92, 0.85, 0.98, "of plate", "estimate: speed at the intake against free-air plate")
BALLAST_ULTIMATE = Quantity(900 * MICRON_PA, 500 * MICRON_PA, 2000 * MICRON_PA, "Pa", "estimate: ballast open")
OIL_WATER = {
    "fresh": Quantity(4 * MICRON_PA, 1 * MICRON_PA, 10 * MICRON_PA, "Pa", "estimate: vapour over fresh oil"),
    "used": Quantity(40 * MICRON_PA, 15 * MICRON_PA, 120 * MICRON_PA, "Pa", "estimate: vapour over oil of a day's use"),
    "wet": Quantity(600 * MICRON_PA, 250 * MICRON_PA, 2000 * MICRON_PA, "Pa", "estimate: vapour over milky oil"),
}

PUMP_ULTIMATE_SINGLE = Quantity(
    150 * MICRON_PA, 80 * MICRON_PA, 400 * MICRON_PA, "Pa", "estimate: single-stage pump, fresh oil"
)
SWEEP_FLOW = Quantity(1.5e-4, 0.8e-4, 4e-4, "m³/s", "estimate: a slow flow of nitrogen, about 9 l/min")
SWEEP_CHANGES = Quantity(3.0, 2.0, 5.0, "volumes", "estimate: well mixed, three volumes leave 5 % of the air")
CURRENT_PER_CFM = Quantity(1.1, 0.8, 1.5, "A/CFM", "estimate: pump motor at 120 V; half of it at 230 V")
STARTING_CURRENT = Quantity(5.0, 3.5, 7.0, "of running", "estimate: single-phase motor, locked rotor")


@dataclass(frozen=True, kw_only=True)
class GaugeClass:
    """A generic class of micron gauge: where it starts to read, its step, its lag, what pressure it stands."""

    name: str
    over_micron: Quantity
    resolution_micron: Quantity
    lag_s: Quantity
    stands_kpa: Quantity


GAUGES: dict[str, GaugeClass] = {
    g.name: g
    for g in (
        GaugeClass(
            name="thermistor",
            over_micron=Quantity(20_000, 12_000, 25_000, "µ", "estimate: heated-bead gauges"),
            resolution_micron=Quantity(1.0, 1.0, 5.0, "µ", "estimate: heated-bead gauges"),
            lag_s=Quantity(2.0, 1.0, 4.0, "s", "estimate: heated-bead gauges"),
            stands_kpa=Quantity(3500, 2000, 4100, "kPa", "estimate: heated-bead gauges"),
        ),
        GaugeClass(
            name="stepped",
            over_micron=Quantity(25_000, 20_000, 25_000, "µ", "estimate: gauges with a row of lamps or coarse steps"),
            resolution_micron=Quantity(25.0, 10.0, 50.0, "µ", "estimate: gauges with a row of lamps or coarse steps"),
            lag_s=Quantity(3.0, 1.5, 6.0, "s", "estimate: gauges with a row of lamps or coarse steps"),
            stands_kpa=Quantity(2400, 1000, 3500, "kPa", "estimate: gauges with a row of lamps or coarse steps"),
        ),
        GaugeClass(
            name="thin-film",
            over_micron=Quantity(100_000, 50_000, 760_000, "µ", "estimate: micro-machined heat-loss gauges"),
            resolution_micron=Quantity(0.1, 0.1, 1.0, "µ", "estimate: micro-machined heat-loss gauges"),
            lag_s=Quantity(0.5, 0.2, 1.0, "s", "estimate: micro-machined heat-loss gauges"),
            stands_kpa=Quantity(4100, 3400, 5500, "kPa", "estimate: micro-machined heat-loss gauges"),
        ),
        GaugeClass(
            name="diaphragm",
            over_micron=Quantity(760_000, 100_000, 760_000, "µ", "estimate: capacitance gauges"),
            resolution_micron=Quantity(1.0, 0.1, 10.0, "µ", "estimate: capacitance gauges"),
            lag_s=Quantity(0.2, 0.05, 0.5, "s", "estimate: capacitance gauges"),
            stands_kpa=Quantity(300, 200, 1000, "kPa", "estimate: capacitance gauges"),
        ),
    )
}


PUMPS_CFM: tuple[float, ...] = (2.0, 3.0, 4.0, 5.0, 6.0, 8.0, 10.0, 12.0)
HOSE_SIZES: tuple[str, ...] = tuple(HOSE_BORE)
