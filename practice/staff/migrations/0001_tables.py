"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import practice.firm.crypto
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("staff", "0001_invitations"),
        ("staff", "0002_calendar_links"),
    ]
    initial = True

    dependencies = [
        ("firm", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="CalendarLink",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("token_digest", models.CharField(max_length=64, unique=True)),
                ("named", models.BooleanField(default=False)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("read_at", models.DateTimeField(null=True)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "staff",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE, related_name="calendar_link", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "abstract": False,
                "base_manager_name": None,
            },
        ),
        migrations.CreateModel(
            name="Invitation",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("email", models.EmailField(max_length=254)),
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
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("expires_at", models.DateTimeField()),
                ("token_digest", models.CharField(max_length=64, unique=True)),
                ("token_to_mail", practice.firm.crypto.SealedField(blank=True)),
                ("mailed_at", models.DateTimeField(null=True)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("used_at", models.DateTimeField(null=True)),
                ("withdrawn_at", models.DateTimeField(null=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "staff",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
                "constraints": [
                    models.UniqueConstraint(
                        condition=models.Q(("staff", None), ("used_at", None), ("withdrawn_at", None)),
                        fields=("firm", "email"),
                        name="invited_once",
                    )
                ],
            },
        ),
    ]
    operations = together(operations)
