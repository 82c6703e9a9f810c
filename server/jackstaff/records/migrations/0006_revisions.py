"""Keys become the account's own, things everybody starts with get the same key everywhere, and changes are counted."""

from uuid import NAMESPACE_URL, uuid4, uuid5

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

STARTER = (
    "Full-frame body A", "Pocket body B", "Film body C", "24 mm prime", "16–35 mm zoom", "100 mm holder", "Ring ND 3",
    "Slot ND 4", "Ring ND 6", "Slot ND 9", "Slot ND 14", "Clip-on pol", "Ring VND 2–5", "Soft grad 2", "Hard grad 3",
    "Grey film 100", "Wired remote", "Tripod", "Eyepiece cover",
)


def own_copies(account):
    """The key that an account's copy of each thing had until now, and the one that it has everywhere from now on."""
    fixed = [uuid5(NAMESPACE_URL, f"jackstaff:starter:{name}") for name in STARTER]
    return {uuid5(key, f"account:{account}"): key for key in fixed}


def carry_over(apps, schema_editor):
    model = lambda name: apps.get_model("records", name)
    Item, Outing, Frame, Glass = model("KitItem"), model("Outing"), model("Frame"), model("FrameGlass")
    renamed = {}
    for old in model("OldKitItem").objects.order_by("place", "changed_at"):
        if old.account_id not in renamed:
            renamed[old.account_id] = own_copies(old.account_id)
        key = renamed[old.account_id].get(old.id, old.id)
        if Item.objects.filter(account_id=old.account_id, key=key).exists():
            key = old.id
        columns = {name: getattr(old, name) for name in ("account_id", "sort", "name", "note", "retired", "place", "facts")}
        Item.objects.create(key=key, **columns)
    for account, keys in renamed.items():
        held = set(Item.objects.filter(account_id=account).values_list("key", flat=True))
        keys = {old: new for old, new in keys.items() if new in held and old not in held}
        for glass in Glass.objects.filter(frame__account_id=account, kit_id__in=keys):
            glass.kit_id = keys[glass.kit_id]
            glass.save(update_fields=["kit_id"])
        text = {str(old): str(new) for old, new in keys.items()}
        for frame in Frame.objects.filter(account_id=account, conditions__isnull=False):
            about = frame.conditions
            named = {name: text[about[name]] for name in ("body_id", "lens_id") if about.get(name) in text}
            if named:
                frame.conditions = {**about, **named}
                frame.save(update_fields=["conditions"])
    for old in model("OldOuting").objects.all():
        Outing.objects.create(
            account_id=old.account_id, key=old.id, date=old.date, plan=old.plan, changed_at=old.changed_at
        )
    number_all(apps)


def number_all(apps):
    model = lambda name: apps.get_model("records", name)
    heads = {}
    documents = [
        *(("kit", row.account_id, row.key, row.changed_at) for row in model("KitItem").objects.order_by("place")),
        *(("outing", row.account_id, row.key, row.changed_at) for row in model("Outing").objects.order_by("date")),
        *(("frame", row.account_id, row.pk, row.changed_at) for row in model("Frame").objects.order_by("opened_at")),
    ]
    rows = []
    for kind, account, key, changed_at in documents:
        heads[account] = heads.get(account, 0) + 1
        rows.append(
            model("Revision")(
                account_id=account, kind=kind, key=key, number=heads[account], changed_at=changed_at, write=uuid4()
            )
        )
    model("Revision").objects.bulk_create(rows, batch_size=500)
    model("Ledger").objects.bulk_create([model("Ledger")(account_id=one, head=head) for one, head in heads.items()])


def owned(related_name):
    return models.ForeignKey(
        on_delete=django.db.models.deletion.CASCADE, related_name=related_name, to=settings.AUTH_USER_MODEL
    )


def number():
    return models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")


class Migration(migrations.Migration):
    dependencies = [
        ("records", "0005_log"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.RemoveIndex("kititem", "records_kit_account_c68267_idx"),
        migrations.RemoveIndex("outing", "records_out_account_6149d8_idx"),
        migrations.AlterField("kititem", "account", owned("+")),
        migrations.AlterField("outing", "account", owned("+")),
        migrations.RenameModel("KitItem", "OldKitItem"),
        migrations.RenameModel("Outing", "OldOuting"),
        migrations.CreateModel(
            name="KitItem",
            fields=[
                ("id", number()),
                ("key", models.UUIDField()),
                ("sort", models.CharField(max_length=12)),
                ("name", models.CharField(max_length=60)),
                ("note", models.CharField(blank=True, max_length=500)),
                ("retired", models.BooleanField(default=False)),
                ("place", models.PositiveIntegerField()),
                ("facts", models.JSONField(default=dict)),
                ("changed_at", models.DateTimeField(auto_now=True)),
                ("account", owned("kit")),
            ],
            options={
                "ordering": ["place", "key"],
                "indexes": [models.Index(fields=["account", "place"], name="kit_in_its_order")],
                "constraints": [models.UniqueConstraint(fields=("account", "key"), name="one_thing_a_key")],
            },
        ),
        migrations.CreateModel(
            name="Outing",
            fields=[
                ("id", number()),
                ("key", models.UUIDField()),
                ("date", models.DateField()),
                ("plan", models.JSONField()),
                ("changed_at", models.DateTimeField()),
                ("account", owned("outings")),
            ],
            options={
                "ordering": ["date", "-changed_at"],
                "indexes": [models.Index(fields=["account", "-date"], name="outings_by_day")],
                "constraints": [models.UniqueConstraint(fields=("account", "key"), name="one_outing_a_key")],
            },
        ),
        migrations.CreateModel(
            name="Look",
            fields=[("id", number()), ("key", models.UUIDField()), ("content", models.JSONField()), ("account", owned("looks"))],
            options={"constraints": [models.UniqueConstraint(fields=("account", "key"), name="one_look_a_key")]},
        ),
        migrations.CreateModel(
            name="SetAside",
            fields=[
                ("id", number()), ("key", models.UUIDField()), ("content", models.JSONField()), ("account", owned("set_aside")),
            ],
            options={"constraints": [models.UniqueConstraint(fields=("account", "key"), name="one_aside_a_key")]},
        ),
        migrations.CreateModel(
            name="Ledger",
            fields=[
                (
                    "account",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name="ledger",
                        serialize=False, to=settings.AUTH_USER_MODEL,
                    ),
                ),
                ("head", models.PositiveBigIntegerField(default=0)),
            ],
        ),
        migrations.CreateModel(
            name="Revision",
            fields=[
                ("id", number()),
                ("kind", models.CharField(max_length=8)),
                ("key", models.UUIDField()),
                ("number", models.PositiveBigIntegerField()),
                ("changed_at", models.DateTimeField()),
                ("removed", models.BooleanField(default=False)),
                ("write", models.UUIDField()),
                ("writes", models.JSONField(default=list)),
                ("account", owned("revisions")),
            ],
            options={
                "ordering": ["number"],
                "constraints": [
                    models.UniqueConstraint(fields=("account", "kind", "key"), name="one_revision_a_document"),
                    models.UniqueConstraint(fields=("account", "number"), name="one_document_a_number"),
                ],
            },
        ),
        migrations.RunPython(carry_over, elidable=False),
        migrations.DeleteModel("OldKitItem"),
        migrations.DeleteModel("OldOuting"),
    ]
