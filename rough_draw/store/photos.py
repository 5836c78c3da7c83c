"""Pictures of a job: taken in as they come, made small and bare, kept by their hash."""

from __future__ import annotations

import hashlib
import io
import re
import warnings
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from rough_draw.core.message import Fault, message
from rough_draw.store import jobs
from rough_draw.store.models import PhotoRow

MOST_BYTES = 12 * 1024 * 1024
"""A picture as a camera makes it; the device makes it smaller before it is sent."""
MOST_PHOTOS = 60
EDGE = 1600
"""Pixels of the longer edge of a picture as it is kept."""
QUALITY = 82
ABOUT = re.compile(r"(check|step|port|visit):[a-z0-9.:~-]{1,70}|hold-end|nameplate|oil|rig|other")
"""What a picture can be about: a check, a step, a port, a follow-up visit, or one of the usual things."""
PLACE = 0x8825
"""The tag under which a camera writes where it was."""


class PhotoFault(Fault):
    """The picture cannot be kept; the message says why."""


@dataclass(frozen=True, kw_only=True)
class Photo:
    """A picture: SHA-256 of its bytes, what it is about, caption, epoch s, whose hand, pixels; JPEG bytes if here."""

    sha256: str
    about: str
    caption: str
    at: float
    hand: str
    width: int
    height: int
    data: bytes | None = None

    @property
    def visit(self) -> bool:
        """Whether it is of a follow-up visit, and so not under the seal of the record itself."""
        return of_visit(self.about)


def of_visit(about: str) -> bool:
    """Whether a picture is of a follow-up visit."""
    return about.startswith("visit:")


def hash_of(data: bytes) -> str:
    """What a picture is known by: SHA-256 of its bytes, in hex."""
    return hashlib.sha256(data).hexdigest()


def opened(data: bytes) -> Image.Image:
    """A picture from bytes of one of the usual forms, read whole. Raises PhotoFault."""
    if len(data) > MOST_BYTES:
        raise PhotoFault(message("photo-too-large", most=MOST_BYTES // 1048576))
    try:
        with warnings.catch_warnings():
            # A picture of so many pixels that it would fill the memory is refused, not warned of.
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            found = Image.open(io.BytesIO(data), formats=("JPEG", "PNG", "WEBP"))
            found.load()
            return found
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError, Warning):
        raise PhotoFault(message("photo-no-picture")) from None


def made_ready(data: bytes, keep_place: bool = False) -> tuple[bytes, int, int]:
    """A picture as it is kept: upright, at most `EDGE` pixels, JPEG, and without what a camera writes into it.

    ``keep_place``: where it was taken stays in it. Raises PhotoFault.
    """
    picture = opened(data)
    place = picture.getexif().get_ifd(PLACE)
    upright = ImageOps.exif_transpose(picture).convert("RGB")
    upright.thumbnail((EDGE, EDGE))
    exif = Image.Exif()
    if keep_place and place:
        exif[PLACE] = dict(place)
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=QUALITY, optimize=True, exif=exif)
    return out.getvalue(), upright.width, upright.height


def add(
    key: str, data: bytes, about: str, at: float, caption: str = "", hand: str = "", keep_place: bool = False
) -> Photo:
    """Keep a picture with a job that is open; the same one twice is kept once. Raises PhotoFault, NotFound, Sealed."""
    if not ABOUT.fullmatch(about):
        raise PhotoFault(message("photo-about"))
    small, width, height = made_ready(data, keep_place)
    found = Photo(
        sha256=hash_of(small),
        about=about,
        caption=caption.strip()[:500],
        at=at,
        hand=hand,
        width=width,
        height=height,
        data=small,
    )
    with jobs.writing():
        # What a follow-up visit brings does not touch what was sealed.
        if found.visit:
            jobs.kept(key)
        else:
            jobs.must_be_open(key)
        rows = PhotoRow.select().where(PhotoRow.job == key)
        if rows.where((PhotoRow.sha256 == found.sha256) & (PhotoRow.about == about)).exists():
            return found
        if rows.count() >= MOST_PHOTOS:
            raise PhotoFault(message("photo-too-many", most=MOST_PHOTOS))
        keep_imported(key, found)
    return found


def keep_imported(key: str, photo: Photo) -> None:
    """Take over a picture as it came with a job file; one whose bytes are not what its hash says comes without them."""
    data = photo.data if photo.data is not None and hash_of(photo.data) == photo.sha256 else None
    PhotoRow.create(
        job=key,
        sha256=photo.sha256,
        about=photo.about,
        caption=photo.caption,
        at=photo.at,
        hand=photo.hand,
        width=photo.width,
        height=photo.height,
        data=data,
    )


def of(key: str, with_data: bool = False) -> list[Photo]:
    """Pictures of a job in the order in which they came."""
    columns = [getattr(PhotoRow, n) for n in ("sha256", "about", "caption", "at", "hand", "width", "height")]
    rows = PhotoRow.select(*columns, *([PhotoRow.data] if with_data else [])).where(PhotoRow.job == key)
    return [
        Photo(
            sha256=r.sha256,
            about=r.about,
            caption=r.caption,
            at=r.at,
            hand=r.hand,
            width=r.width,
            height=r.height,
            data=bytes(r.data) if with_data and r.data is not None else None,
        )
        for r in rows.order_by(PhotoRow.id)
    ]


def picture(key: str, sha256: str) -> bytes:
    """The bytes of a picture. Raises NotFound where it is not here."""
    row = PhotoRow.get_or_none((PhotoRow.job == key) & (PhotoRow.sha256 == sha256) & PhotoRow.data.is_null(False))
    if row is None:
        raise jobs.NotFound(message("no-photo"))
    return bytes(row.data)


def remove(key: str, sha256: str) -> None:
    """Take a picture out of a job that is open. Raises NotFound, Sealed."""
    with jobs.writing():
        jobs.must_be_open(key)
        PhotoRow.delete().where((PhotoRow.job == key) & (PhotoRow.sha256 == sha256)).execute()
