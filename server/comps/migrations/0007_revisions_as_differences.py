from django.db import migrations, models

from comps.differences import difference, patched

EVERY = 50


def store_differences(apps, schema_editor):
    revisions = apps.get_model("comps", "CompRevision").objects
    for comp in revisions.values_list("comp", flat=True).distinct():
        before = None
        for row in revisions.filter(comp=comp).order_by("revision").iterator(chunk_size=20):
            data = row.document
            same = before is not None and before.get("neatveil") == data.get("neatveil")
            if same and row.revision % EVERY != 1:
                patch = difference(before, data)
                if len(str(patch)) < len(str(data)) // 2:
                    row.document, row.patch = None, patch
            row.version = data.get("neatveil", 1)
            row.save(update_fields=["version", "document", "patch"])
            before = data


def store_whole(apps, schema_editor):
    revisions = apps.get_model("comps", "CompRevision").objects
    for comp in revisions.values_list("comp", flat=True).distinct():
        before = None
        for row in revisions.filter(comp=comp).order_by("revision").iterator(chunk_size=20):
            if row.document is None:
                row.document = patched(before, row.patch)
                row.patch = None
                row.save(update_fields=["document", "patch"])
            before = row.document


class Migration(migrations.Migration):
    dependencies = [("comps", "0006_documents")]

    operations = [
        migrations.AddField(
            model_name="comprevision",
            name="version",
            field=models.PositiveIntegerField(
                default=1, help_text="Version of the document, as it was written."
            ),
        ),
        migrations.AddField(
            model_name="comprevision",
            name="patch",
            field=models.JSONField(
                help_text="What changed since the revision before, as JSON Patch (RFC 6902).", null=True
            ),
        ),
        migrations.AlterField(
            model_name="comprevision",
            name="document",
            field=models.JSONField(
                help_text="The whole state, as it was written; empty where `patch` leads to it.", null=True
            ),
        ),
        migrations.RunPython(store_differences, store_whole),
        migrations.AddConstraint(
            model_name="comprevision",
            constraint=models.CheckConstraint(
                condition=models.Q(document__isnull=False, patch__isnull=True)
                | models.Q(document__isnull=True, patch__isnull=False),
                name="whole_or_difference",
            ),
        ),
    ]
