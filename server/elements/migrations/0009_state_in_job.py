"""What the job holds now is dropped from the transcode."""

import django.db.models.deletion
from django.db import migrations, models

GONE = ("person", "state", "cancel", "done", "count", "problem", "ordered", "started", "ended")


class Migration(migrations.Migration):
    dependencies = [("elements", "0008_transcodes")]

    operations = [
        *(migrations.RemoveField(model_name="transcode", name=name) for name in GONE),
        migrations.AlterField(
            model_name="transcode",
            name="job",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE, related_name="transcode", to="jobs.job"
            ),
        ),
    ]
