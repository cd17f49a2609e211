"""A delivery's state stands in its job; folder and format are called so."""

import django.db.models.deletion
from config.job_migration import job_of
from django.db import migrations, models


def make_jobs(apps, schema_editor):
    for row in apps.get_model("deliveries", "Delivery").objects.defer("document"):
        pieces = list(row.pieces.values_list("first", "last", "written", "done"))
        row.job = job_of(apps, row, "delivery", pieces, row.proved)
        row.save(update_fields=["job"])


class Migration(migrations.Migration):
    dependencies = [("deliveries", "0004_documents"), ("jobs", "0001_initial")]

    operations = [
        migrations.AddField(
            model_name="delivery",
            name="job",
            field=models.OneToOneField(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="delivery", to="jobs.job"
            ),
        ),
        migrations.RenameField(model_name="delivery", old_name="place", new_name="folder"),
        migrations.RenameField(model_name="delivery", old_name="form", new_name="format"),
        migrations.RunPython(make_jobs, migrations.RunPython.noop),
    ]
