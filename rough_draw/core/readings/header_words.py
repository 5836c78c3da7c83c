"""What columns are called: words for time, date, pressure and remarks in the languages that loggers and people write.

Long words are looked for anywhere in a name (``elapsedTime``); short ones only as words of their own, since they hide
in others (*tid* in *humidity*).
"""

from __future__ import annotations

import re

TIME_WORDS = (
    *("time", "timestamp", "elapsed", "uhrzeit", "zeit", "seconds", "clock", "heure", "horaire", "minutes", "orario"),
    *("tiempo", "verstrichen", "dauer", "durée", "duree", "duración", "duracion", "durata", "tijd", "klokkeslett"),
)
TIME_ALONE = frozenset({"sec", "hora", "ora", "tempo", "czas", "tid", "aika", "klokka", "klockan", "hms"})
DATE_WORDS = ("date", "datum", "day", "fecha", "jour")
DATE_ALONE = frozenset({"dato", "dag", "päivä", "día", "dia", "giorno"})
PRESSURE_WORDS = (
    *("pressure", "vacuum", "micron", "mikron", "druck", "reading", "torr", "mbar", "_pa", "_micron", "gauge"),
    *(
        "pression",
        "presión",
        "presion",
        "pressione",
        "pressão",
        "vakuum",
        "vuoto",
        "vacío",
        "vacio",
        "vácuo",
        "ciśnienie",
    ),
)
PRESSURE_ALONE = frozenset({"vac", "vide", "druk", "tryk", "trykk", "tryck", "paine", "próżnia", "lectura", "lettura"})
NOTE_WORDS = (
    *("note", "remark", "comment", "event", "bemerkung", "anmerkung", "remarque", "comentario", "opmerking"),
    *("osservazion", "observaci", "uwagi"),
)
NOT_PRESSURE = ("battery", "temp", "%", "humid", "volt", "serial", "°c", "°f", "flag", "batterie", "batería", "feuchte")


def _words(low: str) -> set[str]:
    return set(re.findall(r"[^\W\d_]+", low))


def names_time(name: str) -> bool:
    """Whether a column is called after a time or a date, or t.

    >>> names_time("Uhrzeit"), names_time("Hora"), names_time("t_min"), names_time("Humidity"), names_time("Temp")
    (True, True, True, False, False)
    """
    low = name.lower()
    if any(w in low for w in ("humid", "temperat")):
        return False
    long = any(w in low for w in TIME_WORDS) or any(w in low for w in DATE_WORDS)
    return long or bool(_words(low) & (TIME_ALONE | DATE_ALONE)) or bool(re.fullmatch(r"t\b.*|t[_ ].*", low))


def names_date(name: str) -> bool:
    """Whether a column is called after a date.

    >>> names_date("Datum"), names_date("día"), names_date("time")
    (True, True, False)
    """
    low = name.lower()
    return any(w in low for w in DATE_WORDS) or bool(_words(low) & DATE_ALONE)


def names_pressure(name: str) -> bool:
    """Whether a column is called after a pressure, and after nothing else that loggers write beside it.

    >>> names_pressure("Druck"), names_pressure("vide"), names_pressure("evidence"), names_pressure("Battery")
    (True, True, False, False)
    """
    low = name.lower()
    if any(w in low for w in NOT_PRESSURE):
        return False
    return any(w in low for w in PRESSURE_WORDS) or bool(_words(low) & PRESSURE_ALONE)


def names_note(name: str) -> bool:
    """Whether a column holds remarks.

    >>> names_note("Bemerkungen"), names_note("Pa")
    (True, False)
    """
    return any(w in name.lower() for w in NOTE_WORDS)
