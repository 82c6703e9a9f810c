"""What is kept for an account: running exposures and the frames they became.

Keys are UUIDs made by the client, so writing the same record twice is one record and a
signed-out person's records can be adopted later without renaming them.
"""

from __future__ import annotations

from collections.abc import Iterable
from enum import StrEnum
from typing import Any
from uuid import uuid4

from django.conf import settings
from django.db import models
from django.db.models.functions import Abs

from jackstaff_core.gear.things import SORTS
from jackstaff_core.log.frame import Defect, EventKind, FrameState

from .kinds import DocKind


def _choices(of: type[StrEnum]) -> list[tuple[str, str]]:
    """Return the core's own list, as a column takes it."""
    return [(entry.value, entry.name.replace("_", " ").title()) for entry in of]


def _known(column: str, words: Iterable[str], name: str) -> models.CheckConstraint:
    """Return the constraint that a column holds one of these words."""
    return models.CheckConstraint(condition=models.Q(**{f"{column}__in": [str(word) for word in words]}), name=name)


class Frame(models.Model):
    """One exposure, from arming to the log: what was planned and what really happened.

    A running exposure is a frame that has opened and not ended; every screen derives the clock
    from its opening, so a reload or a second device is not a special case. ``document`` is the frame as the client
    wrote it, without its events (frame_rows.py); the other columns are what frames are looked for by.
    """

    id = models.UUIDField(primary_key=True)
    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="frames")
    document = models.JSONField()
    state = models.CharField(max_length=8, choices=_choices(FrameState))
    opened_at = models.DateTimeField()
    closed_at = models.DateTimeField(null=True)
    set_seconds = models.FloatField()
    exposure_error = models.FloatField(null=True)
    words = models.TextField(blank=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-opened_at"]
        indexes = [
            # With the key, so that a page far down is found without reading the frames before it.
            models.Index(fields=["account", "-opened_at", "id"], name="frames_by_opening"),
            models.Index(fields=["account", "-set_seconds", "id"], name="frames_by_time"),
            models.Index(fields=["account", "exposure_error"], name="frames_by_error"),
            models.Index(
                models.F("account"), Abs("exposure_error").desc(), models.F("id"), name="frames_by_size_of_error"
            ),
            models.Index(fields=["account"], condition=models.Q(state="open"), name="frames_that_run"),
        ]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(state="open", closed_at__isnull=True)
                | models.Q(state__in=["closed", "aborted"], closed_at__gte=models.F("opened_at")),
                name="ended_frames_have_an_end_after_their_opening",
            ),
            models.CheckConstraint(condition=models.Q(set_seconds__gt=0), name="set_time_is_positive"),
        ]


class FrameGlass(models.Model):
    """Which thing of the kit was on the lens for a frame, so that frames are found by it. It may be gone since."""

    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="glass")
    kit_id = models.UUIDField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["frame", "kit_id"], name="one_row_a_glass")]
        indexes = [models.Index(fields=["kit_id"], name="glass_by_thing")]


class FrameDefect(models.Model):
    """Something seen in a frame that should not be there, by its code, so that frames are found by it."""

    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="defects")
    code = models.CharField(max_length=24, choices=_choices(Defect))

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["frame", "code"], name="one_defect_a_code"),
            _known("code", Defect, "known_defect"),
        ]
        indexes = [models.Index(fields=["code"], name="defects_by_code")]


class FrameEvent(models.Model):
    """Something that happened to a running exposure. The key is the client's and one within the frame.

    Opened, shifted, closed, taken back, aborted; read again (stops), extended or cut (stops), aimed at another time
    because the light moved (seconds), corrected by hand after nobody watched (seconds).
    """

    key = models.UUIDField()
    frame = models.ForeignKey(Frame, on_delete=models.CASCADE, related_name="events")
    at = models.DateTimeField()
    kind = models.CharField(max_length=12, choices=_choices(EventKind))
    seconds = models.FloatField(null=True)

    class Meta:
        ordering = ["at", "pk"]
        constraints = [
            models.UniqueConstraint(fields=["frame", "key"], name="one_event_a_key"),
            _known("kind", EventKind, "known_event"),
        ]


