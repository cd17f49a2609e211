"""What the job holds now is dropped from the render."""

import django.db.models.deletion
from django.db import migrations, models

GONE = ("person", "state", "cancel", "newest", "problem", "ordered", "started", "ended")


class Migration(migrations.Migration):
    dependencies = [("scenes", "0003_job")]

    operations = [
        *(migrations.RemoveField(model_name="render", name=name) for name in GONE),
        migrations.DeleteModel(name="RenderPiece"),
        migrations.AlterField(
            model_name="render",
            name="job",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE, related_name="render", to="jobs.job"
            ),
        ),
    ]
