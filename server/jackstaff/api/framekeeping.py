"""Keeping a frame's document, one that was held already joined with it."""

from __future__ import annotations

from django.contrib.auth.models import User

from jackstaff.records.frames import frames_of, save_frame
from jackstaff.records.models import Frame

from .framedoc import FrameDoc, checked, document, row_of
from .framejoin import joined


def save(account: User, doc: FrameDoc) -> Frame:
    """Keep a document as a frame of the account; what happened to the one held already stays.

    Raises
    ------
    KeyTaken
        Another account holds a frame with this key.
    Refusal
        Nothing could be reckoned with it later.
    """
    checked(doc)
    held = frames_of(account).filter(pk=doc.id).first()
    save_frame(account, doc.id, *row_of(joined(doc, document(held)) if held else doc))
    return frames_of(account).get(pk=doc.id)
