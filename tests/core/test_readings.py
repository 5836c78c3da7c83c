"""Readings as they come from the field: layouts, units, clocks, faults; and finding the hold in them."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.message import Message
from rough_draw.core.physics.units import MICRON_PA, PA_PER, from_pa
from rough_draw.core.readings.csv_table import Import, ReadingsError, read_table
from rough_draw.core.readings.downsampling import decimate
from rough_draw.core.readings.series import Series, find_hold
from tests.told import keys, plain

LEVELS = [760_000.0, 52_000.0, 4_100.0, 812.0, 305.0, 240.0]


def clock(k: int, base: int = 13 * 3600 + 34 * 60) -> str:
    s = (base + 10 * k) % 86_400
    return f"{s // 3600:02d}:{s % 3600 // 60:02d}:{s % 60:02d}"


def microns(found: Import) -> list[float]:
    return [round(float(x) / MICRON_PA) for x in found.main().pressure]


def rows(separator: str, header: str, line) -> bytes:  # type: ignore[no-untyped-def]
    return "\n".join([header, *(separator.join(line(k, m)) for k, m in enumerate(LEVELS))]).encode()


def comma(x: float) -> str:
    return f"{x:.4f}".replace(".", ",")


LAYOUTS = {
    "plain": rows(",", "time_s,pressure_micron", lambda k, m: [str(10 * k), f"{m:.0f}"]),
    "semicolon, decimal comma, mbar": rows(
        ";", "Uhrzeit;Druck [mbar]", lambda k, m: [clock(k), comma(from_pa(m * MICRON_PA, "mbar"))]
    ),
    "tab, timestamp, Torr, battery": rows(
        "\t",
        "Timestamp\tP (Torr)\tGauge battery (%)",
        lambda k, m: [f"2026-09-14T{clock(k)}+02:00", f"{m / 1000:.4f}", "88"],
    ),
    "thousands separators": rows(",", "Time,Vacuum (microns)", lambda k, m: [clock(k), f'"{m:,.0f}"']),
    "date, time with pm, unit column, preamble": b"Logger export\nUnit,Cold room 2\n\n"
    + rows(
        ",",
        "Date,Time,Reading,Unit",
        lambda k, m: ["14/09/2026", f"01:{34 + k // 6:02d}:{10 * k % 60:02d} PM", f"{m:.0f}", "um Hg"],
    ),
    "CRLF": rows(",", "elapsed_s,pressure_pa", lambda k, m: [str(10 * k), f"{m * MICRON_PA:.5f}"]).replace(
        b"\n", b"\r\n"
    ),
    "no header": b"\n".join(f"{10 * k},{m:.0f}".encode() for k, m in enumerate(LEVELS)),
}


@pytest.mark.parametrize("name", LAYOUTS)
def test_layouts(name: str) -> None:
    found = read_table(LAYOUTS[name])
    assert microns(found) == pytest.approx(LEVELS, abs=1)
    assert found.main().time == pytest.approx([0, 10, 20, 30, 40, 50])


@pytest.mark.parametrize("encoding", ["utf-16", "utf-8-sig", "cp1252", "utf-16-le"])
def test_encodings(encoding: str) -> None:
    data = LAYOUTS["semicolon, decimal comma, mbar"].decode().replace("Druck", "Unterdrück").encode(encoding)
    assert microns(read_table(data)) == pytest.approx(LEVELS, abs=1)


def test_guesses_are_said() -> None:
    assert "guess-no-header" in keys(read_table(LAYOUTS["no header"]).guesses)
    found = read_table(b"time,pressure\n0,900\n10,800\n20,700\n")
    assert keys(found.guesses) == ["guess-microns", "guess-seconds"]
    assert not read_table(LAYOUTS["plain"]).guesses


def test_a_given_mapping_guesses_nothing() -> None:
    first = read_table(LAYOUTS["no header"])
    again = read_table(LAYOUTS["no header"], first.mapping)
    assert again.guesses == ()
    assert microns(again) == microns(first)


def test_over_and_blank_are_over_range() -> None:
    found = read_table(b"time_s,micron\n0,OVER\n1,\n2,18290\n3,9000\n")
    assert found.over == 2
    assert np.isnan(found.main().pressure[:2]).all()
    assert found.main().valid()[0] == pytest.approx([2, 3])


def test_minutes_and_seconds() -> None:
    text = "Time,Vacuum (microns)\n" + "\n".join(f"{k // 60}:{k % 60:02d},{5000 - k}" for k in range(0, 2400, 40))
    found = read_table(text.encode())
    assert found.mapping.time_kind == "m:ss"
    assert found.main().time[-1] == pytest.approx(2360)


def test_by_hand_past_midnight_with_notes() -> None:
    found = read_table(b"time,microns,note\n23:50,90,\n23:58,60,\n00:05,30,isolated\n00:10,45,\n00:20,46,\n")
    series = found.main()
    assert series.time == pytest.approx([0, 480, 900, 1200, 1800])
    assert find_hold(series) == pytest.approx(900)


def test_two_gauges_and_the_one_at_the_system() -> None:
    text = "elapsed_s,manifold_pa,system_pa\n" + "\n".join(f"{10 * k},{50 - k},{90 - k}" for k in range(9))
    found = read_table(text.encode())
    assert [s.label for s in found.series] == ["manifold_pa", "system_pa"]
    assert found.main().label == "system_pa"


def test_dial_vacuum_in_inhg() -> None:
    found = read_table(b"time_s,vacuum (inHg)\n0,0\n60,20.0\n120,29.0\n180,29.8\n")
    assert keys(found.guesses) == ["guess-dial"]
    assert found.main().pressure[-1] == pytest.approx(101_325 - 29.8 * 3386.389, rel=1e-6)


DIALS = {
    # header, values, whether they are a dial's
    "a hold that rises": ("vacuum (inHg)", (29.90, 29.85, 29.80), True),
    "a draw": ("inHg", (0.0, 20.0, 29.9), True),
    "signed": ("psi", (-14.2, -14.1, -14.1), True),
    "one figure over and over": ("gauge (inHg)", (29.5, 29.5, 29.5), True),
    "a vacuum that is lost, in part": ("vacuum inHg", (29.9, 20.0, 5.0), True),
    "absolute, as it says": ("pressure (inHg abs)", (29.9, 2.0, 1.8), False),
    "psia": ("suction (psia)", (14.7, 3.0, 2.0), False),
    "a draw in absolute inHg": ("inHg", (29.9, 0.3, 0.02), False),
    "a hold in absolute inHg": ("inHg", (0.02, 0.02, 0.02), False),
}


@pytest.mark.parametrize("name", DIALS)
def test_inhg_is_vacuum_below_the_air_unless_it_cannot_be(name: str) -> None:
    header, values, is_dial = DIALS[name]
    rows = [f"{60 * k},{v}" for k, v in enumerate(values)]
    found = read_table("\n".join([f"time_s,{header}", *rows]).encode(), atmosphere=101_325.0)
    unit = 6894.757293168 if "psi" in header else PA_PER["inhg"]
    expected = [101_325 - abs(v) * unit if is_dial else v * unit for v in values]
    assert found.main().pressure == pytest.approx(expected, rel=1e-4, abs=1.0)
    assert found.mapping.pressures[0].dial is is_dial
    said = {"a draw in absolute inHg", "a hold in absolute inHg"}
    expected_guess = ["guess-dial"] if is_dial else ["guess-absolute"] if name in said else []
    assert keys(found.guesses) == expected_guess


FAULTS: dict[str, tuple[bytes, tuple[int, str, dict[str, object]]]] = {
    "words for numbers": (b"time_s,micron\n0,900\n5,abc\n", (3, "table-pressure", {"text": "abc"})),
    "time back": (b"time_s,micron\n0,900\n20,800\n15,700\n", (4, "table-time-back", {"time": 5.0, "at": 3})),
    "negative": (b"time_s,micron\n0,900\n5,-40\n", (3, "table-negative", {"text": "-40"})),
    "too high": (b"time_s,micron\n0,900\n5,1e9\n", (3, "table-above-air", {"text": "1e9", "pressure": 1.33322e8})),
    "same time twice": (b"time_s,micron\n0,900\n5,90\n5,91\n", (4, "table-same-time", {"at": 3})),
    "other separator": (b"time_s,micron\n0,900\n7;80\n", (3, "table-columns", {"count": 1, "width": 2})),
    "missing pressure": (b"time_s,temp\n0,20\n5,21\n", (1, "table-no-header", {"text": "temp"})),
    "missing time": (b"place,micron\n0,20\n5,21\n", (1, "table-no-header", {"text": "micron"})),
    "minus thirty psi": (b"time_s,vacuum (psi)\n0,0\n5,-30\n", (3, "dial-impossible-other", {})),
    "not a time": (b"time,micron\n13:00,9\n25 past,8\n", (3, "table-time", {"text": "25 past", "kind": "clock"})),
    "sixty-one minutes": (b"time,micron\n13:00,9\n13:61,8\n", (3, "table-time-59", {"text": "13:61"})),
    "empty": (b"  \n", (0, "table-empty", {})),
    "no rows": (b"time_s,micron\n", (1, "table-no-rows", {})),
    "spreadsheet": (b"PK\x03\x04abcdef", (0, "table-zip", {})),
    "binary": (b"\x7fELF\x00\x00\x01\x02time,micron\n" * 3, (0, "table-not-text", {})),
    "all over": (b"time_s,micron\n0,OVER\n1,OVER\n2,OVER\n", (1, "table-nothing-in-range", {"column": "micron"})),
    "cut UTF-16": ("time_s,micron\n0,900\n".encode("utf-16")[:-1], (0, "table-cut-off", {})),
}


@pytest.mark.parametrize("name", FAULTS)
def test_faults_are_told_by_line(name: str) -> None:
    data, (line, key, values) = FAULTS[name]
    with pytest.raises(ReadingsError) as caught:
        read_table(data)
    told = [f for f in caught.value.faults if (f.line, keys(f.message)) == (line, [key])]
    assert told, [str(f) for f in caught.value.faults]
    assert isinstance(told[0].message, Message)
    assert plain(told[0].message, *values) == values


def test_all_faults_are_told_at_once() -> None:
    with pytest.raises(ReadingsError) as caught:
        read_table(b"time_s,micron\n0,900\n5,abc\n4,9\n6,-4\n")
    assert [f.line for f in caught.value.faults] == [3, 4, 5]


def test_200_mb_is_refused_at_once() -> None:
    with pytest.raises(ReadingsError, match="table-too-large"):
        read_table(b"0,1\n" * 50_000_000)


@given(st.binary(max_size=400) | st.text(max_size=300).map(str.encode))
def test_any_bytes_are_read_or_refused(data: bytes) -> None:
    try:
        found = read_table(data)
    except ReadingsError:
        return
    assert found.main().time.size >= 2


def draw_then(rise, floor: float = 30.0, noise: float = 0.0) -> Series:  # type: ignore[no-untyped-def]
    t = np.arange(0, 1800.0)
    p = 700_000 * np.exp(-t / 15) + floor
    held = t > 900
    p[held] = floor + rise(t[held] - 900)
    rng = np.random.default_rng(3)
    return Series(t, p * (1 + noise * rng.normal(size=t.size)) * MICRON_PA)


@pytest.mark.parametrize("noise", [0.0, 0.004])
def test_the_hold_is_found_where_the_floor_is_left(noise: float) -> None:
    assert find_hold(draw_then(lambda t: 1.4 * t, 135, noise)) == pytest.approx(900, abs=12)
    assert find_hold(draw_then(lambda t: 66 * (1 - np.exp(-t / 90)), 28, noise)) == pytest.approx(900, abs=12)


def test_no_hold_where_the_pressure_stays_down() -> None:
    assert find_hold(draw_then(lambda t: 0 * t)) is None


def test_decimation_keeps_extremes_and_gaps() -> None:
    x = np.arange(86_400.0)
    y = np.sin(x / 500) + 5
    y[40_000] = 99.0
    y[60_000] = -3.0
    y[70_000:70_100] = np.nan
    dx, dy = decimate(x, y, 3000)
    assert dx.size <= 3002
    assert np.nanmax(dy) == 99.0
    assert np.nanmin(dy) == -3.0
    assert np.isnan(dy).any()
    assert dx[0] == 0
    assert dx[-1] == 86_399


STROKES = {
    # dates as written, which way they are read
    "a day over twelve": (["25/07/2026", "25/07/2026", "26/07/2026"], "25 July"),
    "a month in front": (["07/25/2026", "07/25/2026", "07/26/2026"], "25 July"),
    "a month in front, the day runs on": (["07/11/2026", "07/11/2026", "07/12/2026"], "11 July"),
    "the day runs on": (["11/07/2026", "11/07/2026", "12/07/2026"], "11 July"),
    "points": (["11.07.2026", "11.07.2026", "12.07.2026"], "11 July"),
    "years in front": (["2026-07-11", "2026-07-11", "2026-07-12"], "11 July"),
    "a month by name": (["11 Jul 2026", "11 Jul 2026", "12 Jul 2026"], "11 July"),
    "a month by name in front": (["Jul 11 2026", "Jul 11 2026", "Jul 12 2026"], "11 July"),
}


@pytest.mark.parametrize("name", STROKES)
def test_dates_as_people_write_them(name: str) -> None:
    dates, _ = STROKES[name]
    times = ("23:50:00", "23:58:30", "00:01:00")
    rows = [f"{d} {t};{900 - 100 * n}" for n, (d, t) in enumerate(zip(dates, times, strict=True))]
    found = read_table("\n".join(["Time;Pressure (micron)", *rows]).encode())
    assert found.main().time.tolist() == [0.0, 510.0, 660.0]


def test_a_date_that_may_be_read_two_ways_is_said() -> None:
    rows = ["05/07/2026 10:00:00;900", "05/07/2026 10:00:05;890"]
    found = read_table("\n".join(["Time;Pressure (micron)", *rows]).encode())
    assert keys(found.guesses) == ["guess-day-first"]


def test_a_time_without_a_date_is_not_filled_in_from_today() -> None:
    rows = ["2026-07-11 10:00:00;900", "half past ten;890"]
    with pytest.raises(ReadingsError) as e:
        read_table("\n".join(["Time;Pressure (micron)", *rows]).encode())
    assert [f.line for f in e.value.faults] == [3]


def test_clocks_put_back_in_the_middle_do_not_make_time_go_back() -> None:
    rows = ["2026-10-25T02:59:50+02:00;900", "2026-10-25T02:00:10+01:00;890", "2026-10-25T02:00:30+01:00;880"]
    found = read_table("\n".join(["Time;Pressure (micron)", *rows]).encode())
    assert found.main().time.tolist() == [0.0, 20.0, 40.0]


@pytest.mark.parametrize(
    ("encoding", "word"), [("cp1252", "Kälteraum nördlich"), ("cp1250", "Świeże łąki żółte"), ("cp1251", "Холодильник")]
)
def test_notes_in_older_code_pages_are_read(encoding: str, word: str) -> None:
    rows = [f"{n * 10};{900 - n};{word} {word} {word}" for n in range(12)]
    found = read_table("\n".join(["time (s);pressure (micron);note", *rows]).encode(encoding))
    assert found.main().notes[0][1].startswith(word)
