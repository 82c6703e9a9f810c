"""An account's count says which epoch it is in: a copy that is put back begins another."""

from django.db import migrations, models

import jackstaff.records.models


class Migration(migrations.Migration):
    dependencies = [("records", "0011_through")]

    operations = [
        migrations.AddField(
            model_name="ledger",
            name="epochs",
            field=models.JSONField(default=jackstaff.records.models.first_epoch),
        )
    ]
