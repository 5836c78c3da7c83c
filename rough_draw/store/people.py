"""People: technicians with their licence and the units they read."""

from __future__ import annotations

from dataclasses import dataclass

from rough_draw.core.message import message
from rough_draw.core.sheet.settings import Settings
from rough_draw.store.jobs import NotFound, writing
from rough_draw.store.models import PersonRow
from rough_draw.store.stored import WORDS

UNITS = (
    "pressure",
    "temperature",
    "flow",
    "length",
    "mass",
    "volume",
    "gauge",
    "barometer",
    "capacity",
    "numbers",
    "english",
)
"""What of the settings is a person's own, or a browser's where nobody is signed in."""


@dataclass(frozen=True)
class Person:
    """A technician: number, name, licence, units that differ from the firm's."""

    id: int
    name: str
    licence: str
    units: dict[str, str]


def _person(row: PersonRow) -> Person:
    return Person(row.id, row.name, row.licence, WORDS.read(row.units))


def listing() -> list[Person]:
    """Everybody, by name."""
    return [_person(r) for r in PersonRow.select().order_by(PersonRow.name)]


def get(number: int) -> Person:
    """Somebody by number; raises NotFound."""
    row = PersonRow.get_or_none(PersonRow.id == number)
    if row is None:
        raise NotFound(message("no-person-here", number=number))
    return _person(row)


def add(name: str, licence: str) -> Person:
    """Somebody new."""
    with writing():
        return _person(PersonRow.create(name=name, licence=licence))


def change(number: int, name: str, licence: str) -> Person:
    """Another name or licence; raises NotFound."""
    get(number)
    with writing():
        PersonRow.update(name=name, licence=licence).where(PersonRow.id == number).execute()
    return get(number)


def remove(number: int) -> None:
    """Take somebody off the list; what they signed stays. Raises NotFound."""
    get(number)
    with writing():
        PersonRow.delete().where(PersonRow.id == number).execute()


def settings_for(number: int | None, base: Settings) -> Settings:
    """The firm's settings with a person's own units."""
    if number is None:
        return base
    try:
        units = get(number).units
    except NotFound:
        return base
    return base.model_copy(update={k: v for k, v in units.items() if k in UNITS})


def keep_units(number: int, values: Settings) -> None:
    """Keep a person's units; raises NotFound."""
    get(number)
    body = WORDS.write({k: getattr(values, k) for k in UNITS})
    with writing():
        PersonRow.update(units=body).where(PersonRow.id == number).execute()
