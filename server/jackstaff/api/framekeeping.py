"""Keeping frames' documents, those that were held already joined with them."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User

from jackstaff.records.frames import CHUNK, batched, changes, frames_of, save_frame, save_frames
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


def save_all(account: User, docs: Sequence[FrameDoc]) -> None:
    """Keep many documents, checked already, some hundred at a time.

    Raises
    ------
    KeyTaken
        Another account holds a frame with one of these keys.
    """
    coming = {doc.id: doc for doc in docs}
    rows = {}
    for keys in batched(coming, CHUNK):
        held = {frame.pk: document(frame) for frame in changes(account, keys)}
        for key in keys:
            rows[key] = row_of(joined(coming[key], held[key]) if key in held else coming[key])
    save_frames(account, rows)
