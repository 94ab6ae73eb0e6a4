"""The tables as they are; a practice that was made before them had them step by step."""

import uuid

from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("dispatch", "0001_initial"),
        ("dispatch", "0002_initial"),
        ("dispatch", "0003_more_time"),
        ("dispatch", "0004_rounds"),
        ("dispatch", "0005_extensions_held"),
        ("dispatch", "0006_words"),
        ("dispatch", "0007_rounds_belong_to_returns"),
    ]
    initial = True

    dependencies = []

    operations = [
        migrations.CreateModel(
            name="Acknowledgement",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("accepted", models.BooleanField()),
                ("answer", models.JSONField()),
                ("at", models.DateTimeField(auto_now_add=True)),
            ],
            options={
                "abstract": False,
                "base_manager_name": None,
            },
        ),
        migrations.CreateModel(
            name="Extension",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("authority", models.CharField(max_length=10)),
                ("key", models.UUIDField(default=uuid.uuid4, unique=True)),
                ("receipt", models.CharField(blank=True, max_length=40)),
                ("tries", models.PositiveIntegerField(default=0)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("next_try_at", models.DateTimeField(null=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("sent_at", models.DateTimeField(null=True)),
                ("answered_at", models.DateTimeField(null=True)),
                ("refused_rules", models.JSONField(default=list)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("open", "not sent"),
                            ("waiting", "held until the federal extension is accepted"),
                            ("queued", "to be sent"),
                            ("sent", "sent, awaiting acknowledgment"),
                            ("accepted", "extension accepted"),
                            ("rejected", "refused"),
                            ("unneeded", "nothing to send"),
                        ],
                        default="open",
                        max_length=10,
                    ),
                ),
                ("ready", models.BooleanField(default=False)),
                ("form", models.CharField(blank=True, max_length=20)),
                ("paying", models.DecimalField(decimal_places=2, default=0, max_digits=13)),
                ("until", models.DateField(null=True)),
                ("document", models.BinaryField(default=bytes)),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Route",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("authority", models.CharField(max_length=10)),
                (
                    "way",
                    models.CharField(
                        choices=[("electronic", "electronically"), ("paper", "on paper"), ("held", "held")], max_length=10
                    ),
                ),
                ("reason", models.CharField(blank=True, max_length=20)),
                ("note", models.CharField(blank=True, max_length=200)),
                ("mail_to", models.CharField(blank=True, max_length=300)),
                ("at", models.DateTimeField(auto_now=True)),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Submission",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("authority", models.CharField(max_length=10)),
                ("key", models.UUIDField(default=uuid.uuid4, unique=True)),
                ("receipt", models.CharField(blank=True, max_length=40)),
                ("tries", models.PositiveIntegerField(default=0)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("next_try_at", models.DateTimeField(null=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("sent_at", models.DateTimeField(null=True)),
                ("answered_at", models.DateTimeField(null=True)),
                ("refused_rules", models.JSONField(default=list)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("waiting", "held until the federal return is accepted"),
                            ("queued", "to be sent"),
                            ("sent", "sent, awaiting acknowledgment"),
                            ("accepted", "accepted"),
                            ("rejected", "rejected"),
                            ("withdrawn", "canceled before sending"),
                            ("to mail", "to be mailed"),
                            ("mailed", "mailed"),
                        ],
                        default="queued",
                        max_length=10,
                    ),
                ),
                ("document", models.BinaryField()),
                ("mailed_on", models.DateField(null=True)),
                ("mailed_as", models.CharField(blank=True, max_length=80)),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
    ]
    operations = together(operations)
