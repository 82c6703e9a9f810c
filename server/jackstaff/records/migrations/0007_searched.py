"""What is searched for gets columns and rows of its own, ends get their constraints, events a key within their frame."""

import unicodedata

import django.db.models.deletion
from django.db import migrations, models
from django.db.models import F, Q


def folded(text):
    plain = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in plain if not unicodedata.combining(letter))


def carry_over(apps, schema_editor):
    model = lambda name: apps.get_model("records", name)
    Frame, Event, Defect = model("Frame"), model("FrameEvent"), model("FrameDefect")
    events = (
        Event(key=old.id, frame_id=old.frame_id, at=old.at, kind=old.kind, seconds=old.seconds)
        for old in model("OldFrameEvent").objects.order_by("at").iterator()
    )
    Event.objects.bulk_create(events, batch_size=500)
    defects, frames = [], []
    for frame in Frame.objects.prefetch_related("stack").iterator(chunk_size=500):
        about = frame.conditions or {}
        names = [glass.name for glass in frame.stack.all()]
        parts = [frame.note, *(about.get(name) or "" for name in ("place", "body", "lens")), *names]
        frame.words = folded("\n".join(parts))
        if frame.state != "open" and (frame.closed_at is None or frame.closed_at < frame.opened_at):
            frame.closed_at = frame.opened_at
        frames.append(frame)
        defects += [Defect(frame=frame, code=code) for code in dict.fromkeys((frame.review or {}).get("seen") or [])]
    Frame.objects.bulk_update(frames, ["words", "closed_at"], batch_size=200)
    Defect.objects.bulk_create(defects, batch_size=500)


KINDS = (
    "opened", "shifted", "closed", "taken_back", "aborted", "reread", "extended", "cut", "aimed", "corrected",
)


class Migration(migrations.Migration):
    dependencies = [("records", "0006_revisions")]

    operations = [
        migrations.RenameModel("FrameEvent", "OldFrameEvent"),
        migrations.AlterField(
            "OldFrameEvent",
            "frame",
            models.ForeignKey(
                db_index=False, on_delete=django.db.models.deletion.CASCADE, related_name="+", to="records.frame"
            ),
        ),
        migrations.CreateModel(
            name="FrameEvent",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.UUIDField()),
                ("at", models.DateTimeField()),
                ("kind", models.CharField(choices=[(kind, kind.replace("_", " ").title()) for kind in KINDS], max_length=12)),
                ("seconds", models.FloatField(null=True)),
                ("frame", models.ForeignKey(
                    on_delete=django.db.models.deletion.CASCADE, related_name="events", to="records.frame"
                )),
            ],
            options={"ordering": ["at", "pk"]},
        ),
        migrations.AddConstraint(
            "FrameEvent", models.UniqueConstraint(fields=("frame", "key"), name="one_event_a_key")
        ),
        migrations.CreateModel(
            name="FrameDefect",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("code", models.CharField(max_length=24)),
                ("frame", models.ForeignKey(
                    on_delete=django.db.models.deletion.CASCADE, related_name="defects", to="records.frame"
                )),
            ],
            options={
                "indexes": [models.Index(fields=["code"], name="defects_by_code")],
                "constraints": [models.UniqueConstraint(fields=("frame", "code"), name="one_defect_a_code")],
            },
        ),
        migrations.RenameField("Frame", "came_out", "exposure_error"),
        migrations.AddField("Frame", "words", models.TextField(blank=True, default=""), preserve_default=False),
        migrations.RemoveConstraint("Frame", "open_frames_have_no_end"),
        migrations.RunPython(carry_over, migrations.RunPython.noop),
        migrations.RemoveField("Frame", "seen"),
        migrations.DeleteModel("OldFrameEvent"),
        migrations.AddIndex("Frame", models.Index(fields=["account", "exposure_error"], name="frames_by_error")),
        migrations.AddConstraint(
            "Frame",
            models.CheckConstraint(
                condition=Q(state="open", closed_at__isnull=True)
                | Q(state__in=["closed", "aborted"], closed_at__gte=F("opened_at")),
                name="ended_frames_have_an_end_after_their_opening",
            ),
        ),
        migrations.AddConstraint(
            "Frame", models.CheckConstraint(condition=Q(closed_by__in=["", "hand", "mark"]), name="known_closed_by")
        ),
    ]
