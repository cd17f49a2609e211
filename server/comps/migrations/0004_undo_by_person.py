"""Undo goes by person: a revision tells which change it takes back or does again."""

from django.db import migrations, models


def from_pointers(apps, schema_editor):
    """What an undo came from is the change that it took back."""
    revisions = apps.get_model("comps", "CompRevision").objects
    undone = revisions.filter(what__startswith="undo: ", redo_to__isnull=False)
    undone.update(takes_back=models.F("redo_to"))


class Migration(migrations.Migration):
    dependencies = [("comps", "0003_kept_and_states")]

    operations = [
        migrations.AddField(
            model_name="comprevision",
            name="takes_back",
            field=models.PositiveIntegerField(null=True, help_text="The revision whose change is undone."),
        ),
        migrations.AddField(
            model_name="comprevision",
            name="does_again",
            field=models.PositiveIntegerField(null=True, help_text="The revision whose change is redone."),
        ),
        migrations.RunPython(from_pointers, migrations.RunPython.noop),
        migrations.RemoveField(model_name="comprevision", name="undo_to"),
        migrations.RemoveField(model_name="comprevision", name="redo_to"),
    ]
