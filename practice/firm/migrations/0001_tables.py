"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models

import practice.firm.crypto
import practice.firm.models
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("firm", "0001_initial"),
        ("firm", "0002_initial"),
        ("firm", "0003_review_firm"),
        ("firm", "0004_signing_by_figures"),
        ("firm", "0005_clients_and_groups"),
        ("firm", "0006_reminders_and_steps"),
        ("firm", "0007_pay_first"),
        ("firm", "0008_second_factor"),
        ("firm", "0009_certificate"),
        ("firm", "0010_retention_and_look"),
        ("firm", "0011_passkeys"),
        ("firm", "0012_preparers"),
    ]
    initial = True

    dependencies = [
        ("clients", "0001_tables"),
    ]

    operations = [
        migrations.CreateModel(
            name="Staff",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("password", models.CharField(max_length=128, verbose_name="password")),
                ("last_login", models.DateTimeField(blank=True, null=True, verbose_name="last login")),
                ("email", models.EmailField(max_length=254, unique=True)),
                ("name", models.CharField(max_length=80)),
                ("initials", models.CharField(max_length=3)),
                (
                    "role",
                    models.CharField(
                        choices=[
                            ("preparer", "Preparer"),
                            ("reviewer", "Reviewer"),
                            ("signer", "Signer"),
                            ("administrator", "Administrator"),
                        ],
                        max_length=16,
                    ),
                ),
                ("is_active", models.BooleanField(default=True)),
                ("preparer_number", models.CharField(blank=True, max_length=20)),
                ("away_until", models.DateField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name="Factor",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("secret", practice.firm.crypto.SealedField()),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("confirmed_at", models.DateTimeField(null=True)),
                ("last_step", models.BigIntegerField(default=0)),
                ("wrong", models.PositiveSmallIntegerField(default=0)),
                ("held_until", models.DateTimeField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name="Firm",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=80)),
                ("town", models.CharField(blank=True, max_length=60)),
                ("address", models.CharField(blank=True, max_length=120)),
                ("telephone", models.CharField(blank=True, max_length=20)),
                ("season", models.PositiveSmallIntegerField()),
                ("training", models.BooleanField(default=False)),
                ("training_day", models.DateField(blank=True, null=True)),
                ("silenced", models.JSONField(default=dict)),
                ("answers", models.JSONField(default=dict)),
                ("matters_from", models.DecimalField(decimal_places=0, default=1000, max_digits=12)),
                ("matters_lines", models.JSONField(default=list)),
                ("lock_needs", models.JSONField(default=practice.firm.models.lock_needs)),
                ("reviewers_correct", models.BooleanField(default=False)),
                ("preparers_add_clients", models.BooleanField(default=True)),
                ("steps_off", models.JSONField(default=list)),
                ("reminds_every", models.PositiveSmallIntegerField(default=7)),
                ("pay_first", models.BooleanField(default=False)),
                ("factor_roles", models.JSONField(default=practice.firm.models.every_role)),
                ("keeps_years", models.PositiveSmallIntegerField(default=7)),
                ("color", models.CharField(blank=True, max_length=7)),
                ("efin", models.CharField(blank=True, max_length=6)),
                ("originator_pin", models.CharField(blank=True, max_length=5)),
                ("file_needs", models.JSONField(default=list)),
            ],
        ),
        migrations.CreateModel(
            name="Passkey",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=40)),
                ("credential", models.CharField(max_length=400, unique=True)),
                ("data", models.TextField()),
                ("counter", models.BigIntegerField(default=0)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("used_at", models.DateTimeField(null=True)),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="RecoveryCode",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("digest", models.CharField(max_length=64, unique=True)),
                ("used_at", models.DateTimeField(null=True)),
            ],
        ),
        migrations.CreateModel(
            name="SignedIn",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.CharField(max_length=40)),
                ("address", models.GenericIPAddressField(null=True)),
                ("browser", models.CharField(blank=True, max_length=80)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("seen_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("ended_at", models.DateTimeField(null=True)),
            ],
            options={
                "ordering": ["-seen_at"],
            },
        ),
        migrations.CreateModel(
            name="Certificate",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("keys", practice.firm.crypto.SealedField()),
                ("subject", models.CharField(max_length=120)),
                ("fingerprint", models.CharField(max_length=64)),
                ("until", models.DateField()),
                ("own", models.BooleanField(default=False)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("ended_at", models.DateTimeField(null=True)),
                (
                    "by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="Event",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("by", models.CharField(max_length=80)),
                ("what", models.CharField(max_length=60)),
                ("says", models.TextField(blank=True)),
                ("facts", models.JSONField(default=dict)),
                (
                    "household",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="events", to="clients.household"
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
    ]
    operations = together(operations)
