"""Rounds over many returns are no matter of dispatch alone: their tables go to the room of returns as they are."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("dispatch", "0006_words")]

    operations = [
        migrations.RemoveConstraint("round", "act_is_known"),
        migrations.SeparateDatabaseAndState(
            database_operations=[
                migrations.AlterModelTable("round", "returns_round"),
                migrations.AlterModelTable("rounditem", "returns_rounditem"),
            ],
            state_operations=[migrations.DeleteModel("RoundItem"), migrations.DeleteModel("Round")],
        ),
    ]
