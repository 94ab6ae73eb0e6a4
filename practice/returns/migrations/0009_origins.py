"""A return made from another has an origin; rounds over many returns belong here."""

import django.db.models.deletion
from django.db import migrations, models


def origins_of_separate_returns(apps, schema_editor):
    Return, Origin = apps.get_model("returns", "Return"), apps.get_model("returns", "Origin")
    for one in Return.objects.exclude(apart_from=None):
        made = Origin.objects.create(
            firm_id=one.firm_id, of=one, source_id=one.apart_from_id, how="apart", version=one.apart_made.get("version", 1),
            marks=one.apart_made.get("papers", {}), by_id=one.preparer_id,
        )  # fmt: skip
        Origin.objects.filter(pk=made.pk).update(at=one.opened_at)


def _to(model, name="+", **options):
    return models.ForeignKey(model, on_delete=django.db.models.deletion.PROTECT, related_name=name, **options)


_ID = ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID"))


class Migration(migrations.Migration):
    dependencies = [
        ("dispatch", "0007_rounds_belong_to_returns"),
        ("firm", "0001_initial"),
        ("returns", "0008_support_of_the_person"),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="Round",
                    fields=[
                        _ID,
                        ("act", models.CharField(max_length=8)),
                        ("made_at", models.DateTimeField(auto_now_add=True)),
                        ("touched_at", models.DateTimeField(auto_now=True)),
                        ("by", _to("firm.staff")),
                        ("firm", _to("firm.firm")),
                    ],
                    options={"ordering": ["-id"]},
                ),
                migrations.CreateModel(
                    name="RoundItem",
                    fields=[
                        _ID,
                        ("says", models.CharField(blank=True, max_length=300)),
                        ("worked", models.BooleanField(default=False)),
                        ("done_at", models.DateTimeField(null=True)),
                        ("firm", _to("firm.firm")),
                        ("of", _to("returns.return")),
                        ("round", _to("returns.round", "items")),
                    ],
                    options={
                        "ordering": ["id"],
                        "constraints": [models.UniqueConstraint(fields=("round", "of"), name="once_in_a_round")],
                    },
                ),
            ],
        ),
        migrations.AddField("round", "options", models.JSONField(default=dict)),
        migrations.AddField("round", "held_at", models.DateTimeField(null=True)),
        migrations.AddField("rounditem", "made", _to("returns.return", null=True)),
        migrations.CreateModel(
            name="Origin",
            fields=[
                _ID,
                (
                    "how",
                    models.CharField(
                        choices=[("rolled", "Rolled forward"), ("planned", "Planned"), ("apart", "Separate")], max_length=8
                    ),
                ),
                ("version", models.PositiveIntegerField()),
                ("marks", models.JSONField(default=dict)),
                ("remarks", models.JSONField(default=list)),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("by", _to("firm.staff")),
                ("firm", _to("firm.firm")),
                (
                    "of",
                    models.OneToOneField(on_delete=django.db.models.deletion.PROTECT, related_name="origin", to="returns.return"),
                ),
                ("source", _to("returns.return", "made_from_it")),
            ],
            options={
                "constraints": [
                    models.CheckConstraint(condition=models.Q(("how__in", ["rolled", "planned", "apart"])), name="how_is_known"),
                    models.CheckConstraint(
                        condition=models.Q(("of", models.F("source")), _negated=True), name="from_another_return"
                    ),
                ],
            },
        ),
        migrations.RunPython(origins_of_separate_returns, migrations.RunPython.noop),
    ]
