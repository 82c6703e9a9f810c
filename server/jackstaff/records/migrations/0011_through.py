"""A frame says what it was metered through; an earlier one says it by its stack alone."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("records", "0010_names")]

    operations = [
        migrations.AddField(
            model_name="frame",
            name="reading_through",
            field=models.JSONField(null=True),
        )
    ]
