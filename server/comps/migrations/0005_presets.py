"""What a project keeps under a name is called a preset."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("comps", "0004_undo_by_person"), ("projects", "0001_initial")]

    operations = [
        migrations.RemoveConstraint(model_name="kept", name="kept_name_once"),
        migrations.RenameModel(old_name="Kept", new_name="Preset"),
        migrations.AlterField(
            model_name="preset",
            name="project",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="presets", to="projects.project"
            ),
        ),
        migrations.AddConstraint(
            model_name="preset",
            constraint=models.UniqueConstraint(fields=["project", "kind", "name"], name="preset_name_once"),
        ),
    ]
