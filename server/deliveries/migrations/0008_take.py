from django.db import migrations, models


def takes_of_ranges(apps, schema_editor):
    """A range and a rate become a take; pieces that are not done count from 1."""
    Delivery = apps.get_model("deliveries", "Delivery")
    Piece = apps.get_model("jobs", "Piece")
    for row in Delivery.objects.all():
        row.take = {"frames": f"{row.first}-{row.last}", "rate": row.rate}
        row.numbers = row.take["frames"]
        row.save(update_fields=["take", "numbers"])
        for piece in Piece.objects.filter(job_id=row.job_id):
            piece.first, piece.last = piece.first - row.first + 1, piece.last - row.first + 1
            piece.save(update_fields=["first", "last"])


class Migration(migrations.Migration):
    dependencies = [("deliveries", "0007_delivery_form"), ("jobs", "0001_initial")]

    operations = [
        migrations.AddField(
            "delivery",
            "take",
            models.JSONField(
                default=dict,
                help_text="What of the document is written: layers, frames, size, rate, numbers.",
            ),
        ),
        migrations.AddField(
            "delivery", "numbers", models.TextField(default="", help_text="Of all its files, as 1-20,35.")
        ),
        migrations.AlterField("delivery", "first", models.IntegerField(help_text="The first file's number.")),
        migrations.AlterField("delivery", "last", models.IntegerField(help_text="The last file's number.")),
        migrations.RunPython(takes_of_ranges, migrations.RunPython.noop),
    ]