class FramePicture(models.Model):
    """A small copy of a frame's picture and how its tones lie; the file itself is never kept."""

    frame = models.OneToOneField(Frame, on_delete=models.CASCADE, related_name="picture", primary_key=True)
    small = models.BinaryField()
    tones = models.JSONField()


class KitItem(models.Model):
    """One thing an account owns. What its facts may be is the core's business; they are kept as it writes them.

    The key is the client's and one within the account: things everybody starts with have the same key everywhere.
    """

    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="kit")
    key = models.UUIDField()
    sort = models.CharField(max_length=12)
    name = models.CharField(max_length=60)
    note = models.CharField(max_length=500, blank=True)
    retired = models.BooleanField(default=False)
    place = models.PositiveIntegerField()
    facts = models.JSONField(default=dict)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["place", "key"]
        indexes = [models.Index(fields=["account", "place"], name="kit_in_its_order")]
        constraints = [
            models.UniqueConstraint(fields=["account", "key"], name="one_thing_a_key"),
            _known("sort", SORTS, "known_sort"),
        ]


class Outing(models.Model):
    """A plan for a place and a day. What it holds is checked at the door and kept as the client wrote it."""

    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="outings")
    key = models.UUIDField()
    date = models.DateField()
    plan = models.JSONField()
    changed_at = models.DateTimeField()

    class Meta:
        ordering = ["date", "-changed_at"]
        indexes = [models.Index(fields=["account", "-date"], name="outings_by_day")]
        constraints = [models.UniqueConstraint(fields=["account", "key"], name="one_outing_a_key")]


class Look(models.Model):
    """A look of one's own: a name and the stretch of a kind's measure that it means."""

    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="looks")
    key = models.UUIDField()
    content = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["account", "key"], name="one_look_a_key")]


class SetAside(models.Model):
    """What somebody wrote on one device while another wrote the same thing and won: kept until they have seen it."""

    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="set_aside")
    key = models.UUIDField()
    content = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["account", "key"], name="one_aside_a_key")]


def first_epoch() -> list[dict[str, Any]]:
    """Return a count that begins."""
    return [{"id": str(uuid4()), "began": 0}]


class Ledger(models.Model):
    """The account's own count of changes: every change takes the next number, in the order they were kept.

    A copy that is put back begins a new epoch of it at the number the copy had: what was counted past that is counted
    anew. ``epochs`` are all of them, the one of now last.
    """

    account = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="ledger", primary_key=True
    )
    head = models.PositiveBigIntegerField(default=0)
    epochs = models.JSONField(default=first_epoch)


class Revision(models.Model):
    """Where one document stands in the account's count; a removed one stays here as its tombstone.

    ``write`` is the write that made it so, ``writes`` the latest ones applied, so that one which is sent again
    changes nothing.
    """

    account = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="revisions")
    kind = models.CharField(max_length=8, choices=_choices(DocKind))
    key = models.UUIDField()
    number = models.PositiveBigIntegerField()
    changed_at = models.DateTimeField()
    removed = models.BooleanField(default=False)
    write = models.UUIDField()
    writes = models.JSONField(default=list)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["account", "kind", "key"], name="one_revision_a_document"),
            models.UniqueConstraint(fields=["account", "number"], name="one_document_a_number"),
            _known("kind", DocKind, "known_kind"),
        ]


class SignInTries(models.Model):
    """How often a password was wrong for a name or from an address, within a window of the machine's own count.

    ``key`` is a digest: neither names nor addresses are kept. ``count`` says which count ``since`` belongs to.
    """

    key = models.CharField(max_length=64, primary_key=True)
    tries = models.PositiveIntegerField(default=0)
    since = models.FloatField()
    count = models.CharField(max_length=16)
