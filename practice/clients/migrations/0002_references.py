"""What of these tables refers to other apps."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

from practice.firm.together import together


class Migration(migrations.Migration):
    replaces = [
        ("clients", "0009_news_words"),
    ]
    initial = True

    dependencies = [
        ("clients", "0001_tables"),
        ("firm", "0001_tables"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AddField(
            model_name="confidant",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="confidant",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="confidant",
            name="staff",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="entity",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="group",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="household",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="household",
            name="in_care_of",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="households", to=settings.AUTH_USER_MODEL
            ),
        ),
        migrations.AddField(
            model_name="household",
            name="merged_into",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="merged", to="clients.household"
            ),
        ),
        migrations.AddField(
            model_name="entity",
            name="household",
            field=models.OneToOneField(
                on_delete=django.db.models.deletion.PROTECT, related_name="entity", to="clients.household"
            ),
        ),
        migrations.AddField(
            model_name="confidant",
            name="household",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="confidants", to="clients.household"
            ),
        ),
        migrations.AddField(
            model_name="identityrecord",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="identityrecord",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="membership",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="membership",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="membership",
            name="group",
            field=models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="memberships", to="clients.group"),
        ),
        migrations.AddField(
            model_name="membership",
            name="household",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="memberships", to="clients.household"
            ),
        ),
        migrations.AddField(
            model_name="group",
            name="households",
            field=models.ManyToManyField(related_name="groups", through="clients.Membership", to="clients.household"),
        ),
        migrations.AddField(
            model_name="person",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="person",
            name="household",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="people", to="clients.household"),
        ),
        migrations.AddField(
            model_name="person",
            name="merged_into",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="merged", to="clients.person"
            ),
        ),
        migrations.AddField(
            model_name="identityrecord",
            name="person",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="identities", to="clients.person"),
        ),
        migrations.AddField(
            model_name="role",
            name="by",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL),
        ),
        migrations.AddField(
            model_name="role",
            name="firm",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="firm.firm"),
        ),
        migrations.AddField(
            model_name="role",
            name="holder",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="holdings", to="clients.household"
            ),
        ),
        migrations.AddField(
            model_name="role",
            name="household",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="roles", to="clients.household"),
        ),
        migrations.AddField(
            model_name="role",
            name="person",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="roles", to="clients.person"
            ),
        ),
        migrations.AddIndex(
            model_name="household",
            index=models.Index(fields=["firm", "name"], name="household_by_name"),
        ),
        migrations.AddIndex(
            model_name="household",
            index=models.Index(condition=models.Q(("restricted", True)), fields=["firm"], name="household_restricted"),
        ),
        migrations.AddConstraint(
            model_name="household",
            constraint=models.CheckConstraint(
                condition=models.Q(("kind__in", ["people", "entity"])), name="client_kind_is_known"
            ),
        ),
        migrations.AddConstraint(
            model_name="entity",
            constraint=models.CheckConstraint(
                condition=models.Q(("form__in", ["company", "s-corp", "partnership", "llc", "trust", "estate", "association"])),
                name="entity_form_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="entity",
            constraint=models.UniqueConstraint(
                condition=models.Q(("number_digest", ""), _negated=True),
                fields=("firm", "number_digest"),
                name="entity_number_once_a_firm",
            ),
        ),
        migrations.AddConstraint(
            model_name="confidant",
            constraint=models.UniqueConstraint(fields=("household", "staff"), name="confidant_once"),
        ),
        migrations.AddConstraint(
            model_name="membership",
            constraint=models.UniqueConstraint(fields=("group", "household"), name="in_a_group_once"),
        ),
        migrations.AddConstraint(
            model_name="group",
            constraint=models.UniqueConstraint(fields=("firm", "name"), name="group_name_once"),
        ),
        migrations.AddConstraint(
            model_name="person",
            constraint=models.UniqueConstraint(
                condition=models.Q(("number_digest", ""), _negated=True),
                fields=("firm", "number_digest"),
                name="number_once_a_firm",
            ),
        ),
        migrations.AddConstraint(
            model_name="identityrecord",
            constraint=models.CheckConstraint(
                condition=models.Q(("document__in", ["licence", "passport", "state-card", "military", "other", "known"])),
                name="document_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="role",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    (
                        "kind__in",
                        ["owner", "partner", "member", "shareholder", "director", "officer", "trustee", "beneficiary", "contact"],
                    )
                ),
                name="role_kind_is_known",
            ),
        ),
        migrations.AddConstraint(
            model_name="role",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    models.Q(("holder__isnull", False), ("person", None)),
                    models.Q(("holder", None), ("person__isnull", False)),
                    _connector="OR",
                ),
                name="role_has_one_holder",
            ),
        ),
        migrations.AddConstraint(
            model_name="role",
            constraint=models.CheckConstraint(
                condition=models.Q(("share", None), models.Q(("share__gt", 0), ("share__lte", 100)), _connector="OR"),
                name="share_is_percent",
            ),
        ),
        migrations.AddConstraint(
            model_name="role",
            constraint=models.CheckConstraint(
                condition=models.Q(("household", models.F("holder")), _negated=True), name="role_in_another"
            ),
        ),
    ]
    operations = together(operations)
