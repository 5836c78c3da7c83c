"""Readings as they come from the field: layouts, units, clocks, faults; and finding the hold in them."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.physics.units import MICRON_PA, from_pa
from rough_draw.core.readings.csv_table import Import, ReadingsError, read_table
from rough_draw.core.readings.downsampling import decimate
from rough_draw.core.readings.series import Series, find_hold

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
    assert any("no header" in g for g in read_table(LAYOUTS["no header"]).guesses)
    found = read_table(b"time,pressure\n0,900\n10,800\n20,700\n")
    assert any("no unit" in g for g in found.guesses)
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
    assert any("dial vacuum" in g for g in found.guesses)
    assert found.main().pressure[-1] == pytest.approx(101_325 - 29.8 * 3386.389, rel=1e-6)


FAULTS = {
    "words for numbers": (b"time_s,micron\n0,900\n5,abc\n", "line 3: 'abc' is not a pressure"),
    "time back": (b"time_s,micron\n0,900\n20,800\n15,700\n", "line 4: time goes back by 5 s against line 3"),
    "negative": (b"time_s,micron\n0,900\n5,-40\n", "line 3: -40 is negative"),
    "too high": (b"time_s,micron\n0,900\n5,1e9\n", "line 3: 1e9 is above the atmosphere"),
    "same time twice": (b"time_s,micron\n0,900\n5,90\n5,91\n", "line 4: the same time as line 3"),
    "other separator": (b"time_s,micron\n0,900\n7;80\n", "line 3: has 1 column where 2 are expected"),
    "missing pressure": (b"time_s,temp\n0,20\n5,21\n", "no header with a time and a pressure"),
    "missing time": (b"place,micron\n0,20\n5,21\n", "no header with a time and a pressure"),
    "minus thirty psi": (b"time_s,vacuum (psi)\n0,0\n5,-30\n", "dial-impossible-psi"),
    "not a time": (b"time,micron\n13:00,9\n25 past,8\n", "line 3: '25 past' is not a time such as"),
    "sixty-one minutes": (b"time,micron\n13:00,9\n13:61,8\n", "more than 59 minutes"),
    "empty": (b"  \n", "the file is empty"),
    "no rows": (b"time_s,micron\n", "no rows under the header"),
    "spreadsheet": (b"PK\x03\x04abcdef", "not CSV; save it as CSV"),
    "binary": (b"\x7fELF\x00\x00\x01\x02time,micron\n" * 3, "not a text file"),
    "all over": (b"time_s,micron\n0,OVER\n1,OVER\n2,OVER\n", "carries no readings in range"),
    "cut UTF-16": ("time_s,micron\n0,900\n".encode("utf-16")[:-1], "cut off or damaged"),
}


@pytest.mark.parametrize("name", FAULTS)
def test_faults_are_told_by_line(name: str) -> None:
    data, says = FAULTS[name]
    with pytest.raises(ReadingsError) as caught:
        read_table(data)
    assert any(says in str(f) for f in caught.value.faults), [str(f) for f in caught.value.faults]


def test_all_faults_are_told_at_once() -> None:
    with pytest.raises(ReadingsError) as caught:
        read_table(b"time_s,micron\n0,900\n5,abc\n4,9\n6,-4\n")
    assert [f.line for f in caught.value.faults] == [3, 4, 5]


def test_200_mb_is_refused_at_once() -> None:
    with pytest.raises(ReadingsError, match="200 MB; the most is 48 MB"):
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
    assert any("day and month" in g for g in found.guesses)


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
