"""Files whose columns were being chosen before workers opened them are opened again by one."""

from django.db import migrations


def ask(apps, schema_editor):
    apps.get_model("intake", "Import").objects.filter(state="mapping", sample=[]).update(state="reading")


class Migration(migrations.Migration):
    dependencies = [("intake", "0003_statements")]
    operations = [migrations.RunPython(ask, migrations.RunPython.noop)]
