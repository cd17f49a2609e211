import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True
    dependencies = [
        ("projects", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]
    operations = [
        migrations.CreateModel(
            name='Job',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('kind', models.CharField(help_text='Name of a `JobKind`.', max_length=20)),
                ('state', models.CharField(choices=[('queued', 'Queued'), ('running', 'Running'), ('finishing', 'Finishing'), ('done', 'Done'), ('failed', 'Failed'), ('cancelled', 'Cancelled')], default='queued', max_length=10)),
                ('cancel', models.BooleanField(default=False, help_text='A person has asked it to stop.')),
                ('newest', models.IntegerField(help_text='The frame that was written last.', null=True)),
                ('checked', models.PositiveIntegerField(default=0, help_text='Frames that finishing has gone through.')),
                ('finishes', models.PositiveSmallIntegerField(default=0, help_text='How often finishing was begun since it last came a frame further.')),
                ('problem', models.JSONField(null=True)),
                ('ordered', models.DateTimeField(auto_now_add=True)),
                ('started', models.DateTimeField(null=True)),
                ('ended', models.DateTimeField(null=True)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='jobs', to='projects.project')),
            ],
            options={
                'ordering': ['-id'],
            },
        ),
        migrations.CreateModel(
            name='Piece',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('first', models.IntegerField()),
                ('last', models.IntegerField()),
                ('written', models.PositiveIntegerField(default=0)),
                ('done', models.BooleanField(default=False)),
                ('attempts', models.PositiveSmallIntegerField(default=0, help_text='How often it was begun since it last came a frame further.')),
                ('problem', models.JSONField(help_text='Why it was set aside.', null=True)),
                ('job', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pieces', to='jobs.job')),
            ],
            options={
                'ordering': ['first'],
            },
        ),
    ]
