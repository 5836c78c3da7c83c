"""The trade's words. ``source`` is a relation of `docs/physics.md` where there is one."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.message import Message, message


@dataclass(frozen=True)
class Entry:
    """A word by its key, and the relation that stands behind it. ``others``: it goes by other names too."""

    key: str
    source: str = ""
    others: bool = False

    @property
    def term(self) -> Message:
        """The word."""
        return message(f"word-{self.key}")

    @property
    def means(self) -> Message:
        """What it means."""
        return message(f"word-{self.key}.means")

    @property
    def also(self) -> Message | None:
        """What else it is called."""
        return message(f"word-{self.key}.also") if self.others else None


GLOSSARY: tuple[Entry, ...] = (
    Entry("accumulator", others=True),
    Entry("a2l", others=True),
    Entry("a3", others=True),
    Entry("absolute", source="units", others=True),
    Entry("adder", others=True),
    Entry("air-in", source="leak"),
    Entry("dial-gauge", source="dial gauge", others=True),
    Entry("ballast", source="pump", others=True),
    Entry("blank-off", source="pump", others=True),
    Entry("break", source="nitrogen break", others=True),
    Entry("bubble-point", others=True),
    Entry("bulb", others=True),
    Entry("burnout", others=True),
    Entry("capillary", others=True),
    Entry("charging-hose", source="rubber and seals", others=True),
    Entry("check-valve", others=True),
    Entry("choked", source="leak", others=True),
    Entry("coldest-spot", source="saturation, ice"),
    Entry("conductance", source="long tube", others=True),
    Entry("core", source="entrance", others=True),
    Entry("core-tool", others=True),
    Entry("crankcase-heater", others=True),
    Entry("deep-vacuum", source="saturation, liquid"),
    Entry("depressor", others=True),
    Entry("deviation"),
    Entry("dip-tube", others=True),
    Entry("drier", others=True),
    Entry("dwell", others=True),
    Entry("eev", others=True),
    Entry("equalization", source="a leak seen from afar", others=True),
    Entry("free-water", source="standing water", others=True),
    Entry("gauge-tool"),
    Entry("gauge-pressure", source="units", others=True),
    Entry("glide"),
    Entry("heel"),
    Entry("hold-check", others=True),
    Entry("hold-test", source="leak", others=True),
    Entry("hygroscopic", source="water in oil"),
    Entry("isolate", others=True),
    Entry("isolated-section"),
    Entry("leak-rate", source="leak"),
    Entry("lockout", others=True),
    Entry("makers", others=True),
    Entry("manifold", others=True),
    Entry("mean-free-path", source="mean free path"),
    Entry("micron", others=True),
    Entry("micron-gauge", others=True),
    Entry("nameplate", others=True),
    Entry("nitrogen", others=True),
    Entry("outgassing", source="rubber and seals"),
    Entry("over-range", others=True),
    Entry("permeation", source="rubber and seals"),
    Entry("poe", source="water in oil", others=True),
    Entry("pump-down"),
    Entry("purge"),
    Entry("recovery", others=True),
    Entry("reheat"),
    Entry("relief"),
    Entry("rig-proof", source="rig proof"),
    Entry("rise", source="leak", others=True),
    Entry("saturation", source="saturation, liquid", others=True),
    Entry("seal"),
    Entry("service-valve", others=True),
    Entry("setup", others=True),
    Entry("single-stage", source="pump", others=True),
    Entry("solenoid"),
    Entry("standard", others=True),
    Entry("subcooling"),
    Entry("superheat"),
    Entry("sweep", source="nitrogen sweep"),
    Entry("throughput", source="even pressures"),
    Entry("transitional", source="long tube"),
    Entry("trim", others=True),
    Entry("triple", source="nitrogen break"),
    Entry("txv", others=True),
    Entry("vacuum-hose", source="long tube", others=True),
    Entry("zeotrope", others=True),
)
