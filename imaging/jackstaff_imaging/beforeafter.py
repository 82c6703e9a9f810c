"""The card to share: the bare frame and the long one side by side, with their settings beneath.

Drawn with Pillow and its own font; 1600 pixels wide, neutral grey. No verdict: the words are the caller's.
"""

from __future__ import annotations

import io
from dataclasses import dataclass

from PIL import Image, ImageDraw, ImageFont, ImageOps

WIDE, MARGIN, GAP = 1600, 48, 24
GROUND, INK, QUIET = (38, 38, 38), (240, 240, 240), (170, 170, 170)
MOST_LINE = 90
_TITLE, _TEXT = 40, 28


@dataclass(frozen=True, slots=True)
class Side:
    """A picture and the two lines under it."""

    image: Image.Image
    title: str
    text: str


def card(before: Side, after: Side, foot: str) -> bytes:
    """Return the PNG."""
    each = (WIDE - 2 * MARGIN - GAP) // 2
    sides = [_fitted(entry.image, each) for entry in (before, after)]
    high = max(entry.height for entry in sides)
    whole = Image.new("RGB", (WIDE, MARGIN + high + 190), GROUND)
    pen = ImageDraw.Draw(whole)
    for place, (side, picture) in enumerate(zip((before, after), sides, strict=True)):
        left = MARGIN + place * (each + GAP)
        whole.paste(picture, (left, MARGIN + (high - picture.height) // 2))
        _line(pen, (left, MARGIN + high + 14), side.title, _TITLE, INK, each)
        _line(pen, (left, MARGIN + high + 66), side.text, _TEXT, QUIET, each)
    _line(pen, (MARGIN, MARGIN + high + 126), foot, _TEXT, QUIET, WIDE - 2 * MARGIN)
    out = io.BytesIO()
    whole.save(out, "PNG", optimize=True)
    return out.getvalue()


def _fitted(image: Image.Image, wide: int) -> Image.Image:
    turned = ImageOps.exif_transpose(image).convert("RGB")
    high = max(1, min(round(turned.height * wide / turned.width), wide * 3 // 2))
    return ImageOps.fit(turned, (wide, high), Image.Resampling.LANCZOS)


def _line(
    pen: ImageDraw.ImageDraw, at: tuple[int, int], text: str, size: int, ink: tuple[int, int, int], room: int
) -> None:
    """One line, smaller where it would not fit."""
    shown = " ".join(text.split())[:MOST_LINE]
    font = ImageFont.load_default(size)
    while size > 14 and pen.textlength(shown, font=font) > room:
        size -= 1
        font = ImageFont.load_default(size)
    pen.text(at, shown, fill=ink, font=font)
