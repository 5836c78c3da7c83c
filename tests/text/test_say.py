"""Sentences: every message is there in each English, says what it is given, and in the reader's units only."""

from __future__ import annotations

import ast
import re
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import get_args

import pytest
from fluent.syntax import ast as ftl
from fluent.syntax import parse
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.interlock.consequence import ConsequenceKind, Kind
from rough_draw.core.interlock.goal_key import GoalKey
from rough_draw.core.interlock.orders import order
from rough_draw.core.message import Figure, Message, message
from rough_draw.core.message.figure import gauge_pressure, vacuum
from rough_draw.core.practice.scoring import Facts, marks
from rough_draw.core.sheet.job import Job
from rough_draw.core.sheet.settings import Settings
from rough_draw.core.sheet.setups import PATTERNS, fits, rig_from
from rough_draw.text import Reader, reader_of, reading_as, say
from rough_draw.text.bundle import FIRST, LOCALES, Untold, bundles, format_message
from rough_draw.text.figures import WRITE
from tests.builders import scope
from tests.depth import drawn

CORE = Path(__file__).parents[2] / "rough_draw" / "core"
US = Reader(temperature="f", length="ft", mass="lb-oz", volume="ft3", locale="en-US")
METRIC = Reader(
    vacuum="pa", gauge="bar", temperature="c", flow="l-min", length="m", mass="kg", volume="l", locale="en-GB"
)
FOREIGN = {
    "us": r"\d (?:µbar|Pa|bar|kPa|°C|l/min|m|kg|g|l|mm)\b(?!/)",
    "metric": r"\d (?:µ|psi|psig|°F|CFM|ft|in|lb|oz|ft³|in³)\b",
}
"""What neither reader should ever read after a figure."""


def entries(locale: str) -> dict[str, ftl.Message]:
    found: dict[str, ftl.Message] = {}
    for file in sorted((LOCALES / locale).glob("*.ftl")):
        for entry in parse(file.read_text(encoding="utf-8")).body:
            assert not isinstance(entry, ftl.Junk), (file.name, entry.content)
            if isinstance(entry, ftl.Message):
                assert entry.id.name not in found, f"{entry.id.name} is said twice"
                found[entry.id.name] = entry
    return found


def wanted(entry: ftl.Message) -> set[str]:
    """Names of the values that a message or its reason asks for."""
    return {node["id"]["name"] for node in _nodes(entry.to_json()) if node.get("type") == "VariableReference"}


def _nodes(value: object) -> Iterator[dict]:  # type: ignore[type-arg]
    if isinstance(value, dict):
        yield value
        for inner in value.values():
            yield from _nodes(inner)
    elif isinstance(value, list):
        for inner in value:
            yield from _nodes(inner)


def spoken() -> set[str]:
    """Keys written out in the core."""
    found: set[str] = set()
    for file in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.args:
                first = node.args[0]
                if isinstance(first, ast.Constant) and isinstance(first.value, str):
                    prefix = {"message": "", "_because": "because-"}.get(node.func.id)
                    if prefix is not None:
                        found.add(prefix + first.value)
                    if node.func.id in ("stop", "caution", "note"):
                        case = node.args[1].value if node.args[1:] and isinstance(node.args[1], ast.Constant) else ""
                        if case or len(node.args) == 1:
                            found.add("-".join(filter(None, ("consequence", first.value, case))))
    return found


def test_every_sentence_the_core_writes_out_is_there() -> None:
    said = entries(FIRST)
    assert {k for k in spoken() if k.partition(".")[0] not in said} == set()
    # Of keys that are put together, all that can be.
    assert {k for k in get_args(ConsequenceKind) if not any(x.startswith(f"consequence-{k}") for x in said)} == set()
    assert {k for k in get_args(Kind) if f"step-{k}" not in said} == set()


@pytest.mark.parametrize("locale", sorted(p.name for p in LOCALES.iterdir()))
def test_a_variant_says_nothing_that_the_first_does_not(locale: str) -> None:
    first, own = entries(FIRST), entries(locale)
    assert set(own) <= set(first)
    for key, entry in own.items():
        assert wanted(entry) == wanted(first[key]), key
        assert {a.id.name for a in entry.attributes} == {a.id.name for a in first[key].attributes}, key


