"""What is replicated between the devices of an account."""

from __future__ import annotations

from enum import StrEnum


class DocKind(StrEnum):
    """A kind of document."""

    KIT = "kit"
    OUTING = "outing"
    LOOK = "look"
    FRAME = "frame"
    ASIDE = "aside"
