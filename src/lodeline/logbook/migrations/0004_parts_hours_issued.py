"""Parts of a rig, a store's own fields and a coming day's hours become documents; forecasts are kept by the hour."""

from datetime import UTC

import django.db.models.deletion
from django.db import migrations, models

# What told a load's kind before it had one: words in its name.
_KINDS = (
    ("fridge", ("fridge", "freezer", "cool")),
    ("internet", ("internet", "router", "satellite", "modem", "wifi", "wi-fi")),
)
_STORE = (
    "kind", "name", "capacity", "limit", "gauge", "reserve", "chemistry", "nominal_v", "layout", "fuel", "tare_kg",
    "unit", "sense", "kept_warm",
)
_ARRAY = ("watts", "tilt_deg", "azimuth_deg", "controller_amps", "horizon_deg")
_SOURCE = ("kind", "amps", "fuel_store", "fuel_l_per_h")
_LOAD = ("name", "watts", "hours_per_day", "via", "when")
_HOURS = {"alternator": "drive_hours", "shore": "shore_hours", "generator": "generator_hours"}


def _document(row, names):
    fields = {name: getattr(row, name) for name in names}
    return {"id": row.slug} | {name: value for name, value in fields.items() if value is not None}


def _load(row):
    name = row.name.lower()
    kind = next((kind for kind, words in _KINDS if any(word in name for word in words)), None)
    return _document(row, _LOAD) | ({"kind": kind} if kind else {})


def to_documents(apps, schema_editor):
    def rows(name, rig):
        return apps.get_model("logbook", name).objects.filter(rig=rig).order_by("position", "id")

    for rig in apps.get_model("logbook", "Rig").objects.all():
        rig.parts = {
            "crew": {"adults": rig.adults, "children": rig.children, "pets": rig.pets},
            "solar": [_document(row, _ARRAY) for row in rows("Array", rig)],
            "sources": [_document(row, _SOURCE) for row in rows("Source", rig)],
            "inverter": rig.inverter,
            "loads": [_load(row) for row in rows("Load", rig)],
        }
        rig.save(update_fields=["parts"])
        for store in rows("Store", rig):
            store.document = _document(store, _STORE)
            store.save(update_fields=["document"])
    for day in apps.get_model("logbook", "OutlookDay").objects.all():
        hours = {id: getattr(day, column) for id, column in _HOURS.items()}
        day.hours = {id: value for id, value in hours.items() if value is not None}
        day.save(update_fields=["hours"])


def to_hours(apps, schema_editor):
    latest = {}
    for row in apps.get_model("logbook", "IssuedForecast").objects.order_by("at", "id"):
        row.hour = row.at.astimezone(UTC).replace(minute=0, second=0, microsecond=0)
        # around a midnight within the hour there may be two: the later stands
        if earlier := latest.get((row.store_id, row.hour)):
            earlier.delete()
        row.save(update_fields=["hour"])
        latest[row.store_id, row.hour] = row


class Migration(migrations.Migration):

    dependencies = [("logbook", "0003_bank_and_horizon")]

    operations = [
        migrations.AddField("rig", "parts", models.JSONField(default=dict)),
        migrations.AddField("store", "document", models.JSONField(default=dict)),
        migrations.AddField("outlookday", "hours", models.JSONField(default=dict)),
        migrations.RunPython(to_documents, migrations.RunPython.noop),
        *(migrations.RemoveField("rig", name) for name in ("adults", "children", "pets", "inverter")),
        *(migrations.RemoveField("store", name) for name in _STORE),
        *(migrations.RemoveField("outlookday", name) for name in _HOURS.values()),
        migrations.DeleteModel("Array"),
        migrations.DeleteModel("Source"),
        migrations.DeleteModel("Load"),
        migrations.AlterField(
            "store", "rig",
            models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="stores", to="logbook.rig"),
        ),
        migrations.RemoveConstraint("shownforecast", "unique_shown_forecast"),
        migrations.RenameModel("ShownForecast", "IssuedForecast"),
        migrations.RenameField("issuedforecast", "pencil_days", "baseline_days"),
        migrations.AddField("issuedforecast", "hour", models.DateTimeField(null=True)),
        migrations.RunPython(to_hours, migrations.RunPython.noop),
        migrations.AlterField("issuedforecast", "hour", models.DateTimeField()),
        migrations.RemoveField("issuedforecast", "date"),
        migrations.AddConstraint(
            "issuedforecast", models.UniqueConstraint(fields=["store", "hour"], name="unique_issued_forecast")
        ),
    ]
