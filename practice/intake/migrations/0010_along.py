from django.db import migrations, models


def keep_statements(apps, schema_editor):
    apps.get_model("intake", "Attachment")._base_manager.filter(goes_along=True).update(along="statement")


class Migration(migrations.Migration):
    dependencies = [("intake", "0009_scanned")]

    operations = [
        migrations.AddField(
            "attachment", "along", models.CharField(blank=True, default="", max_length=30), preserve_default=False
        ),
        migrations.AddField(
            "attachment", "along_name", models.CharField(blank=True, default="", max_length=60), preserve_default=False
        ),
        migrations.AddField(
            "attachment", "along_to", models.CharField(blank=True, default="", max_length=10), preserve_default=False
        ),
        migrations.RunPython(keep_statements, migrations.RunPython.noop),
        migrations.RemoveField("attachment", "goes_along"),
    ]
