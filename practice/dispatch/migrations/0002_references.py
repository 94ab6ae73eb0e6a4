"""What of these tables refers to other apps."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("dispatch", "0008_ways_of_filing"),
    ]
    initial = True

    dependencies = [
        ("dispatch", "0001_tables"),
        ("firm", "0001_tables"),
        ("returns", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="acknowledgement",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="extension",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="extension",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="extension",
            name="of",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="extensions", to="returns.return"),
        ),
        migrations.AddField(
            model_name="route",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="route",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="route",
            name="of",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="routes", to="returns.return"),
        ),
        migrations.AddField(
            model_name="submission",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="submission",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="submission",
            name="of",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="submissions", to="returns.return"),
        ),
        migrations.AddField(
            model_name="submission",
            name="snapshot",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="submissions", to="returns.snapshot"
            ),
        ),
        migrations.AddField(
            model_name="acknowledgement",
            name="submission",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.PROTECT, related_name="acknowledgement", to="dispatch.submission"
            ),
        ),
        migrations.AddIndex(
            model_name="extension",
            index=models.Index(fields=["firm", "state", "-id"], name="extension_by_state"),
        ),
        migrations.AddConstraint(
            model_name="extension",
            constraint=models.UniqueConstraint(
                condition=models.Q(("state", "rejected"), _negated=True), fields=("of", "authority"), name="one_live_extension"
            ),
        ),
        migrations.AddConstraint(
            model_name="extension",
            constraint=models.CheckConstraint(
                condition=models.Q(("state__in", ["open", "waiting", "queued", "sent", "accepted", "rejected", "unneeded"])),
                name="extension_state_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="route",
            constraint=models.UniqueConstraint(fields=("of", "authority"), name="one_route"),
        ),
        migrations.AddConstraint(
            model_name="route",
            constraint=models.CheckConstraint(
                condition=models.Q(("way__in", ["electronic", "paper", "held"])), name="way_is_known"
            ),
        ),
        migrations.AddIndex(
            model_name="submission",
            index=models.Index(fields=["firm", "state", "-id"], name="submission_by_state"),
        ),
        migrations.AddConstraint(
            model_name="submission",
            constraint=models.UniqueConstraint(
                condition=models.Q(("state__in", ["waiting", "queued", "sent", "to mail", "accepted", "mailed"])),
                fields=("of", "authority"),
                name="one_live_submission",
            ),
        ),
        migrations.AddConstraint(
            model_name="submission",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    ("state__in", ["waiting", "queued", "sent", "accepted", "rejected", "withdrawn", "to mail", "mailed"])
                ),
                name="submission_state_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="submission",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    models.Q(("state__in", ["accepted", "rejected"]), _negated=True),
                    models.Q(("receipt", ""), _negated=True),
                    _connector="OR",
                ),
                name="answer_needs_receipt",
            ),
        ),
        migrations.AddConstraint(
            model_name="submission",
            constraint=models.CheckConstraint(
                condition=models.Q(models.Q(("state", "mailed"), _negated=True), ("mailed_on__isnull", False), _connector="OR"),
                name="mailed_on_a_day",
            ),
        ),
    ]
    operations = together(operations)