@pytest.mark.parametrize("locale", ["en-US", "en-GB"])
def test_every_message_can_be_said(locale: str) -> None:
    for key, entry in entries(FIRST).items():
        values: dict[str, str | int] = dict.fromkeys(wanted(entry), "x")
        for name in ("points", "hit", "all"):
            if name in values:
                values[name] = 3
        parts = ([key] if entry.value else []) + [f"{key}.{a.id.name}" for a in entry.attributes]
        for part in parts:
            text = format_message(part, values, locale)
            # A clause that is joined to a sentence begins or ends with a blank of its own.
            assert text.strip()
            assert "{" not in text
            assert "  " not in text.strip()


def test_what_is_not_told_is_a_fault_and_never_silence() -> None:
    for told in (message("no-such-sentence"), message("mark-held", time=Figure("duration", 60.0))):
        with pytest.raises(Untold):
            say(told)


def test_another_language_is_one_folder_more(tmp_path: Path) -> None:
    (tmp_path / "de").mkdir()
    (tmp_path / "de" / "interlock.ftl").write_text(
        "move-open = { $what } öffnen\nmark-held = { $time } gehalten, { $asked } verlangt\n", encoding="utf-8"
    )
    (tmp_path / FIRST).symlink_to(LOCALES / FIRST)
    assert format_message("move-open", {"what": "Ventil"}, "de", tmp_path) == "Ventil öffnen"
    assert format_message("move-pump-on", {}, "de", tmp_path) == "Start the pump"
    assert len(bundles("de", tmp_path)) == 2


@pytest.mark.parametrize("goal", sorted(get_args(GoalKey)))
@pytest.mark.parametrize("pattern", sorted(PATTERNS))
def test_orders_are_said_whole_and_in_the_readers_units(pattern: str, goal: GoalKey) -> None:
    on = scope("cooler", opened=True)
    if not fits(pattern, on):
        on = scope("chiller", opened=True)
    for who, foreign in ((US, FOREIGN["us"]), (METRIC, FOREIGN["metric"])):
        for step in order(Job(scope=on, rig=rig_from(pattern, on)), goal):
            assert step.why is not None
            for told in (step.title, step.why, *(c.whole for c in step.care)):
                text = say(told, who)
                # Names of hoses carry their trade sizes, which are names.
                assert not re.search(foreign, re.sub(r"\([^)]*\)", "", text)), text


@settings(max_examples=drawn(60))
@given(st.sampled_from(sorted(WRITE)), st.floats(1e-6, 1e7), st.sampled_from([US, METRIC, Reader()]))
def test_any_figure_is_written_with_a_unit_and_no_tail(dimension: str, value: float, who: Reader) -> None:
    text = say(Figure(dimension, value), who)  # type: ignore[arg-type]
    assert re.match(r"^(under |over |< )?−?[\d,]+(\.\d+)?", text)
    # Thousands are set apart, nothing is written as a machine writes it, and there is a unit.
    assert not re.search(r"(?<![\d.])\d{4}|\de[+-]?\d|nan|inf\b", text)
    assert dimension == "number" or re.search(r"[^\W\d]|%", text)
    # Noughts stand behind pressures and weights only: there they say how fine they were read.
    if dimension not in ("vacuum", "rise", "gauge", "absolute", "step", "weight"):
        assert not re.search(r"\d\.\d*0{3,}(?!\d)", text)


ANY = st.one_of(st.floats(), st.integers(), st.sampled_from([10**400, -(10**29), 5e-324, 1e28, 999_999_999_999_999.9]))


