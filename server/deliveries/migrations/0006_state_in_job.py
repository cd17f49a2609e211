"""What the job holds now is dropped from the delivery."""

import django.db.models.deletion
from django.db import migrations, models

GONE = ("person", "state", "cancel", "proved", "problem", "ordered", "started", "ended")


class Migration(migrations.Migration):
    dependencies = [("deliveries", "0005_job")]

    operations = [
        *(migrations.RemoveField(model_name="delivery", name=name) for name in GONE),
        migrations.DeleteModel(name="Piece"),
        migrations.AlterField(
            model_name="delivery",
            name="job",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE, related_name="delivery", to="jobs.job"
            ),
        ),
        migrations.AlterField(
            model_name="delivery",
            name="loss_accepted",
            field=models.BooleanField(
                default=False, help_text="Whether the person knows that the format drops some of it."
            ),
        ),
    ]
