"""The trade's words, in short. ``source`` is a relation of `docs/physics.md` where there is one."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Entry:
    """A word, what it means, and the relation that stands behind it."""

    term: str
    means: str
    source: str = ""


GLOSSARY: tuple[Entry, ...] = (
    Entry("Accumulator", "A vessel before the compressor that keeps liquid out of it. Volume to be evacuated."),
    Entry("Adder", "Charge for each metre of line over the length that the unit's own charge allows for."),
    Entry("Air in", "What a port without core or valve does in a vacuum. Moist, and all of the draw is lost.", "leak"),
    Entry(
        "Blank-off",
        "What a pump reaches on its own, a gauge straight on it. Judged running: stopped, it leaks back at once.",
        "pump",
    ),
    Entry(
        "Break",
        "Dry nitrogen let into the vacuum. Each dilutes what is left and carries heat to ice and water.",
        "nitrogen break",
    ),
    Entry("Check-hold", "A short hold about 1,000 µ, the pump still on, before the rest of the draw."),
    Entry("Choked", "Flow that no deeper vacuum makes any faster: so is a leak from the air.", "leak"),
    Entry(
        "Coldest spot", "Where water stays longest. No water lifts a hold over its saturation there.", "saturation, ice"
    ),
    Entry(
        "Conductance",
        "What a passage lets through for a difference of pressure, l/s. In series they add as 1/C.",
        "long tube",
    ),
    Entry(
        "Core tool",
        "A ball valve with a plunger that takes a valve core out, and puts it back, under pressure or vacuum.",
    ),
    Entry("Decay", "The hold: what the pressure does once nothing pumps. It rises; how is what tells."),
    Entry("Depressor", "The pin in a hose's end that pushes a core open. It halves what the hose could do."),
    Entry("Dwell", "Minutes kept under the target with the pump on before the hold."),
    Entry(
        "Equalisation",
        "What evens out between near and far in the first minutes of a hold. Not a leak.",
        "a leak seen from afar",
    ),
    Entry(
        "Free water",
        "Water that stands, not vapour, not bound. A plateau at its saturation until it is gone.",
        "standing water",
    ),
    Entry(
        "Gas ballast",
        "A bleed of air that keeps water from condensing in the oil. Left open, it ends the draw early.",
        "pump",
    ),
    Entry("Heel", "What is left in a cylinder that no longer comes out by itself."),
    Entry("Hygroscopic", "Takes up water from air, and keeps it: POE and PVE oils.", "sorbed gas"),
    Entry("Isolate", "Close the system off, as near to it as the rig's valves allow. Before the pump stops.", ""),
    Entry("Isolated section", "A part behind a closed valve. Not evacuated, and no gauge says so."),
    Entry("Micron", "1 µ = 1 mTorr = 0.1333 Pa, absolute. The air at sea level is 760,000.", ""),
    Entry(
        "Mean free path",
        "How far a molecule goes between two others. Over the bore, pressure no longer pushes.",
        "mean free path",
    ),
    Entry("Outgassing", "What rubber, oil and walls give off, less and less, about as one over the time.", "hose"),
    Entry("Over range", "More than the gauge can say. It is no figure."),
    Entry("Permeation", "Air through the hose itself. In a hold with hoses in, part of the rise is theirs.", "hose"),
    Entry("Rig proof", "The rig pulled alone, the tools closed, one hose at a time.", "rig proof"),
    Entry(
        "Saturation", "The pressure at which water and its vapour stand together, by temperature.", "saturation, liquid"
    ),
    Entry("Subcooling", "How far liquid is under its boiling point at its pressure, K."),
    Entry("Superheat", "How far vapour is over its boiling point at its pressure, K."),
    Entry(
        "Sweep",
        "A slow flow of nitrogen through the whole system, in at one end and out at the other.",
        "nitrogen sweep",
    ),
    Entry(
        "Throughput",
        "Gas that passes, Pa·m³/s: volume flow times pressure. The same all along a rig.",
        "even pressures",
    ),
    Entry(
        "Transitional",
        "Between pushing and flying: most of a draw in hoses. Neither rule alone is right there.",
        "long tube",
    ),
    Entry("Triple evacuation", "Down, broken with nitrogen, down, broken, down and held.", "nitrogen break"),
    Entry("Valve core", "The spring valve in a port. Left in, by far the worst part of a rig.", "entrance"),
)
