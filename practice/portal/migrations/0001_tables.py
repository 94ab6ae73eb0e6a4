"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.db import migrations, models

import practice.firm.crypto
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("portal", "0001_initial"),
        ("portal", "0002_jobs_and_limits"),
        ("portal", "0003_codes"),
        ("portal", "0004_alerts"),
    ]
    initial = True

    dependencies = [
        ("clients", "0002_references"),
        ("firm", "0002_references"),
        ("returns", "0001_tables"),
    ]

    operations = [
        migrations.CreateModel(
            name="Alert",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("way", models.CharField(max_length=4)),
                ("says", models.CharField(max_length=160)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("sent_at", models.DateTimeField(null=True)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="alerts", to="returns.return"),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="PortalLink",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("token_digest", models.CharField(max_length=64, unique=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("expires_at", models.DateTimeField()),
                ("opened_at", models.DateTimeField(null=True)),
                ("code_digest", models.CharField(blank=True, max_length=64)),
                ("code_sent_at", models.DateTimeField(null=True)),
                ("code_tries", models.PositiveSmallIntegerField(default=0)),
                ("codes_sent", models.PositiveSmallIntegerField(default=0)),
                ("closed_at", models.DateTimeField(null=True)),
                ("purpose", models.CharField(blank=True, max_length=12)),
                ("token_to_mail", practice.firm.crypto.SealedField(blank=True)),
                ("code_to_mail", practice.firm.crypto.SealedField(blank=True)),
                ("mailed_at", models.DateTimeField(null=True)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                ("of", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.return")),
            ],
            options={
                "abstract": False,
                "base_manager_name": None,
            },
        ),
    ]
    operations = together(operations)
