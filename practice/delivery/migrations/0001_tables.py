"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.db import migrations, models

import practice.firm.crypto
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("delivery", "0001_initial"),
        ("delivery", "0002_initial"),
        ("delivery", "0003_print_sets"),
        ("delivery", "0004_ways_of_filing"),
        ("delivery", "0005_shared_sets"),
        ("delivery", "0006_disclosing"),
    ]
    initial = True

    dependencies = [
        ("clients", "0001_tables"),
    ]

    operations = [
        migrations.CreateModel(
            name="Package",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "state",
                    models.CharField(
                        choices=[("making", "being made"), ("ready", "ready"), ("failed", "failed")],
                        default="making",
                        max_length=8,
                    ),
                ),
                ("file", models.CharField(blank=True, max_length=120)),
                ("pages", models.PositiveIntegerField(default=0)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("asked_at", models.DateTimeField(auto_now_add=True)),
                ("made_at", models.DateTimeField(null=True)),
                ("delivered_at", models.DateTimeField(null=True)),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="PlanSheet",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=200)),
                ("file", models.CharField(max_length=120)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("shared_at", models.DateTimeField(null=True)),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="Printed",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("authority", models.CharField(blank=True, max_length=10)),
                ("recipient", models.CharField(blank=True, max_length=80)),
                ("password", practice.firm.crypto.SealedField(blank=True)),
                ("locked", models.BooleanField(default=False)),
                (
                    "state",
                    models.CharField(
                        choices=[("making", "being made"), ("ready", "ready"), ("failed", "failed")],
                        default="making",
                        max_length=8,
                    ),
                ),
                ("file", models.CharField(blank=True, max_length=120)),
                ("pages", models.PositiveIntegerField(default=0)),
                ("trouble", models.CharField(blank=True, max_length=200)),
                ("asked_at", models.DateTimeField(auto_now_add=True)),
                ("shared_at", models.DateTimeField(null=True)),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="PrintSet",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=60)),
                ("parts", models.JSONField(default=list)),
                ("masked", models.BooleanField(default=True)),
                ("watermark", models.CharField(blank=True, max_length=20)),
                ("apart", models.BooleanField(default=False)),
                ("discloses", models.BooleanField(default=False)),
                ("ended_at", models.DateTimeField(null=True)),
            ],
            options={
                "ordering": ["name", "id"],
            },
        ),
        migrations.CreateModel(
            name="Download",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
            ],
        ),
    ]
    operations = together(operations)
