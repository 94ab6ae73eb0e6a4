"""That a filer earns over half of the own support is a fact of the person, not of a school's statement or a parent's figures."""

from django.db import migrations

_EARLIER = {"1098-t": "support_by_self", "parent": "support_above_half"}


def move(apps, schema_editor):
    Paper = apps.get_model("returns", "Paper")
    for paper in Paper.objects.filter(kind__in=_EARLIER).iterator(chunk_size=500):
        name = _EARLIER[paper.kind]
        if name not in paper.values:
            continue
        said, came = paper.values.pop(name), paper.provenance.pop(name, None)
        paper.save(update_fields=["values", "provenance"])
        for person in Paper.objects.filter(of_id=paper.of_id, kind="person", values__role="taxpayer"):
            if person.values.get("earns_own_support") != "yes":
                person.values["earns_own_support"] = said
                if came is not None:
                    person.provenance["earns_own_support"] = came
                person.save(update_fields=["values", "provenance"])


class Migration(migrations.Migration):
    dependencies = [("returns", "0007_sealed_by_shape")]
    operations = [migrations.RunPython(move, migrations.RunPython.noop)]
