"""The database itself refuses to change or delete what may only be added."""

from django.db import migrations

_TABLES = ("firm_event", "returns_fieldchange", "returns_snapshot", "dispatch_acknowledgement", "delivery_download")

_FUNCTION = """
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is only added to, never changed', tg_table_name using errcode = 'restrict_violation';
end $$;
"""


class Migration(migrations.Migration):
    dependencies = [
        ("returns", "0001_tables"),
        ("firm", "0002_references"),
        ("dispatch", "0002_references"),
        ("delivery", "0002_references"),
    ]
    operations = [
        migrations.RunSQL(_FUNCTION, "drop function refuse_change() cascade"),
        *(
            migrations.RunSQL(
                f"create trigger only_added before update or delete on {table} for each row execute function refuse_change()",
                f"drop trigger only_added on {table}",
            )
            for table in _TABLES
        ),
    ]
