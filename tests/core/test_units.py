"""Units: exact factors, elevation, and the dial that cannot be."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.physics import dial, units


def test_micron_is_a_millitorr() -> None:
    assert pytest.approx(0.133322368, rel=1e-8) == units.MICRON_PA
    assert units.from_pa(101_325.0, "micron") == pytest.approx(760_000.0)
    assert units.to_pa(1.0, "torr") == pytest.approx(133.322368, rel=1e-8)


@given(st.floats(1e-3, 1e6), st.sampled_from(sorted(units.PA_PER)))
def test_there_and_back(value: float, unit: str) -> None:
    assert units.from_pa(units.to_pa(value, unit), unit) == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize(
    ("written", "unit"),
    [
        ("um Hg", "micron"),
        ("µ", "micron"),
        ("Microns", "micron"),
        ("[mbar]", "mbar"),
        ("in. Hg", "inhg"),
        ("mTorr", "mtorr"),
    ],
)
def test_units_as_people_write_them(written: str, unit: str) -> None:
    assert units.pressure_unit(written) == unit


def test_what_is_not_a_unit_is_none() -> None:
    assert units.pressure_unit("battery") is None
    with pytest.raises(ValueError, match="unknown pressure unit"):
        units.to_pa(1, "furlong")


def test_standard_atmosphere() -> None:
    # ISO 2533 tabulates 89,874.6 Pa at 1,000 m and 70,108.5 Pa at 3,000 m.
    assert units.atmosphere_at(0) == pytest.approx(101_325)
    assert units.atmosphere_at(1000) == pytest.approx(89_874.6, rel=2e-4)
    assert units.atmosphere_at(3000) == pytest.approx(70_108.5, rel=2e-4)
    with pytest.raises(ValueError, match="outside"):
        units.atmosphere_at(20_000)


def test_dial_29_9_leaves_508_micron() -> None:
    # 29.92 − 29.90 = 0.02 inHg = 508 µ.
    atmosphere = units.to_pa(29.92, "inhg")
    left = dial.dial_to_absolute(29.9, "inhg", atmosphere)
    assert units.micron(left) == pytest.approx(508, abs=1)


def test_one_percent_of_a_dial_hides_7600_micron() -> None:
    assert units.micron(units.to_pa(0.01 * 30, "inhg")) == pytest.approx(7_620, abs=25)


def test_minus_30_psi_is_caught() -> None:
    with pytest.raises(ValueError, match="dial-impossible-other"):
        dial.dial_to_absolute(-30, "psi", units.ATMOSPHERE_PA)


def test_a_dial_at_altitude_cannot_reach_29_9() -> None:
    with pytest.raises(ValueError, match="dial-impossible"):
        dial.dial_to_absolute(29.9, "inhg", units.atmosphere_at(1500))


def test_dial_sign_is_ignored() -> None:
    a = dial.dial_to_absolute(25, "inhg", units.ATMOSPHERE_PA)
    assert dial.dial_to_absolute(-25, "inhg", units.ATMOSPHERE_PA) == a
