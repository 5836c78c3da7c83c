"""One hold written in many ways reads to the same curve, or is asked about: never to another."""

from __future__ import annotations

from datetime import datetime, timedelta

import numpy as np
import pytest
from hypothesis import given, settings

from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.readings.csv_table import ReadingsError, read_table
from rough_draw.core.readings.time_unit import SECONDS, time_unit_in
from tests.depth import drawn
from tests.worlds import HEADED, MICRONS, TIMES, Table, tables


def written(header: str, unit: str, separator: str = ",", pressure: str = "vacuum (micron)") -> bytes:
    rows = [f"{header}{separator}{pressure}"]
    rows += [f"{t / SECONDS[unit]:.9g}{separator}{p:.6g}" for t, p in zip(TIMES, MICRONS, strict=True)]
    return "\n".join(rows).encode()


@pytest.mark.parametrize(("header", "unit"), HEADED)
def test_the_unit_of_time_is_read_from_the_header(header: str, unit: str) -> None:
    found = read_table(written(header, unit))
    assert found.mapping.undecided == ()
    assert found.main().time == pytest.approx(TIMES, abs=1e-3)
    assert found.main().pressure == pytest.approx(MICRONS * MICRON_PA, rel=1e-5)


@pytest.mark.parametrize(
    ("date", "clock", "pressure", "beside"),
    [
        ("Datum", "Uhrzeit", "Mikron", "Temperatur °C"),
        ("Fecha", "Hora", "Vacío (micrones)", "Batería"),
        ("Date", "Heure", "Pression µ", "Temps de réponse"),
        ("Dato", "Klokkeslett", "Trykk [micron]", "Humidity"),
        ("Datum", "Tijd", "Druk (micron)", "Feuchte"),
        ("Day", "Time", "vac, micron", "evidence"),
    ],
)
def test_columns_are_known_by_what_people_call_them(date: str, clock: str, pressure: str, beside: str) -> None:
    rows = [f"{date};{clock};{beside};{pressure}"]
    for t, p in zip(TIMES, MICRONS, strict=True):
        # Past midnight, so that the day counts.
        at = datetime(2026, 3, 14, 23, 50) + timedelta(seconds=t)
        rows.append(f"{at:%d.%m.%Y;%H:%M:%S};21.5;{p:.6g}")
    found = read_table("\n".join(rows).encode())
    assert found.mapping.undecided == ()
    assert len(found.mapping.pressures) == 1
    assert found.main().time == pytest.approx(TIMES, abs=1e-3)
    assert found.main().pressure == pytest.approx(MICRONS * MICRON_PA, rel=1e-5)


def test_a_row_of_units_under_the_header_decides() -> None:
    rows = ["elapsed;gauge 1", "min;mTorr", *(f"{t / 60:.6g};{p:.6g}" for t, p in zip(TIMES, MICRONS, strict=True))]
    found = read_table("\n".join(rows).encode())
    assert found.mapping.undecided == ()
    assert found.main().time == pytest.approx(TIMES, abs=1e-3)
    assert found.main().pressure == pytest.approx(MICRONS * MICRON_PA, rel=1e-5)


def test_what_the_table_does_not_say_is_asked() -> None:
    plain = written("time", "minutes")
    found = read_table(plain)
    assert found.mapping.undecided == ("time-unit",)
    assert "guess-seconds" in [g.key for g in found.guesses]
    said = read_table(plain, time_unit="minutes")
    assert said.mapping.undecided == ()
    assert said.main().time == pytest.approx(TIMES, abs=1e-3)
    # What the table says itself is not talked over.
    own = read_table(written("time (min)", "minutes"), time_unit="hours")
    assert own.main().time == pytest.approx(TIMES, abs=1e-3)


def test_the_order_of_day_and_month_is_decided_for_the_file_as_a_whole() -> None:
    def table(*dates: str) -> bytes:
        return "\n".join(["timestamp,micron", *(f"{d} 10:0{n}:00,{200 + n}" for n, d in enumerate(dates))]).encode()

    open_one = table("05/07/2026", "05/07/2026", "05/07/2026")
    assert read_table(open_one).mapping.undecided == ("day-first",)
    assert read_table(open_one, day_first=False).mapping.undecided == ()
    assert read_table(open_one, day_first=False).main().start_clock.startswith("2026-05-07")
    assert read_table(open_one, day_first=True).main().start_clock.startswith("2026-07-05")
    told = table("05/30/2026", "05/30/2026", "05/31/2026")
    assert read_table(told, day_first=True).main().start_clock.startswith("2026-05-30"), "the table itself says it"
    same = table("05/05/2026", "05/05/2026")
    assert read_table(same).mapping.undecided == (), "either way it is the same day"


@pytest.mark.parametrize("name", ["time", "timestamp", "h:min:s", "hour minute", "micron", "system", "Zeit"])
def test_no_unit_is_seen_where_none_or_two_are(name: str) -> None:
    assert time_unit_in(name) is None


@settings(max_examples=drawn(200))
@given(tables())
def test_one_hold_in_any_layout_is_the_same_hold_or_is_asked_about(table: Table) -> None:
    found = read_table(table.data)
    if found.mapping.undecided:
        assert not table.says_unit
        return
    rate = np.polyfit(found.main().time, found.main().pressure, 1)[0]
    assert rate == pytest.approx(0.35 * MICRON_PA, rel=2e-3)


def test_the_night_on_which_clocks_are_put_back_is_read_through() -> None:
    """Three in the morning becomes two, the rows go on by the minute; a zone written with them says it all."""
    rows = ["02:58", "02:59", "02:00", "02:01", "02:02"]
    for shape in ("2026-10-25 {}:00", "25/10/2026 {}:00", "{}:00"):
        text = "\n".join(["time,micron", *(f"{shape.format(r)},{900 - 10 * n}" for n, r in enumerate(rows))])
        found = read_table(text.encode())
        assert found.main().time.tolist() == [0.0, 60.0, 120.0, 180.0, 240.0], shape
        assert "guess-put-back" in [g.key for g in found.guesses]


def test_a_row_out_of_its_order_is_no_clock_put_back() -> None:
    for back in ("02:40:00", "02:58:30", "01:58:00"):
        text = f"time,micron\n2026-10-25 02:58:00,900\n2026-10-25 02:59:00,890\n2026-10-25 {back},880\n"
        with pytest.raises(ReadingsError):
            read_table(text.encode())


@pytest.mark.parametrize(("first", "step"), [(1_764_400_000, 1), (1_764_400_000_000, 1000)])
def test_seconds_and_milliseconds_since_1970_are_told_by_their_size(first: int, step: int) -> None:
    text = "\n".join(["timestamp,micron", *(f"{first + 30 * n * step},{900 - n}" for n in range(4))])
    found = read_table(text.encode())
    assert found.main().time.tolist() == [0.0, 30.0, 60.0, 90.0]
    assert found.mapping.undecided == ()
