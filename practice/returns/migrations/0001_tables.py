"""The tables as they are; a practice that was made before them had them step by step."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("returns", "0001_initial"),
        ("returns", "0003_seat"),
        ("returns", "0004_review_returns"),
        ("returns", "0005_apart"),
        ("returns", "0006_signing_by_figures"),
        ("returns", "0007_sealed_by_shape"),
        ("returns", "0008_support_of_the_person"),
        ("returns", "0009_origins"),
        ("returns", "0010_without_marks"),
        ("returns", "0011_corrections"),
        ("returns", "0012_issued"),
        ("returns", "0013_parted"),
        ("returns", "0014_couples_in_two"),
    ]
    initial = True

    dependencies = [
        ("clients", "0001_tables"),
        ("firm", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="Return",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("pack", models.CharField(default="us", max_length=8)),
                ("year", models.PositiveSmallIntegerField()),
                (
                    "purpose",
                    models.CharField(
                        choices=[("filing", "Filing"), ("planning", "Planning"), ("amending", "Amended")],
                        default="filing",
                        max_length=10,
                    ),
                ),
                (
                    "stage",
                    models.CharField(
                        choices=[
                            ("gather", "Gather"),
                            ("prepare", "Prepare"),
                            ("review", "Review"),
                            ("sign", "Sign"),
                            ("file", "File"),
                            ("deliver", "Deliver"),
                            ("done", "Done"),
                        ],
                        default="gather",
                        max_length=10,
                    ),
                ),
                ("state_note", models.CharField(blank=True, max_length=40)),
                ("stages", models.JSONField(default=dict)),
                ("due", models.DateField()),
                ("version", models.PositiveIntegerField(default=1)),
                ("summary", models.JSONField(default=dict)),
                ("guide", models.JSONField(default=dict)),
                ("silenced", models.JSONField(default=dict)),
                ("authorities", models.CharField(blank=True, max_length=60)),
                ("together", models.DecimalField(decimal_places=2, max_digits=14, null=True)),
                ("apart_role", models.CharField(blank=True, max_length=10)),
                ("apart_state", models.CharField(blank=True, max_length=2)),
                ("given_up_at", models.DateTimeField(null=True)),
                ("opened_at", models.DateTimeField(auto_now_add=True)),
                ("changed_at", models.DateTimeField(auto_now=True)),
                (
                    "apart_from",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="apart", to="returns.return"
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "household",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="returns", to="clients.household"
                    ),
                ),
                (
                    "preparer",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="in_my_care", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "waiting_for",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="waiting_for_me",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={
                "ordering": ["due", "household__name"],
            },
        ),
        migrations.CreateModel(
            name="Paper",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("key", models.SlugField(max_length=40)),
                ("kind", models.CharField(max_length=20)),
                ("position", models.PositiveIntegerField(default=0)),
                ("values", models.JSONField(default=dict)),
                ("provenance", models.JSONField(default=dict)),
                ("removed_at", models.DateTimeField(null=True)),
                ("source", models.CharField(blank=True, max_length=64)),
                ("attached", models.PositiveSmallIntegerField(default=0)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "person",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="clients.person"
                    ),
                ),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="papers", to="returns.return"),
                ),
            ],
            options={
                "ordering": ["position", "id"],
            },
        ),
        migrations.CreateModel(
            name="Origin",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                (
                    "how",
                    models.CharField(
                        choices=[
                            ("rolled", "Rolled forward"),
                            ("planned", "Planned"),
                            ("apart", "Separate"),
                            ("amended", "Corrected"),
                            ("split", "Made from the joint return"),
                            ("joined", "Made from two separate returns"),
                        ],
                        max_length=8,
                    ),
                ),
                ("version", models.PositiveIntegerField()),
                ("marks", models.JSONField(default=dict)),
                ("remarks", models.JSONField(default=list)),
                ("amends", models.JSONField(default=dict)),
                ("parted", models.CharField(blank=True, max_length=10)),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name="origin", to="returns.return"),
                ),
                (
                    "source",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="made_from_it", to="returns.return"
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            name="LineOverride",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("address", models.CharField(max_length=120)),
                ("amount", models.DecimalField(decimal_places=2, max_digits=14)),
                ("reason", models.CharField(max_length=300)),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="overrides", to="returns.return"),
                ),
            ],
        ),
        migrations.CreateModel(
            name="HandedOut",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("version", models.PositiveIntegerField()),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "paper",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="handed", to="returns.paper"),
                ),
                (
                    "source",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="handed_out", to="returns.return"
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            name="FieldChange",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("path", models.CharField(max_length=120)),
                ("before", models.TextField(blank=True)),
                ("after", models.TextField(blank=True)),
                ("sealed", models.BooleanField(default=False)),
                ("how", models.CharField(default="keyed", max_length=12)),
                ("note", models.CharField(blank=True, max_length=200)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("batch", models.CharField(blank=True, max_length=32)),
                (
                    "by",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "undoes",
                    models.OneToOneField(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="undone_by", to="returns.fieldchange"
                    ),
                ),
                (
                    "paper",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="changes", to="returns.paper"
                    ),
                ),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="changes", to="returns.return"),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="ControlTotal",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("kind", models.CharField(max_length=20)),
                ("count", models.PositiveIntegerField(null=True)),
                ("amount", models.DecimalField(decimal_places=2, max_digits=14, null=True)),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="controls", to="returns.return"),
                ),
            ],
        ),
        migrations.CreateModel(
            name="Round",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("act", models.CharField(max_length=8)),
                ("options", models.JSONField(default=dict)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("touched_at", models.DateTimeField(auto_now=True)),
                ("held_at", models.DateTimeField(null=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.CreateModel(
            name="RoundItem",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("says", models.CharField(blank=True, max_length=300)),
                ("worked", models.BooleanField(default=False)),
                ("done_at", models.DateTimeField(null=True)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "made",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.return"
                    ),
                ),
                ("of", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.return")),
                (
                    "round",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="items", to="returns.round"),
                ),
            ],
            options={
                "ordering": ["id"],
            },
        ),
        migrations.CreateModel(
            name="Sight",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("occasion", models.CharField(choices=[("opened", "opened"), ("initials", "initials")], max_length=10)),
                ("figures", models.JSONField(default=dict)),
                ("at", models.DateTimeField()),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="sights", to="returns.return"),
                ),
                (
                    "staff",
                    models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
            ],
        ),
        migrations.CreateModel(
            name="Snapshot",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("hash", models.CharField(max_length=64)),
                ("content", models.BinaryField()),
                ("documents", models.BinaryField(default=bytes)),
                ("bottom_lines", models.JSONField(default=list)),
                ("version", models.PositiveIntegerField()),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "made_by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="snapshots", to="returns.return"),
                ),
            ],
            options={
                "ordering": ["-id"],
            },
        ),
        migrations.AddField(
            model_name="return",
            name="signed",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.snapshot"
            ),
        ),
        migrations.AddField(
            model_name="return",
            name="snapshot",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="returns.snapshot"
            ),
        ),
        migrations.CreateModel(
            name="Party",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.CharField(max_length=12)),
                ("name", models.CharField(max_length=120)),
                ("street", models.CharField(blank=True, max_length=120)),
                ("city", models.CharField(blank=True, max_length=120)),
                ("state", models.CharField(blank=True, max_length=4)),
                ("zip", models.CharField(blank=True, max_length=12)),
                ("at", models.DateTimeField(auto_now=True)),
                (
                    "by",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
            ],
            options={
                "verbose_name_plural": "parties",
                "constraints": [models.UniqueConstraint(fields=("firm", "number"), name="party_once")],
            },
        ),
        migrations.CreateModel(
            name="Presence",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("seen_at", models.DateTimeField()),
                ("firm", models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm")),
                (
                    "staff",
                    models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="+", to=settings.AUTH_USER_MODEL),
                ),
                (
                    "of",
                    models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="presence", to="returns.return"),
                ),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("of", "staff"), name="presence_once")],
            },
        ),
        migrations.AddIndex(
            model_name="paper",
            index=models.Index(fields=["of", "position"], name="paper_by_return"),
        ),
        migrations.AddConstraint(
            model_name="paper",
            constraint=models.UniqueConstraint(fields=("of", "kind", "key"), name="paper_key_once"),
        ),
        migrations.AddConstraint(
            model_name="origin",
            constraint=models.CheckConstraint(
                condition=models.Q(("how__in", ["rolled", "planned", "apart", "amended", "split", "joined"])), name="how_is_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="origin",
            constraint=models.CheckConstraint(
                condition=models.Q(("of", models.F("source")), _negated=True), name="from_another_return"
            ),
        ),
        migrations.AddConstraint(
            model_name="lineoverride",
            constraint=models.UniqueConstraint(fields=("of", "address"), name="override_once"),
        ),
        migrations.AddConstraint(
            model_name="lineoverride",
            constraint=models.CheckConstraint(condition=models.Q(("reason", ""), _negated=True), name="override_has_reason"),
        ),
        migrations.AddConstraint(
            model_name="handedout",
            constraint=models.UniqueConstraint(fields=("source", "paper"), name="handed_out_once"),
        ),
        migrations.AddIndex(
            model_name="fieldchange",
            index=models.Index(fields=["of", "-id"], name="change_by_return"),
        ),
        migrations.AddIndex(
            model_name="fieldchange",
            index=models.Index(fields=["paper", "path"], name="change_by_field"),
        ),
        migrations.AddConstraint(
            model_name="controltotal",
            constraint=models.UniqueConstraint(fields=("of", "kind"), name="control_once"),
        ),
        migrations.AddConstraint(
            model_name="rounditem",
            constraint=models.UniqueConstraint(fields=("round", "of"), name="once_in_a_round"),
        ),
        migrations.AddConstraint(
            model_name="sight",
            constraint=models.UniqueConstraint(fields=("of", "staff", "occasion"), name="sight_once"),
        ),
        migrations.AddIndex(
            model_name="return",
            index=models.Index(fields=["firm", "stage", "due"], name="return_by_stage"),
        ),
        migrations.AddIndex(
            model_name="return",
            index=models.Index(fields=["firm", "preparer", "due"], name="return_by_preparer"),
        ),
        migrations.AddIndex(
            model_name="return",
            index=models.Index(fields=["firm", "due", "id"], name="return_by_due"),
        ),
        migrations.AddConstraint(
            model_name="return",
            constraint=models.UniqueConstraint(
                condition=models.Q(("apart_from", None), ("given_up_at", None), ("purpose", "filing")),
                fields=("household", "pack", "year", "purpose"),
                name="return_once",
            ),
        ),
        migrations.AddConstraint(
            model_name="return",
            constraint=models.UniqueConstraint(
                condition=models.Q(("given_up_at", None), ("purpose", "filing")),
                fields=("apart_from", "apart_role", "apart_state"),
                name="apart_once",
            ),
        ),
        migrations.AddConstraint(
            model_name="return",
            constraint=models.UniqueConstraint(
                condition=models.Q(
                    ("given_up_at", None), ("purpose", "amending"), models.Q(("stage__in", ["deliver", "done"]), _negated=True)
                ),
                fields=("household", "pack", "year", "apart_role", "apart_state"),
                name="one_open_correction",
            ),
        ),
        migrations.AddConstraint(
            model_name="return",
            constraint=models.CheckConstraint(
                condition=models.Q(("stage__in", ["gather", "prepare", "review", "sign", "file", "deliver", "done"])),
                name="stage_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="return",
            constraint=models.CheckConstraint(
                condition=models.Q(("purpose__in", ["filing", "planning", "amending"])), name="purpose_is_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="return",
            constraint=models.CheckConstraint(condition=models.Q(("version__gte", 1)), name="version_from_one"),
        ),
    ]
    operations = together(operations)