@settings(max_examples=drawn(300))
@given(st.sampled_from(sorted(WRITE)), ANY, st.sampled_from([US, METRIC, Reader(numbers="comma")]))
def test_what_is_no_figure_of_anything_is_told_all_the_same(dimension: str, value: float, who: Reader) -> None:
    """What people send is in what they are told about it: a number of sixty digits, too."""
    for told in (Figure(dimension, value), message("pace-unknown", pace=Figure("number", value), offered="1")):  # type: ignore[arg-type]
        text = say(told, who)
        assert 0 < len(text) < 200
        assert not re.search(r"\de[+-]?\d|nan|inf\b", text)


@pytest.mark.parametrize(
    ("told", "us", "metric"),
    [
        (vacuum(66.661), "500 µ", "66.7 Pa"),
        (vacuum(0.60), "4.5 µ", "0.600 Pa"),
        (gauge_pressure(0.0), "0 psig", "0 bar gauge"),
        (gauge_pressure(3.5e6), "508 psig", "35.0 bar gauge"),
        (Figure("temperature", 253.15), "−4 °F", "−20 °C"),
        (Figure("temperature-step", 5.0), "9 °F", "5 °C"),
        (Figure("length", 1.905), "6 ft 3 in", "1.9 m"),
        (Figure("length", -0.3048), "−1 ft", "−0.3 m"),
        (Figure("bore", 0.00635), "1/4 in", "6.4 mm"),
        (Figure("mass", 0.4), "14.1 oz", "400 g"),
        (Figure("mass", 4.44), "9 lb 12.6 oz", "4.44 kg"),
        (Figure("weight", 16.905), "37 lb 4.3 oz", "16.905 kg"),
        (Figure("weight", 127.4), "280 lb 13.9 oz", "127.40 kg"),
        (Figure("weight", 0.08), "2.8 oz", "80 g"),
        (Figure("adder", 0.0558), "0.60 oz/ft", "56 g/m"),
        (Figure("volume", 8e-6), "0.49 in³", "8 ml"),
        (Figure("volume", 0.0125), "0.441 ft³", "12.5 l"),
        (Figure("flow", 0.00283), "6 CFM", "170 l/min"),
        (Figure("duration", 89.6), "90 s", "90 s"),
        (Figure("duration", 7500.0), "2 h 05 min", "2 h 05 min"),
        (Figure("throughput", 2.13e-5), "2.1 × 10⁻⁵ Pa·m³/s", "2.1 × 10⁻⁵ Pa·m³/s"),
        (Figure("share", 0.004), "under 1 %", "under 1 %"),
        (Figure("rise", 0.5 / 7.50062), "0.50 µ/s", "0.067 Pa/s"),
    ],
)
def test_figures_as_two_readers_read_them(told: Figure, us: str, metric: str) -> None:
    assert say(told, US) == us
    assert say(told, METRIC) == metric


def test_a_marks_lines_are_said_in_the_readers_units() -> None:
    facts = Facts(
        acts=(), faults=(), target=26.0, limit=66.0, hold_s=600.0, spent=900.0, expert=800.0, at_isolation=133.322
    )
    lines: list[Message] = [line for m in marks(facts) for line in m.lines]
    with reading_as(METRIC):
        assert any("133 Pa" in say(line) for line in lines)
    with reading_as(lambda: reader_of(Settings(english="uk"))):
        assert any("1,000 µ" in say(line) for line in lines)


@pytest.mark.parametrize("locale", ["en-US", "en-GB"])
def test_no_key_is_given_twice(locale: str) -> None:
    """A later file would silently win over an earlier one."""
    keys = [
        k for f in sorted((LOCALES / locale).glob("*.ftl")) for k in re.findall(r"(?m)^([a-z][\w-]*) =", f.read_text())
    ]
    assert [k for k, n in Counter(keys).items() if n > 1] == []


@pytest.mark.parametrize("unit", ["micron", "mbar", "pa", "torr", "inhg"])
def test_a_rise_that_is_no_figure_has_no_sign(unit: str) -> None:
    reader = Reader(vacuum=unit)
    for tiny in (-1e-9, -6e-4, 0.0, 6e-4):
        assert not re.search("[-−+]", WRITE["rise"](tiny, reader)), (unit, tiny)
    assert WRITE["rise"](-0.1, reader).lstrip()[0] in "-−"
