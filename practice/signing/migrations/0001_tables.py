"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import practice.firm.crypto
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("signing", "0001_initial"),
        ("signing", "0002_signing_by_figures"),
        ("signing", "0003_jobs_and_limits"),
        ("signing", "0004_on_paper"),
        ("signing", "0005_preparers"),
    ]
    initial = True

    dependencies = [
        ("clients", "0002_references"),
        ("firm", "0002_references"),
        ("intake", "0001_tables"),
        ("returns", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="PreparerSignature",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "place",
                    models.CharField(choices=[("preparer", "Paid preparer"), ("second", "Second signature")], max_length=8),
                ),
                ("number", models.CharField(blank=True, max_length=20)),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="preparer_signatures", to="returns.return"
                    ),
                ),
                (
                    "snapshot",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="preparer_signatures", to="returns.snapshot"
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
                "constraints": [models.UniqueConstraint(fields=("snapshot", "place"), name="preparer_signs_once")],
            },
        ),
        migrations.CreateModel(
            name="Representative",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=90)),
                ("capacity", models.CharField(max_length=20)),
                ("seen", models.CharField(blank=True, max_length=120)),
                ("until", models.DateField(null=True)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("ended_at", models.DateTimeField(null=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="representatives", to="returns.return"
                    ),
                ),
                (
                    "person",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person"
                    ),
                ),
                (
                    "proof",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="intake.attachment"
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
                "constraints": [
                    models.UniqueConstraint(
                        condition=models.Q(("ended_at", None)), fields=("of", "client"), name="represented_once"
                    )
                ],
            },
        ),
        migrations.CreateModel(
            name="Signature",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("authority", models.CharField(max_length=10)),
                ("role", models.CharField(max_length=10)),
                ("name", models.CharField(max_length=90)),
                ("capacity", models.CharField(blank=True, max_length=60)),
                ("image", practice.firm.crypto.SealedField(blank=True)),
                ("pin", practice.firm.crypto.SealedField(blank=True)),
                (
                    "manner",
                    models.CharField(
                        choices=[("portal", "in the portal"), ("office", "in the office"), ("paper", "on paper")], max_length=8
                    ),
                ),
                ("paper_day", models.DateField(null=True)),
                ("signed_at", models.DateTimeField(auto_now_add=True)),
                ("address", models.GenericIPAddressField(null=True)),
                ("voided_at", models.DateTimeField(null=True)),
                ("pdf", models.CharField(blank=True, max_length=120)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="signatures", to="returns.return"
                    ),
                ),
                (
                    "scan",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="intake.attachment"
                    ),
                ),
                (
                    "snapshot",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="signatures", to="returns.snapshot"
                    ),
                ),
                (
                    "witness",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
                "constraints": [
                    models.UniqueConstraint(
                        condition=models.Q(("voided_at", None)), fields=("of", "authority", "client"), name="signed_once"
                    ),
                    models.CheckConstraint(
                        condition=models.Q(("manner", "portal"), ("witness__isnull", False), _connector="OR"),
                        name="office_has_witness",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("manner", "paper"), _negated=True),
                            models.Q(("paper_day__isnull", False), ("scan__isnull", False)),
                            _connector="OR",
                        ),
                        name="paper_has_scan_and_day",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="SignatureRequest",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("role", models.CharField(max_length=10)),
                ("expires_on", models.DateField(null=True)),
                ("asked_at", models.DateTimeField(auto_now_add=True)),
                ("voided_at", models.DateTimeField(null=True)),
                ("identity_check", models.CharField(blank=True, max_length=64)),
                ("identity_questions", models.JSONField(default=list)),
                ("identity_tries", models.PositiveSmallIntegerField(default=0)),
                ("identity_proved_at", models.DateTimeField(null=True)),
                ("identity_failed_at", models.DateTimeField(null=True)),
                ("identity_refused", models.CharField(blank=True, max_length=200)),
                ("read_at", models.DateTimeField(null=True)),
                (
                    "agent",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person"
                    ),
                ),
                (
                    "asked_by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="signature_requests", to="returns.return"
                    ),
                ),
                (
                    "snapshot",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="requests", to="returns.snapshot"
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
                "constraints": [
                    models.UniqueConstraint(
                        condition=models.Q(("voided_at", None)), fields=("snapshot", "client"), name="asked_once"
                    )
                ],
            },
        ),
    ]
    operations = together(operations)
