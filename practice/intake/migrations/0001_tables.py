"""The tables as they are; a practice that was made before them had them step by step."""

import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("intake", "0001_seat"),
        ("intake", "0002_jobs_and_limits"),
        ("intake", "0003_statements"),
        ("intake", "0004_opened_by_workers"),
        ("intake", "0005_drawn_by_workers"),
        ("intake", "0006_words"),
        ("intake", "0007_arrivals"),
        ("intake", "0008_sent_by_clients"),
        ("intake", "0009_scanned"),
        ("intake", "0010_along"),
        ("intake", "0011_incoming"),
    ]
    initial = True

    dependencies = [
        ("clients", "0002_references"),
        ("firm", "0002_references"),
        ("returns", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="Attachment",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("token", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("name", models.CharField(max_length=160)),
                ("kind", models.CharField(max_length=4)),
                ("file", models.CharField(max_length=200)),
                ("size", models.PositiveIntegerField()),
                (
                    "state",
                    models.CharField(
                        choices=[("reading", "being read"), ("ready", "ready"), ("refused", "not accepted")],
                        default="reading",
                        max_length=8,
                    ),
                ),
                ("says", models.CharField(blank=True, max_length=300)),
                ("scanned_at", models.DateTimeField(null=True)),
                ("infected", models.CharField(blank=True, max_length=80)),
                ("pages", models.PositiveSmallIntegerField(default=0)),
                ("turn", models.PositiveSmallIntegerField(default=0)),
                ("drawn", models.PositiveSmallIntegerField(default=0)),
                ("undrawn", models.JSONField(default=dict)),
                ("digest", models.CharField(max_length=64)),
                ("along", models.CharField(blank=True, max_length=30)),
                ("along_name", models.CharField(blank=True, max_length=60)),
                ("along_to", models.CharField(blank=True, max_length=10)),
                ("doubt", models.CharField(blank=True, max_length=200)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("touched_at", models.DateTimeField(auto_now=True)),
                ("removed_at", models.DateTimeField(null=True)),
                (
                    "by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="attachments", to="returns.return"
                    ),
                ),
                (
                    "paper",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="attachments", to="returns.paper"
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Import",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=160)),
                ("form", models.CharField(max_length=6)),
                ("target", models.CharField(blank=True, max_length=40)),
                ("file", models.CharField(max_length=200)),
                ("columns", models.JSONField(default=dict)),
                ("sample", models.JSONField(default=list)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("mapping", "columns to map"),
                            ("reading", "being read"),
                            ("read", "ready to preview"),
                            ("taking", "being imported"),
                            ("done", "imported"),
                            ("failed", "not imported"),
                        ],
                        default="mapping",
                        max_length=8,
                    ),
                ),
                ("rows", models.PositiveIntegerField(default=0)),
                ("progress", models.PositiveIntegerField(default=0)),
                ("errors", models.JSONField(default=list)),
                ("preview", models.JSONField(default=list)),
                ("outcome", models.JSONField(default=dict)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("touched_at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="imports", to="returns.return"),
                ),
                (
                    "paper",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.paper"
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="Arrival",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=160)),
                ("form", models.CharField(max_length=4)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("mapping", "columns to map"),
                            ("reading", "being read"),
                            ("read", "ready to preview"),
                            ("taking", "being taken in"),
                            ("done", "taken in"),
                            ("failed", "not read"),
                        ],
                        default="reading",
                        max_length=8,
                    ),
                ),
                ("file", models.CharField(max_length=200)),
                ("sample", models.JSONField(default=list)),
                ("columns", models.JSONField(default=dict)),
                ("items", models.JSONField(default=list)),
                ("says", models.CharField(blank=True, max_length=300)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("touched_at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
            ],
            options={
                "ordering": ["-id"],
                "constraints": [
                    models.CheckConstraint(
                        condition=models.Q(("state__in", ["mapping", "reading", "read", "taking", "done", "failed"])),
                        name="arrival_state_is_known",
                    )
                ],
            },
        ),
        migrations.CreateModel(
            name="Incoming",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("token", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("source", models.CharField(choices=[("mail", "by email"), ("folder", "from the scan folder")], max_length=6)),
                ("sender", models.CharField(blank=True, max_length=254)),
                ("subject", models.CharField(blank=True, max_length=200)),
                ("name", models.CharField(max_length=160)),
                ("file", models.CharField(max_length=200)),
                ("size", models.PositiveIntegerField()),
                ("digest", models.CharField(max_length=64)),
                (
                    "state",
                    models.CharField(
                        choices=[
                            ("reading", "being read"),
                            ("waiting", "to be sorted"),
                            ("refused", "not accepted"),
                            ("sorted", "sorted"),
                            ("discarded", "discarded"),
                        ],
                        default="reading",
                        max_length=10,
                    ),
                ),
                ("says", models.CharField(blank=True, max_length=300)),
                ("pages", models.PositiveSmallIntegerField(default=0)),
                ("line", models.CharField(blank=True, max_length=160)),
                ("why", models.CharField(blank=True, max_length=120)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("touched_at", models.DateTimeField(auto_now=True)),
                (
                    "attachment",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="intake.attachment"
                    ),
                ),
                (
                    "by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "household",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.household"
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
                "constraints": [
                    models.UniqueConstraint(
                        condition=models.Q(("state__in", ["reading", "waiting"])), fields=("firm", "digest"), name="waits_once"
                    )
                ],
            },
        ),
        migrations.CreateModel(
            name="Layout",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("target", models.CharField(max_length=40)),
                ("heads", models.CharField(max_length=64)),
                ("columns", models.JSONField(default=dict)),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("firm", "target", "heads"), name="layout_once")],
            },
        ),
    ]
    operations = together(operations)
