"""Pictures of a job: taken in, shown, taken out."""

from __future__ import annotations

import time
from typing import Annotated

from fastapi import APIRouter, Form, Path, Response, UploadFile
from pydantic import BaseModel

from rough_draw.api.deps import Key
from rough_draw.api.people.browser import Hand
from rough_draw.store import jobs, photos

router = APIRouter(tags=["record"])
Hash = Annotated[str, Path(pattern=r"^[0-9a-f]{64}$")]


class PhotoOut(BaseModel):
    """A picture: its hash, what it is about, caption, epoch s, whose hand, pixels."""

    sha256: str
    about: str
    caption: str
    at: float
    hand: str
    width: int
    height: int


def photo_out(p: photos.Photo) -> PhotoOut:
    """A picture as the API says it."""
    return PhotoOut(
        sha256=p.sha256, about=p.about, caption=p.caption, at=p.at, hand=p.hand, width=p.width, height=p.height
    )


@router.get("/jobs/{key}/photos")
def read_photos(key: Key) -> list[PhotoOut]:
    """Pictures of a job in the order in which they came."""
    jobs.get(key)
    return [photo_out(p) for p in photos.of(key)]


@router.post("/jobs/{key}/photos", status_code=201)
def add_photo(
    key: Key,
    file: UploadFile,
    hand: Hand,
    about: Annotated[str, Form(max_length=80)] = "other",
    caption: Annotated[str, Form(max_length=500)] = "",
    at: Annotated[float | None, Form(ge=0, le=4e9)] = None,
    keep_place: Annotated[bool, Form()] = False,
) -> PhotoOut:
    """Keep a picture (JPEG, PNG, WebP): made small, and without where it was taken unless that is wanted."""
    data = file.file.read(photos.MOST_BYTES + 1)
    return photo_out(photos.add(key, data, about, at or time.time(), caption, hand, keep_place))


@router.get("/jobs/{key}/photos/{sha256}", response_class=Response)
def read_photo(key: Key, sha256: Hash) -> Response:
    """The picture itself."""
    kept = {"Cache-Control": "private, max-age=31536000, immutable"}
    return Response(photos.picture(key, sha256), media_type="image/jpeg", headers=kept)


@router.delete("/jobs/{key}/photos/{sha256}", status_code=204)
def remove_photo(key: Key, sha256: Hash) -> Response:
    """Take a picture out of a job that is open."""
    photos.remove(key, sha256)
    return Response(status_code=204)
