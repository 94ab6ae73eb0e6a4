"""The tables as they are; a practice that was made before them had them step by step."""

from decimal import Decimal

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    replaces = [
        ("whatif", "0001_columns"),
        ("whatif", "0002_rate"),
    ]
    initial = True

    dependencies = [
        ("firm", "0001_tables"),
        ("returns", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="PlanColumn",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=40)),
                ("note", models.CharField(blank=True, max_length=300)),
                ("years_on", models.PositiveSmallIntegerField(default=0)),
                ("rate", models.DecimalField(decimal_places=2, default=Decimal("2.5"), max_digits=4)),
                ("differences", models.JSONField(default=dict)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("removed_at", models.DateTimeField(null=True)),
                (
                    "based_on",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="onto", to="whatif.plancolumn"
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "made_by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="plan_columns", to="returns.return"
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
    ]
