"""Readings say where alpha was multiplied in: in linear light, or in encoded values."""

from django.db import migrations

WORDS = {"before-encoding": "linear", "after-encoding": "encoded"}
COLUMNS = {
    "Element": ("reading", "suggestion"),
    "ReadingRule": ("reading",),
    "ReadingChange": ("before", "after"),
}


def replaced(data, words):
    """JSON with other words wherever a reading stands in it."""
    if isinstance(data, list):
        return [replaced(v, words) for v in data]
    if isinstance(data, dict):
        found = {k: replaced(v, words) for k, v in data.items()}
        if isinstance(found.get("multiplied"), str):
            found["multiplied"] = words.get(found["multiplied"], found["multiplied"])
        return found
    return data


def replace_all(apps, words):
    for name, columns in COLUMNS.items():
        model = apps.get_model("elements", name)
        for row in model.objects.only("pk", *columns).iterator(chunk_size=500):
            changes = {}
            for column in columns:
                before = getattr(row, column)
                after = replaced(before, words)
                if after != before:
                    changes[column] = after
            if changes:
                model.objects.filter(pk=row.pk).update(**changes)


def forwards(apps, schema_editor):
    replace_all(apps, WORDS)


def backwards(apps, schema_editor):
    replace_all(apps, {new: old for old, new in WORDS.items()})


class Migration(migrations.Migration):
    dependencies = [("elements", "0006_folder_help")]

    operations = [migrations.RunPython(forwards, backwards)]
