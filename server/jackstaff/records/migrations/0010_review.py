"""A review says the field's words: the exposure error, the defects."""

from django.db import migrations

TODAY = {"came_out": "error_stops", "seen": "defects"}


def renamed(review, names):
    return {names.get(name, name): said for name, said in review.items()}


def rename(apps, names):
    Frame, SetAside = apps.get_model("records", "Frame"), apps.get_model("records", "SetAside")
    batch = []
    for frame in Frame.objects.filter(review__isnull=False).only("review").iterator(chunk_size=500):
        frame.review = renamed(frame.review or {}, names) or None
        batch.append(frame)
        if len(batch) == 500:
            Frame.objects.bulk_update(batch, ["review"])
            batch = []
    Frame.objects.bulk_update(batch, ["review"])
    for aside in SetAside.objects.all():
        frame = aside.content["content"] if aside.content["kind"] == "frame" else {}
        if review := frame.get("review"):
            frame["review"] = renamed(review, names)
            aside.save(update_fields=["content"])


def forwards(apps, schema_editor):
    rename(apps, TODAY)


def backwards(apps, schema_editor):
    rename(apps, {today: before for before, today in TODAY.items()})


class Migration(migrations.Migration):
    dependencies = [("records", "0009_by_index")]

    operations = [migrations.RunPython(forwards, backwards)]
