

import config.document_fields
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('comps', '0005_presets'),
    ]

    operations = [
        migrations.AddField(
            model_name='preset',
            name='version',
            field=models.PositiveIntegerField(default=1, help_text='Version of the comp document whose words the content has.'),
        ),
        migrations.AlterField(
            model_name='comp',
            name='document',
            field=config.document_fields.CompDocumentField(),
        ),
        migrations.AlterField(
            model_name='comprevision',
            name='document',
            field=config.document_fields.CompDocumentField(),
        ),
    ]
