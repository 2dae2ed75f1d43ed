"""Entries are named by a UUID everywhere: that of the write that made them, where it is known."""

import uuid

from django.db import migrations, models

_ENTRIES = ("reading", "event")


def name_entries(apps, schema_editor):
    run = schema_editor.execute
    run('CREATE INDEX receipt_of_row ON logbook_receipt (kind, "key")')
    for kind in _ENTRIES:
        run(f"""
            UPDATE logbook_{kind} SET uuid = COALESCE(
                (SELECT sent FROM logbook_receipt WHERE kind = '{kind}' AND "key" = logbook_{kind}.id ORDER BY id LIMIT 1),
                lower(hex(randomblob(16)))
            )
        """)
        row = f"SELECT uuid FROM logbook_{kind} WHERE id"
        run(f"""UPDATE logbook_receipt SET entry = ({row} = "key") WHERE kind = '{kind}'""")
        run(f"UPDATE logbook_change SET ref = COALESCE(({row} = CAST(ref AS INTEGER)), ref) WHERE kind = '{kind}'")
    run("DROP INDEX receipt_of_row")


class Migration(migrations.Migration):

    dependencies = [("logbook", "0009_within")]

    operations = [
        *(migrations.AddField(kind, "uuid", models.UUIDField(null=True)) for kind in _ENTRIES),
        migrations.AddField("receipt", "entry", models.UUIDField(null=True)),
        migrations.RunPython(name_entries, migrations.RunPython.noop),
        *(
            migrations.AlterField(kind, "uuid", models.UUIDField(default=uuid.uuid4, db_index=True))
            for kind in _ENTRIES
        ),
        migrations.RemoveField("receipt", "key"),
    ]
