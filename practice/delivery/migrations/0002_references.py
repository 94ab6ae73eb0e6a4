"""What of these tables refers to other apps."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("delivery", "0007_plan_sheets"),
    ]
    initial = True

    dependencies = [
        ("delivery", "0001_tables"),
        ("firm", "0001_tables"),
        ("returns", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="download",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="package",
            name="asked_by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="package",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="package",
            name="of",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="packages", to="returns.return"),
        ),
        migrations.AddField(
            model_name="package",
            name="snapshot",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.snapshot"),
        ),
        migrations.AddField(
            model_name="download",
            name="package",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="downloads", to="delivery.package"
            ),
        ),
        migrations.AddField(
            model_name="plansheet",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="plansheet",
            name="made_by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="plansheet",
            name="of",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="plan_sheets", to="returns.return"),
        ),
        migrations.AddField(
            model_name="printed",
            name="asked_by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="printed",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="printed",
            name="of",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="printed", to="returns.return"),
        ),
        migrations.AddField(
            model_name="printed",
            name="snapshot",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.snapshot"),
        ),
        migrations.AddField(
            model_name="download",
            name="printed",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="downloads", to="delivery.printed"
            ),
        ),
        migrations.AddField(
            model_name="printset",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="printed",
            name="set",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="delivery.printset"),
        ),
        migrations.AddConstraint(
            model_name="download",
            constraint=models.CheckConstraint(
                condition=models.Q(("package", None), ("printed", None), _connector="XOR"), name="one_thing_was_taken"
            ),
        ),
        migrations.AddConstraint(
            model_name="printset",
            constraint=models.UniqueConstraint(
                condition=models.Q(("ended_at", None)), fields=("firm", "name"), name="print_set_once"
            ),
        ),
    ]
    operations = together(operations)
