"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("review", "0001_seat"),
        ("review", "0002_notices"),
        ("review", "0003_seen"),
        ("review", "0004_advice"),
        ("review", "0005_signing_by_figures"),
    ]
    initial = True

    dependencies = [
        ("firm", "0001_tables"),
        ("returns", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="AdviceChoice",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("item", models.CharField(max_length=120)),
                ("shown", models.BooleanField()),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="advice_choices", to="returns.return"
                    ),
                ),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("of", "item"), name="advice_chosen_once")],
            },
        ),
        migrations.CreateModel(
            name="Initial",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("address", models.CharField(max_length=120)),
                ("value", models.CharField(max_length=40)),
                ("sources", models.JSONField(default=dict)),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="initials", to="returns.return"),
                ),
            ],
            options={
                "ordering": ["at"],
                "constraints": [models.UniqueConstraint(fields=("of", "address", "by"), name="initial_once_each")],
            },
        ),
        migrations.CreateModel(
            name="MarginNote",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("address", models.CharField(max_length=120)),
                ("text", models.CharField(max_length=1000)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("answer", models.CharField(blank=True, max_length=1000)),
                ("closed_at", models.DateTimeField(null=True)),
                (
                    "asked",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="open_points",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                (
                    "closed_by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                ("of", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="notes", to="returns.return")),
            ],
            options={
                "ordering": ["-id"],
                "indexes": [models.Index(fields=["of", "address"], name="note_by_figure")],
                "constraints": [models.CheckConstraint(condition=models.Q(("text", ""), _negated=True), name="note_has_text")],
            },
        ),
        migrations.CreateModel(
            name="NoticeSettled",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.CharField(max_length=80)),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="notices_settled", to="returns.return"
                    ),
                ),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("of", "key"), name="notice_settled_once")],
            },
        ),
        migrations.CreateModel(
            name="Reviewed",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("mark", models.CharField(max_length=64)),
                ("at", models.DateTimeField()),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="reviews", to="returns.return"),
                ),
            ],
            options={
                "ordering": ["at"],
                "constraints": [models.UniqueConstraint(fields=("of", "by"), name="reviewed_once_each")],
            },
        ),
        migrations.CreateModel(
            name="Seen",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("code", models.CharField(max_length=60)),
                ("place", models.CharField(max_length=120)),
                ("reason", models.CharField(max_length=300)),
                ("figures", models.JSONField(default=dict)),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                ("of", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="seen", to="returns.return")),
            ],
            options={
                "ordering": ["at"],
                "constraints": [
                    models.UniqueConstraint(fields=("of", "code", "place", "by"), name="seen_once_each"),
                    models.CheckConstraint(condition=models.Q(("reason", ""), _negated=True), name="seen_has_reason"),
                ],
            },
        ),
    ]
    operations = together(operations)
