"""A frame is kept as one document; columns stay for what it is looked for by."""

from datetime import UTC

from django.db import migrations, models

CHUNK = 500


def _utc(instant):
    return instant and instant.astimezone(UTC).isoformat().replace("+00:00", "Z")


def _document(row):
    return {
        "state": row.state,
        "opened_at": _utc(row.opened_at),
        "closed_at": _utc(row.closed_at),
        "closed_by": row.closed_by or None,
        "note": row.note,
        "reading": {
            "shutter": row.reading_shutter or None,
            "aperture": row.reading_aperture or None,
            "iso": row.reading_iso or None,
            "ev100": row.reading_ev100,
            "step": row.step,
            "metered_at": _utc(row.metered_at),
            "through": row.reading_through,
        },
        "settings": {"aperture": row.aperture, "iso": row.iso},
        "stack": [
            {
                "name": glass.name,
                "stops": glass.stops,
                "offset": glass.offset,
                "in_reading": glass.in_reading,
                "id": glass.kit_id and str(glass.kit_id),
                "kind": glass.kind or None,
            }
            for glass in row.stack.all()
        ],
        "scale": row.scale,
        "dial_limit": row.dial_limit,
        "answer": {
            "seconds": row.planned_seconds,
            "set_seconds": row.set_seconds,
            "base_seconds": row.base_seconds,
            "sure_within_stops": row.sure_within_stops,
            "steps": row.sum_steps,
            "dial_mark": row.dial_mark,
        },
        "run": row.run,
        "conditions": row.conditions,
        "review": row.review,
    }


def write_documents(apps, schema_editor):
    Frame, FrameGlass = apps.get_model("records", "Frame"), apps.get_model("records", "FrameGlass")
    keys = list(Frame.objects.order_by("pk").values_list("pk", flat=True))
    for start in range(0, len(keys), CHUNK):
        rows = list(Frame.objects.filter(pk__in=keys[start : start + CHUNK]).order_by().prefetch_related("stack"))
        for row in rows:
            row.document = _document(row)
        Frame.objects.bulk_update(rows, ["document"], batch_size=50)
    FrameGlass.objects.filter(kit_id__isnull=True).delete()
    first = models.OuterRef("frame"), models.OuterRef("kit_id"), models.OuterRef("place")
    earlier = FrameGlass.objects.filter(frame=first[0], kit_id=first[1], place__lt=first[2])
    twice = list(FrameGlass.objects.filter(models.Exists(earlier)).values_list("pk", flat=True))
    for start in range(0, len(twice), CHUNK):
        FrameGlass.objects.filter(pk__in=twice[start : start + CHUNK]).delete()


class Migration(migrations.Migration):
    dependencies = [("records", "0013_marks_of_one_length")]

    operations = [
        migrations.AddField(model_name="frame", name="document", field=models.JSONField(default=dict), preserve_default=False),
        migrations.RunPython(write_documents, migrations.RunPython.noop),
    ]
