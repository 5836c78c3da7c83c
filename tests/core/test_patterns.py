"""The hook-ups in use: what each answers to the six questions, computed from its graph."""

from __future__ import annotations

import pytest

from rough_draw.core.advice.setup_check import Answer, answers
from rough_draw.core.model.assemble import assemble
from rough_draw.core.model.isolation import behind_check, isolation, left_out
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.rig import HosePart
from rough_draw.core.sheet.setups import PATTERNS, fits, ports_for, rig_from
from rough_draw.core.sheet.templates import TEMPLATES
from tests.builders import scope
from tests.told import figures


def asked(key: str, template: str = "cooler") -> dict[str, Answer]:
    found = scope(template)
    job = Job(scope=found, rig=rig_from(key, found))
    a = assemble(job)
    return {x.letter: x for x in answers(job, a, isolation(job, a))}


# What practice says of each hook-up: can it be isolated, is the gauge well placed, can the gauge be shut off, are the
# cores kept, is hose in the hold, can liquid be charged. "-" where practice says nothing.
SAID = {
    "one-hose-bare-gauge": "yes yes no yes yes -",
    "one-hose-valved-gauge": "yes yes yes yes yes -",
    "single-port": "yes yes yes yes yes -",
    "two-hoses": "yes yes no yes yes yes",
    "three-tools": "yes yes yes yes yes yes",
    "four-port-sensor": "partly no - yes no -",
    "four-port-tool-gauge": "yes yes no yes yes -",
    "four-port-as-tee": "yes yes yes yes yes -",
    "two-valve": "yes yes no yes yes -",
    "quarter-hoses": "yes yes no yes yes -",
    "cylinder-ready": "partly no - yes no yes",
    "low-side-dial": "- no no - - -",
    "pump-on-high": "partly no - - no -",
    "far-gauge": "yes yes yes yes yes -",
}


@pytest.mark.parametrize("key", SAID)
def test_each_pattern_answers_as_practice_says(key: str) -> None:
    found = asked(key, "ductless" if key == "single-port" else "cooler")
    for letter, said in zip("abcdef", SAID[key].split(), strict=True):
        if said != "-":
            assert found[letter].says == said, (key, letter, found[letter].words)


def test_the_commercial_pattern_answers_on_three_ports() -> None:
    found = asked("commercial", "packaged")
    assert [found[x].says for x in "abcde"] == ["yes"] * 5
    assert found["b"].words.key == "setup-b-far"


def test_a_gauge_without_a_valve_is_told_what_it_stands() -> None:
    words = asked("two-hoses")["c"].words
    assert words.key == "setup-c-no-valve"
    assert figures(words)["rated"] == pytest.approx(3.5e6)


def test_what_the_hoses_let_into_the_hold_is_reckoned() -> None:
    words = asked("cylinder-ready")["e"].words
    assert words.key == "setup-e-hose"
    assert figures(words)["length"] == pytest.approx(3.0), "the cylinder's hose is closed off with its valve"
    assert figures(words)["rate"] > 0


@pytest.mark.parametrize("template", sorted(TEMPLATES))
def test_patterns_take_ports_of_the_right_size_and_side(template: str) -> None:
    found = scope(template)
    for key in PATTERNS:
        if not fits(key, found):
            assert PATTERNS[key].ports > len(found.ports)
            with pytest.raises(ValueError, match="needs"):
                rig_from(key, found)
            continue
        rig = rig_from(key, found)
        used = [p.port for p in rig.parts if p.port]
        assert len(used) == len(set(used))
        for p in rig.parts:
            port = found.port(p.port) if p.port else None
            assert p.port is None or port is not None
            assert port is None or getattr(p, "fits", port.size) == port.size


def test_the_larger_hose_goes_to_the_suction_side() -> None:
    found = scope()
    rig = rig_from("three-tools", found)
    sizes = {rig.chain(p)[-2].id: p.port for p in rig.pumped()}
    large = next(p for p in rig.parts if isinstance(p, HosePart) and p.size == "1/2 in")
    assert sizes[large.id] == "suction"


def test_ports_are_taken_suction_first_and_far_apart() -> None:
    ports = ports_for(scope("outdoor-air"), 3)
    assert ports is not None
    assert ports.first.side == "suction"
    assert ports.second is not None
    assert ports.second.side == "discharge"


def test_shut_solenoids_leave_sections_out_and_opening_them_lets_all_in() -> None:
    closed, opened = scope("freezer"), scope("freezer", opened=True)
    a = assemble(Job(scope=closed, rig=rig_from("one-hose-valved-gauge", closed)))
    assert left_out(a) == ["liquid", "receiver"]
    b = assemble(Job(scope=opened, rig=rig_from("one-hose-valved-gauge", opened)))
    assert left_out(b) == []


def test_a_check_valve_counts_in_its_direction_only() -> None:
    # Pulled from suction alone, the reheat coil empties only through its check valve; from its own port it does not.
    found = scope("outdoor-air")
    one = assemble(Job(scope=found, rig=rig_from("one-hose-valved-gauge", found)))
    assert "reheat" in behind_check(one)
    shut = found.model_copy(
        update={
            "links": tuple(
                x.model_copy(update={"a": x.b, "b": x.a}) if x.id == "reheat-out" else x for x in found.links
            )
        }
    )
    turned = assemble(Job(scope=shut, rig=rig_from("one-hose-valved-gauge", shut)))
    assert "reheat" in left_out(turned)
