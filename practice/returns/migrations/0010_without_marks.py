"""What a separate return was made of stands in its origin; a return that another one took the place of may stand beside it."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("returns", "0009_origins")]

    operations = [
        migrations.RemoveField("return", "apart_made"),
        migrations.RemoveConstraint("return", "return_once"),
        migrations.AddConstraint(
            "return",
            models.UniqueConstraint(
                condition=models.Q(("apart_from", None), ("given_up_at", None), ("purpose", "filing")),
                fields=("household", "pack", "year", "purpose"),
                name="return_once",
            ),
        ),
    ]
