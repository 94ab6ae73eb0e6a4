"""The tables as they are; a practice that was made before them had them step by step."""

from django.db import migrations, models

import practice.firm.crypto
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("clients", "0001_initial"),
        ("clients", "0002_initial"),
        ("clients", "0003_review_clients"),
        ("clients", "0004_own_name"),
        ("clients", "0005_words"),
        ("clients", "0006_left"),
        ("clients", "0007_clients_and_groups"),
        ("clients", "0008_news"),
    ]
    initial = True

    dependencies = []

    operations = [
        migrations.CreateModel(
            name="Confidant",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(auto_now_add=True)),
            ],
        ),
        migrations.CreateModel(
            name="Entity",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "form",
                    models.CharField(
                        choices=[
                            ("company", "Corporation or company"),
                            ("s-corp", "S corporation"),
                            ("partnership", "Partnership"),
                            ("llc", "Limited liability company"),
                            ("trust", "Trust"),
                            ("estate", "Estate"),
                            ("association", "Association or charity"),
                        ],
                        max_length=12,
                    ),
                ),
                ("number", practice.firm.crypto.SealedField(blank=True)),
                ("number_digest", models.CharField(blank=True, max_length=64)),
                ("formed_on", models.DateField(blank=True, null=True)),
                ("email", models.EmailField(blank=True, max_length=254)),
                ("telephone", models.CharField(blank=True, max_length=20)),
            ],
            options={
                "verbose_name_plural": "entities",
            },
        ),
        migrations.CreateModel(
            name="Group",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=120)),
            ],
            options={
                "ordering": ["name"],
            },
        ),
        migrations.CreateModel(
            name="Household",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "kind",
                    models.CharField(choices=[("people", "Household"), ("entity", "Company")], default="people", max_length=6),
                ),
                ("restricted", models.BooleanField(default=False)),
                ("name", models.CharField(max_length=120)),
                ("own_name", models.BooleanField(default=False)),
                ("trade", models.CharField(blank=True, max_length=60)),
                ("street", models.CharField(blank=True, max_length=60)),
                ("city", models.CharField(blank=True, max_length=40)),
                ("state", models.CharField(blank=True, max_length=2)),
                ("zip", models.CharField(blank=True, max_length=10)),
                ("created_at", models.DateTimeField(auto_now_add=True)),
                ("left_on", models.DateField(blank=True, null=True)),
            ],
            options={
                "ordering": ["name"],
            },
        ),
        migrations.CreateModel(
            name="IdentityRecord",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "document",
                    models.CharField(
                        choices=[
                            ("licence", "Driver’s license"),
                            ("passport", "Passport"),
                            ("state-card", "State ID"),
                            ("military", "Military ID"),
                            ("other", "Other government photo ID"),
                            ("known", "Known to the practice from prior years"),
                        ],
                        max_length=12,
                    ),
                ),
                ("issued_by", models.CharField(blank=True, max_length=40)),
                ("ending", models.CharField(blank=True, max_length=4)),
                ("expires", models.DateField(blank=True, null=True)),
                ("on", models.DateField()),
                ("at", models.DateTimeField(auto_now_add=True)),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="Membership",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(auto_now_add=True)),
            ],
            options={
                "ordering": ["household__kind", "household__name"],
            },
        ),
        migrations.CreateModel(
            name="Person",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("first_name", models.CharField(max_length=40)),
                ("last_name", models.CharField(max_length=40)),
                ("number", practice.firm.crypto.SealedField(blank=True)),
                ("number_digest", models.CharField(blank=True, max_length=64)),
                ("birth_date", models.DateField(blank=True, null=True)),
                ("occupation", models.CharField(blank=True, max_length=40)),
                ("email", models.EmailField(blank=True, max_length=254)),
                ("telephone", models.CharField(blank=True, max_length=20)),
                (
                    "news",
                    models.CharField(
                        blank=True, choices=[("", "no alerts"), ("mail", "by email"), ("text", "by text message")], max_length=4
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Role",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "kind",
                    models.CharField(
                        choices=[
                            ("owner", "Owner"),
                            ("partner", "Partner"),
                            ("member", "Member"),
                            ("shareholder", "Shareholder"),
                            ("director", "Director"),
                            ("officer", "Officer"),
                            ("trustee", "Trustee"),
                            ("beneficiary", "Beneficiary"),
                            ("contact", "Contact"),
                        ],
                        max_length=12,
                    ),
                ),
                ("share", models.DecimalField(decimal_places=4, max_digits=7, null=True)),
                ("since", models.DateField(null=True)),
                ("until", models.DateField(null=True)),
                ("gets_mail", models.BooleanField(default=False)),
                ("signs", models.BooleanField(default=False)),
                ("at", models.DateTimeField(auto_now_add=True)),
            ],
            options={
                "ordering": ["until", "-share", "id"],
            },
        ),
    ]
    operations = together(operations)
