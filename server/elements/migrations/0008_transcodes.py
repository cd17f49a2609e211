"""A rewrite is called a transcode, and its state stands in its job."""

import django.db.models.deletion
from config.job_migration import job_of
from django.db import migrations, models


def make_jobs(apps, schema_editor):
    for row in apps.get_model("elements", "Transcode").objects.select_related("element"):
        first = (row.element.facts or {}).get("first", 0)
        done = row.state == "done"
        piece = (first, first + max(1, row.count) - 1, row.count if done else 0, done)
        row.job = job_of(apps, row, "transcode", [piece], row.count if done else 0)
        row.taken_over = done and row.take_over
        row.save(update_fields=["job", "taken_over"])


class Migration(migrations.Migration):
    dependencies = [
        ("elements", "0007_readings_in_todays_words"),
        ("jobs", "0001_initial"),
        ("projects", "0001_initial"),
    ]

    operations = [
        migrations.RenameModel(old_name="Rewrite", new_name="Transcode"),
        migrations.RenameField(model_name="transcode", old_name="form", new_name="format"),
        migrations.AlterField(
            model_name="transcode",
            name="project",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="transcodes", to="projects.project"
            ),
        ),
        migrations.AlterField(
            model_name="transcode",
            name="element",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="transcodes", to="elements.element"
            ),
        ),
        migrations.AddField(
            model_name="transcode",
            name="job",
            field=models.OneToOneField(
                null=True, on_delete=django.db.models.deletion.CASCADE, related_name="transcode", to="jobs.job"
            ),
        ),
        migrations.AddField(
            model_name="transcode",
            name="taken_over",
            field=models.BooleanField(default=False, help_text="They have changed over."),
        ),
        migrations.RunPython(make_jobs, migrations.RunPython.noop),
    ]
