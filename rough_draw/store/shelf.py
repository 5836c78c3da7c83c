"""What is kept beside the jobs: the kit, a person's own templates, the settings."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from rough_draw.core.message import message
from rough_draw.core.sheet.kit import KitItem, fits
from rough_draw.core.sheet.settings import Settings
from rough_draw.core.sheet.templates import TEMPLATES
from rough_draw.store import models
from rough_draw.store.jobs import NotFound, writing
from rough_draw.store.stored import KIT, SETTINGS, VALUES


def kit() -> list[KitItem]:
    """All kit."""
    rows = models.KitItem.select().order_by(models.KitItem.kind, models.KitItem.id)
    return [KitItem(r.id, r.kind, r.name, KIT.read(r.document)) for r in rows]


def fitting() -> list[KitItem]:
    """The kit that a rig can take in."""
    return [k for k in kit() if fits(k)]


def kit_item(number: int) -> KitItem:
    """One item of the kit; raises NotFound."""
    row = models.KitItem.get_or_none(models.KitItem.id == number)
    if row is None:
        raise NotFound(message("no-part"))
    return KitItem(row.id, row.kind, row.name, KIT.read(row.document))


def add_kit(kind: str, name: str, values: dict[str, object]) -> int:
    """Add a part to the kit; returns its number."""
    return int(models.KitItem.create(kind=kind, name=name, document=KIT.write(values)).id)


@dataclass(frozen=True)
class OwnTemplate:
    """A person's own kind of system: scope values with sections, links and ports."""

    id: int
    name: str
    scope: dict[str, Any]


def templates() -> list[OwnTemplate]:
    """Own templates by name."""
    rows = models.TemplateRow.select().order_by(models.TemplateRow.name)
    return [OwnTemplate(r.id, r.name, VALUES.read(r.document)) for r in rows]


def template_scope(key: str, own: int | None) -> dict[str, Any]:
    """Values of a scope by a template: built in by key, or one's own by number. Raises NotFound."""
    if own is not None:
        found = next((t for t in templates() if t.id == own), None)
        if found is None:
            raise NotFound(message("no-template"))
        return dict(found.scope)
    if key not in TEMPLATES:
        raise NotFound(message("no-template"))
    return {"template": key, **TEMPLATES[key].scope}


def add_template(name: str, scope: dict[str, Any]) -> OwnTemplate:
    """Keep a template; one of the same name is replaced."""
    document = VALUES.write(scope)
    with writing():
        row = models.TemplateRow.get_or_none(models.TemplateRow.name == name)
        if row is None:
            row = models.TemplateRow.create(name=name, document=document)
        else:
            row.document = document
            row.save()
    return OwnTemplate(row.id, name, scope)


def delete_template(number: int) -> None:
    """Throw a template away; raises NotFound."""
    with writing():
        if not models.TemplateRow.delete().where(models.TemplateRow.id == number).execute():
            raise NotFound(message("no-template"))


def settings() -> Settings:
    """The settings, or the defaults where none are kept."""
    row = models.Setting.get_or_none(models.Setting.key == "settings")
    return SETTINGS.read(row.document if row is not None else None)


def save_settings(values: Settings) -> Settings:
    """Keep the settings."""
    with writing():
        models.Setting.insert(key="settings", document=SETTINGS.write(values)).on_conflict_replace().execute()
    return values
