"""What in these tables refers to those of other rooms."""

import django.db.models.deletion
import django.db.models.functions.text
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("firm", "0013_letterhead_picture"),
    ]
    initial = True

    dependencies = [
        ("firm", "0001_tables"),
        ("returns", "0001_tables"),
    ]

    operations = [
        migrations.AddField(
            model_name="event",
            name="of",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="events", to="returns.return"
            ),
        ),
        migrations.AddField(
            model_name="event",
            name="staff",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AddField(
            model_name="factor",
            name="staff",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.CASCADE, related_name="factor", to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.CreateModel(
            name="LetterheadPicture",
            fields=[
                (
                    "firm",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.CASCADE,
                        primary_key=True,
                        related_name="+",
                        serialize=False,
                        to="firm.firm",
                    ),
                ),
                ("content", models.TextField()),
            ],
        ),
        migrations.AddField(
            model_name="event",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="certificate",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="staff",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="staff", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="passkey",
            name="staff",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="passkeys", to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AddField(
            model_name="recoverycode",
            name="staff",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="recovery_codes", to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AddField(
            model_name="signedin",
            name="staff",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.CASCADE, related_name="sessions", to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AddIndex(
            model_name="event",
            index=models.Index(fields=["firm", "-id"], name="event_by_firm"),
        ),
        migrations.AddIndex(
            model_name="event",
            index=models.Index(fields=["of", "-id"], name="event_by_return"),
        ),
        migrations.AddIndex(
            model_name="event",
            index=models.Index(fields=["household", "-id"], name="event_by_household"),
        ),
        migrations.AddConstraint(
            model_name="certificate",
            constraint=models.UniqueConstraint(
                condition=models.Q(("ended_at", None)), fields=("firm",), name="one_certificate_in_force"
            ),
        ),
        migrations.AddConstraint(
            model_name="staff",
            constraint=models.UniqueConstraint(fields=("firm", "initials"), name="initials_once_a_firm"),
        ),
        migrations.AddConstraint(
            model_name="staff",
            constraint=models.UniqueConstraint(django.db.models.functions.text.Lower("email"), name="email_once"),
        ),
        migrations.AddConstraint(
            model_name="staff",
            constraint=models.CheckConstraint(
                condition=models.Q(("role__in", ["preparer", "reviewer", "signer", "administrator"])), name="role_is_known"
            ),
        ),
    ]
    operations = together(operations)
