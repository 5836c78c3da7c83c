"""Practice scenarios made by hand, all of them, and the names they had."""

from __future__ import annotations

from functools import cache

from rough_draw.core.practice.scenario import Scenario
from rough_draw.scenarios.easy import easy
from rough_draw.scenarios.hard import hard
from rough_draw.scenarios.middling import middling

EARLIER = {
    "dry-line-set": "a-dry-line-set",
    "your-own-rig": "put-your-own-rig-on",
    "ballast-forgotten": "it-stops-over-a-thousand",
    "recovery-cylinder": "an-empty-recovery-cylinder",
    "gauge-on-the-wrong-side": "down-in-a-quarter-of-an-hour",
    "solenoid-shut": "the-freezer-on-the-quay",
    "pump-stopped-first": "the-kettle",
    "refrigerant-in-oil": "a-cold-compressor",
    "seat-on-a-tiny-volume": "alarm-in-a-fifth-of-a-litre",
    "leak-behind-water": "it-bends-and-then-it-does-not",
    "ice": "four-thousand-six-hundred",
    "opens-in-the-middle": "it-was-going-so-well",
    "rack-in-the-rain": "one-branch-of-the-rack",
    "wet-oil": "six-hundred-and-no-lower",
    "halfway": "everything-is-open-they-say",
    "thin-cord": "frost-on-the-quay",
    "core-still-in": "it-comes-down-but-so-slowly",
    "dirty-hose": "new-hoses-new-room",
    "hose-leak": "stuck-at-a-thousand",
    "plunger": "the-gauge-never-wakes-up",
    "jumping": "the-reading-jumps-about",
    "plain-leak": "it-holds-but-not-quite",
    "worn-pump": "its-own-end",
    "fouled-gauge": "two-hundred-too-much",
    "free-water": "the-pan-ran-over",
}
"""What each was called when its name told what is wrong with it: sessions are kept under that."""


def key_now(key: str) -> str:
    """The key of a scenario, by that or by an earlier one."""
    return EARLIER.get(key, key)


@cache
def by_hand() -> tuple[Scenario, ...]:
    """Every scenario, the easy ones first. Made once: each is checked against its own rig and system."""
    return tuple(sorted([*easy(), *middling(), *hard()], key=lambda s: s.level))
