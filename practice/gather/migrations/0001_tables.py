"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import practice.firm.crypto
from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("gather", "0001_requests"),
        ("gather", "0002_questionnaire"),
        ("gather", "0003_words"),
        ("gather", "0004_letter_kinds"),
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
            name="LetterText",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("pack", models.CharField(max_length=8)),
                (
                    "kind",
                    models.CharField(
                        choices=[
                            ("engagement", "Engagement letter"),
                            ("use", "Consent to use of tax return information"),
                            ("disclose", "Consent to disclosure of tax return information"),
                            ("privacy", "Privacy notice"),
                            ("cover", "Package cover letter"),
                            ("invoice", "Invoice text"),
                            ("mail-request", "Email: what is asked for"),
                            ("mail-reminder", "Email: reminder"),
                            ("mail-signature", "Email: ready to sign"),
                            ("mail-letter", "Email: a letter"),
                            ("mail-invoice", "Email: an invoice"),
                            ("mail-package", "Email: the package"),
                            ("mail-message", "Email: a message"),
                            ("mail-set", "Email: a document"),
                        ],
                        max_length=16,
                    ),
                ),
                ("version", models.PositiveSmallIntegerField()),
                ("words", models.TextField()),
                ("signed", models.BooleanField(default=True)),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
            ],
            options={
                "ordering": ["kind", "-version"],
            },
        ),
        migrations.CreateModel(
            name="Letter",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("words", practice.firm.crypto.SealedField()),
                ("hash", models.CharField(max_length=64)),
                ("sent_at", models.DateTimeField(auto_now_add=True)),
                ("read_at", models.DateTimeField(null=True)),
                ("signed_at", models.DateTimeField(null=True)),
                ("image", practice.firm.crypto.SealedField(blank=True)),
                ("address", models.GenericIPAddressField(null=True)),
                ("declined_at", models.DateTimeField(null=True)),
                ("withdrawn_at", models.DateTimeField(null=True)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="letters", to="returns.return"),
                ),
                ("person", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                (
                    "sent_by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                (
                    "text",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="gather.lettertext"),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Message",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("words", practice.firm.crypto.SealedField()),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("read_at", models.DateTimeField(null=True)),
                ("closed_at", models.DateTimeField(null=True)),
                (
                    "client",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person"
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "household",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="messages", to="clients.household"
                    ),
                ),
                (
                    "of",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.return"
                    ),
                ),
                (
                    "point_for",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "staff",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Request",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("word", models.CharField(blank=True, max_length=600)),
                ("due", models.DateField(null=True)),
                ("every", models.PositiveSmallIntegerField(default=7)),
                ("remind_on", models.DateField(null=True)),
                ("reminded", models.PositiveSmallIntegerField(default=0)),
                ("reminded_on", models.DateField(null=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("sent_on", models.DateField(null=True)),
                ("closed_at", models.DateTimeField(null=True)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "made_by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="requests", to="returns.return"),
                ),
                (
                    "sent_to",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person"
                    ),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="Item",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "kind",
                    models.CharField(
                        choices=[("document", "Document"), ("question", "Question"), ("survey", "Questionnaire")], max_length=8
                    ),
                ),
                ("text", models.CharField(max_length=160)),
                ("help", models.CharField(blank=True, max_length=300)),
                ("mark", models.CharField(blank=True, max_length=60)),
                ("after", models.CharField(blank=True, max_length=24)),
                ("position", models.PositiveSmallIntegerField(default=0)),
                (
                    "turn",
                    models.CharField(
                        choices=[("client", "asked"), ("office", "new"), ("done", "done"), ("withdrawn", "not asked any more")],
                        default="client",
                        max_length=9,
                    ),
                ),
                (
                    "reply",
                    models.CharField(
                        blank=True,
                        choices=[("files", "sent"), ("answer", "answered"), ("not-so", "does not apply"), ("back", "asks back")],
                        max_length=6,
                    ),
                ),
                ("words", practice.firm.crypto.SealedField(blank=True)),
                ("replied_at", models.DateTimeField(null=True)),
                ("again", models.CharField(blank=True, max_length=300)),
                ("settled_at", models.DateTimeField(null=True)),
                (
                    "client",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person"
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                ("of", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="items", to="returns.return")),
                (
                    "paper",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.paper"
                    ),
                ),
                (
                    "settled_by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "request",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="items", to="gather.request"),
                ),
            ],
            options={
                "ordering": ["position", "id"],
            },
        ),
        migrations.CreateModel(
            name="Told",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.CharField(max_length=24)),
                ("yes", models.BooleanField(null=True)),
                ("words", practice.firm.crypto.SealedField(blank=True)),
                ("at", models.DateTimeField(auto_now=True)),
                ("taken_at", models.DateTimeField(null=True)),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                ("item", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="told", to="gather.item")),
                (
                    "taken_by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Upload",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "attachment",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.PROTECT, related_name="upload", to="intake.attachment"
                    ),
                ),
                ("client", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person")),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "item",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="uploads", to="gather.item"),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Usual",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("pack", models.CharField(max_length=8)),
                (
                    "kind",
                    models.CharField(
                        choices=[("document", "Document"), ("question", "Question"), ("survey", "Questionnaire")], max_length=8
                    ),
                ),
                ("text", models.CharField(max_length=160)),
                ("help", models.CharField(blank=True, max_length=300)),
                ("after", models.CharField(blank=True, max_length=24)),
                ("position", models.PositiveSmallIntegerField(default=0)),
                ("ended_at", models.DateTimeField(null=True)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
            ],
            options={
                "ordering": ["position", "id"],
            },
        ),
        migrations.AddConstraint(
            model_name="lettertext",
            constraint=models.UniqueConstraint(fields=("firm", "pack", "kind", "version"), name="letter_version_once"),
        ),
        migrations.AddConstraint(
            model_name="lettertext",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    (
                        "kind__in",
                        [
                            "engagement",
                            "use",
                            "disclose",
                            "privacy",
                            "cover",
                            "invoice",
                            "mail-request",
                            "mail-reminder",
                            "mail-signature",
                            "mail-letter",
                            "mail-invoice",
                            "mail-package",
                            "mail-message",
                            "mail-set",
                        ],
                    )
                ),
                name="letter_kind_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="letter",
            constraint=models.UniqueConstraint(
                condition=models.Q(("withdrawn_at", None)), fields=("of", "text", "person"), name="letter_once"
            ),
        ),
        migrations.AddConstraint(
            model_name="message",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    models.Q(("client", None), ("staff__isnull", False)),
                    models.Q(("client__isnull", False), ("staff", None)),
                    _connector="OR",
                ),
                name="message_has_one_writer",
            ),
        ),
        migrations.AddIndex(
            model_name="request",
            index=models.Index(
                condition=models.Q(("remind_on__isnull", False)), fields=["firm", "remind_on"], name="request_by_reminder"
            ),
        ),
        migrations.AddConstraint(
            model_name="request",
            constraint=models.UniqueConstraint(condition=models.Q(("closed_at", None)), fields=("of",), name="one_open_request"),
        ),
        migrations.AddIndex(
            model_name="item",
            index=models.Index(fields=["of", "turn"], name="item_by_turn"),
        ),
        migrations.AddConstraint(
            model_name="item",
            constraint=models.UniqueConstraint(
                condition=models.Q(("mark", ""), _negated=True), fields=("request", "mark"), name="asked_for_once"
            ),
        ),
        migrations.AddConstraint(
            model_name="item",
            constraint=models.CheckConstraint(
                condition=models.Q(("kind__in", ["document", "question", "survey"])), name="item_kind_is_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="item",
            constraint=models.CheckConstraint(
                condition=models.Q(("turn__in", ["client", "office", "done", "withdrawn"])), name="item_turn_is_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="told",
            constraint=models.UniqueConstraint(fields=("item", "key"), name="told_once"),
        ),
        migrations.AddConstraint(
            model_name="usual",
            constraint=models.CheckConstraint(
                condition=models.Q(("kind__in", ["document", "question", "survey"])), name="usual_kind_is_known"
            ),
        ),
    ]
    operations = together(operations)
