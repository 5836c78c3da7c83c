"""What is kept beside the jobs: settings and units, own templates; and small answers that need no job."""

from __future__ import annotations

from fastapi import APIRouter, HTTPException, Request, Response, UploadFile

from rough_draw.api import runs
from rough_draw.api.errors import refusal
from rough_draw.api.people.browser import keep_units, person_here, settings_here
from rough_draw.api.settings.schemas import (
    DialIn,
    DialOut,
    KeepTemplate,
    OwnTemplateOut,
    PurchaseOut,
    PurchasesOut,
    SettingsOut,
)
from rough_draw.core.message import message
from rough_draw.core.physics.dial import read_dial
from rough_draw.core.physics.display_units import DISPLAY
from rough_draw.core.records.firm_signature import fingerprint
from rough_draw.core.sheet.criteria import NEEDLE_PA
from rough_draw.core.sheet.settings import Settings
from rough_draw.store import firm, jobs, people, photos, shelf
from rough_draw.store.jobs import NotFound
from rough_draw.text import told

router = APIRouter(tags=["shelf"])

MOST_PAST = 200


def _settings(values: Settings) -> SettingsOut:
    pair = firm.key_pair()
    return SettingsOut(
        settings=values,
        units={k: list(v) for k, v in DISPLAY.items()},
        logo=firm.logo() is not None,
        key=fingerprint(pair[1]) if pair is not None else "",
    )


@router.get("/settings")
def read_settings(request: Request) -> SettingsOut:
    """Units, rate and the like, with every unit there is; the units are those of whoever is at this browser."""
    return _settings(settings_here(request, shelf.settings()))


@router.put("/settings")
def write_settings(body: Settings, request: Request, response: Response) -> SettingsOut:
    """Keep the settings: units for whoever is at this browser, or with the browser itself; the rest for the firm."""
    here, base = person_here(request), shelf.settings()
    if here is not None and here in {p.id for p in people.listing()}:
        people.keep_units(here, body)
    else:
        keep_units(response, body)
    shelf.save_settings(body.model_copy(update={u: getattr(base, u) for u in people.UNITS}))
    return _settings(body)


@router.get("/templates")
def read_templates() -> list[OwnTemplateOut]:
    """Own templates."""
    return [OwnTemplateOut(id=t.id, name=t.name) for t in shelf.templates()]


@router.post("/templates", status_code=201)
def keep_template(body: KeepTemplate) -> OwnTemplateOut:
    """Keep a job's system as a template: its graph, refrigerant and oil, not its weather or its charge."""
    scope = jobs.get(body.job).job.scope
    kept = scope.model_dump(include={"template", "sections", "links", "ports", "oil", "oil_kg", "low_temperature"})
    t = shelf.add_template(body.name.strip() or "Unnamed", kept)
    return OwnTemplateOut(id=t.id, name=t.name)


@router.delete("/templates/{number}", status_code=204)
def drop_template(number: int) -> Response:
    """Throw an own template away."""
    if not 0 < number < 2**31:
        raise refusal(404, "no-template")
    shelf.delete_template(number)
    return Response(status_code=204)


@router.get("/purchases")
def read_purchases() -> PurchasesOut:
    """What each purchase would have saved over the jobs in the history, at the firm's hourly rate."""
    settings = shelf.settings()
    past = [s.job for s in jobs.listing()[:MOST_PAST]]
    return PurchasesOut(
        over=len(past),
        hourly_rate=settings.hourly_rate,
        currency=settings.currency,
        purchases=[
            PurchaseOut(key=p.key, words=p.words, seconds=p.seconds, jobs=p.jobs, money=p.money)
            for p in runs.purchases_for(past, settings.hourly_rate)
        ],
    )


@router.post("/dial")
def dial(body: DialIn) -> DialOut:
    """Understand a dial vacuum as it was said, and ask back what cannot be."""
    try:
        found = read_dial(body.text, body.atmosphere_pa)
    except ValueError as e:
        raise HTTPException(422, told(e)) from None
    return DialOut(pa=found.pa, inhg=found.inhg, blind_pa=NEEDLE_PA, asked=found.asked or "")


@router.post("/settings/key")
def make_key(request: Request) -> SettingsOut:
    """Make the firm a key of its own: from now on what is sealed is signed with it. Made once."""
    firm.make_key()
    return read_settings(request)


@router.get("/settings/logo", response_class=Response)
def read_logo() -> Response:
    """The firm's logo."""
    found = firm.logo()
    if found is None:
        raise NotFound(message("no-logo"))
    return Response(found, media_type="image/png", headers={"Cache-Control": "no-cache"})


@router.put("/settings/logo", status_code=204)
def write_logo(file: UploadFile) -> Response:
    """Take the firm's logo from its own file (PNG, JPEG, WebP): it stands on the reports."""
    firm.keep_logo(file.file.read(photos.MOST_BYTES + 1))
    return Response(status_code=204)


@router.delete("/settings/logo", status_code=204)
def remove_logo() -> Response:
    """Have no logo on the reports."""
    firm.drop_logo()
    return Response(status_code=204)
