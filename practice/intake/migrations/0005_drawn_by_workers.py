"""Attached pages are looked into and drawn by workers. Those that are there are drawn once more, by the next sweep."""

from django.db import migrations, models

_STATES = [("reading", "being read"), ("ready", "ready"), ("refused", "not accepted")]


def draw(apps, schema_editor):
    apps.get_model("intake", "Attachment").objects.update(pages=0)


class Migration(migrations.Migration):
    dependencies = [("intake", "0004_opened_by_workers")]
    operations = [
        migrations.AddField("attachment", "state", models.CharField(choices=_STATES, default="reading", max_length=8)),
        migrations.AddField("attachment", "says", models.CharField(blank=True, max_length=300)),
        migrations.AddField("attachment", "drawn", models.PositiveSmallIntegerField(default=0)),
        migrations.AddField("attachment", "undrawn", models.JSONField(default=dict)),
        migrations.AddField("attachment", "touched_at", models.DateTimeField(auto_now=True)),
        migrations.AlterField("attachment", "pages", models.PositiveSmallIntegerField(default=0)),
        migrations.RunPython(draw, migrations.RunPython.noop),
    ]
