"""A render's state stands in its job."""

import django.db.models.deletion
from config.job_migration import job_of
from django.db import migrations, models


def make_jobs(apps, schema_editor):
    for row in apps.get_model("scenes", "Render").objects.defer("document"):
        pieces = list(row.pieces.values_list("first", "last", "written", "done"))
        row.job = job_of(apps, row, "render", pieces, 0)
        row.save(update_fields=["job"])


class Migration(migrations.Migration):
    dependencies = [("scenes", "0002_documents"), ("jobs", "0001_initial")]

    operations = [
        migrations.AddField(
            model_name="render",
            name="job",
            field=models.OneToOneField(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="render", to="jobs.job"
            ),
        ),
        migrations.RunPython(make_jobs, migrations.RunPython.noop),
    ]
