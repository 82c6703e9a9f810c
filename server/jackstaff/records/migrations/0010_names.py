"""A review says the field's words: the exposure error, the defects; a run calls the server's clock so."""

from django.db import migrations

TODAY = {"review": {"came_out": "error_stops", "seen": "defects"}, "run": {"steady": "server_clock"}}
BEFORE = {part: {today: before for before, today in names.items()} for part, names in TODAY.items()}


def renamed(value, names):
    return {names.get(name, name): said for name, said in value.items()}


def rename(apps, names):
    Frame, SetAside = apps.get_model("records", "Frame"), apps.get_model("records", "SetAside")
    for part in names:
        batch = []
        for frame in Frame.objects.filter(**{f"{part}__isnull": False}).only(part).iterator(chunk_size=500):
            setattr(frame, part, renamed(getattr(frame, part), names[part]))
            batch.append(frame)
            if len(batch) == 500:
                Frame.objects.bulk_update(batch, [part])
                batch = []
        Frame.objects.bulk_update(batch, [part])
    for aside in SetAside.objects.all():
        frame = aside.content["content"] if aside.content["kind"] == "frame" else {}
        for part in names:
            if frame.get(part):
                frame[part] = renamed(frame[part], names[part])
        aside.save(update_fields=["content"])


def forwards(apps, schema_editor):
    rename(apps, TODAY)


def backwards(apps, schema_editor):
    rename(apps, BEFORE)


class Migration(migrations.Migration):
    dependencies = [("records", "0009_by_index")]

    operations = [migrations.RunPython(forwards, backwards)]
