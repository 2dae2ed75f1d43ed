"""Rows of the logbook. Services turn them into core types and back; nothing else does."""

import secrets
from uuid import uuid4

from django.conf import settings
from django.db import models


def new_stamp() -> str:
    """A text that was never used before."""
    return secrets.token_hex(8)


class Rig(models.Model):
    """A rig. ``parts`` is its document but for name, timezone, units and stores; ``revision`` rises with every write.

    ``stamp`` is another text after every write, also where a revision comes twice.
    ``document_revision``: the one at which the document last changed, ``replaced_revision`` that at which the whole log
    was replaced. ``assumed`` lists what the set-up filled in by common practice. ``is_dated``: every entry lies on its
    date in the rig's timezone. ``aside``: why it is not a rig that somebody has, and since when.
    """

    STAGED, REPLACED, DELETED = "staged", "replaced", "deleted"

    name = models.CharField(max_length=120)
    timezone = models.CharField(max_length=64)
    units = models.CharField(max_length=8)
    parts = models.JSONField(default=dict)
    assumed = models.JSONField(default=list, blank=True)
    revision = models.PositiveBigIntegerField(default=1)
    stamp = models.CharField(max_length=32, default=new_stamp)
    document_revision = models.PositiveBigIntegerField(default=1)
    replaced_revision = models.PositiveBigIntegerField(default=0)
    is_dated = models.BooleanField(default=True)
    aside = models.CharField(max_length=8, blank=True, default="")
    aside_at = models.DateTimeField(null=True)
    aside_of = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="replaced")

    def __str__(self) -> str:
        return self.name


class Store(models.Model):
    """A store of a rig, in order, under an id of its own; the log speaks of it. ``document``: as the file has it."""

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="stores")
    slug = models.CharField(max_length=60)
    position = models.PositiveSmallIntegerField(default=0)
    document = models.JSONField(default=dict)

    class Meta:
        ordering = ["position", "id"]
        constraints = [models.UniqueConstraint(fields=["rig", "slug"], name="unique_store_slug")]

    def __str__(self) -> str:
        return self.slug


class Facts(models.Model):
    """What is known or expected of a date. ``touched``: the revision and the id of the write that last set a field."""

    date = models.DateField()
    place_name = models.CharField(max_length=120, null=True)
    lat = models.FloatField(null=True)
    lon = models.FloatField(null=True)
    elevation_m = models.FloatField(null=True)
    sky = models.CharField(max_length=8, null=True)
    temp_min_c = models.FloatField(null=True)
    temp_max_c = models.FloatField(null=True)
    status = models.CharField(max_length=8, null=True)
    crew_aboard = models.PositiveSmallIntegerField(null=True)
    panels_covered = models.BooleanField(null=True)
    touched = models.JSONField(default=dict)

    class Meta:
        abstract = True
        ordering = ["date"]
        constraints = [models.UniqueConstraint(fields=["rig", "date"], name="unique_%(class)s_date")]

    def __str__(self) -> str:
        return str(self.date)


class Day(Facts):
    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="days")
    note = models.TextField(null=True)
    solar_wh = models.FloatField(null=True)
    load_wh = models.FloatField(null=True)
    water_l = models.FloatField(null=True)
    visit = models.JSONField(null=True)


class OutlookDay(Facts):
    """A coming day. ``hours`` of each way to charge, by the id of its row."""

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="outlook")
    hours = models.JSONField(default=dict)


class Entry(models.Model):
    """What every entry says of itself: by whom, the revision and the id of the write that last set it.

    ``uuid``: its name for good, that of the write that made it; rows' numbers name nothing outside the database.
    ``device_at``: what the clock of the device said, where that was doubted.
    """

    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    uuid = models.UUIDField(default=uuid4, db_index=True)
    revision = models.PositiveBigIntegerField(default=0)
    sent = models.UUIDField(null=True)
    device_at = models.DateTimeField(null=True)

    class Meta:
        abstract = True


class Reading(Entry):
    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="readings")
    store = models.ForeignKey(Store, on_delete=models.CASCADE, related_name="readings")
    at = models.DateTimeField()
    method = models.CharField(max_length=10)
    value = models.FloatField(null=True)
    state = models.CharField(max_length=8, null=True)
    confirmed = models.BooleanField(default=False)
    within = models.FloatField(null=True)
    text = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.at} {self.method} {self.value}"


class Event(Entry):
    """An event; ``fields`` of its type that are numbers have columns, the ends of a move are store ids or words."""

    day = models.ForeignKey(Day, on_delete=models.CASCADE, related_name="events")
    at = models.DateTimeField()
    type = models.CharField(max_length=10)
    store = models.ForeignKey(Store, on_delete=models.CASCADE, null=True, related_name="events")
    to = models.CharField(max_length=4, null=True)
    amount = models.FloatField(null=True)
    left = models.FloatField(null=True)
    source = models.CharField(max_length=60, null=True)
    target = models.CharField(max_length=60, null=True)
    hours = models.FloatField(null=True)
    km = models.FloatField(null=True)
    count = models.PositiveSmallIntegerField(null=True)

    class Meta:
        ordering = ["at", "id"]

    def __str__(self) -> str:
        return f"{self.at} {self.type}"


class Receipt(models.Model):
    """A write that was kept, by the id that its device gave it: the same id is answered, never kept again.

    ``digest``: of what was sent under it; ``kind`` and ``entry``: what it made or changed.
    """

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="receipts")
    sent = models.UUIDField()
    at = models.DateTimeField()
    digest = models.CharField(max_length=64)
    kind = models.CharField(max_length=8)
    entry = models.UUIDField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["rig", "sent"], name="unique_receipt")]

    def __str__(self) -> str:
        return str(self.sent)


class Change(models.Model):
    """What stood before: every write leaves one. The log is a record."""

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="changes")
    at = models.DateTimeField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    action = models.CharField(max_length=10)
    kind = models.CharField(max_length=10)
    ref = models.CharField(max_length=64)
    date = models.DateField(null=True, db_index=True)
    old = models.JSONField(null=True)
    new = models.JSONField(null=True)

    class Meta:
        ordering = ["-at", "-id"]

    def __str__(self) -> str:
        return f"{self.action} {self.kind} {self.ref}"


class IssuedForecast(models.Model):
    """A forecast as it was shown, at most one a store and hour, and what came true once that is known.

    ``levels``: what it said of the contents, now and at each notice; ``seen``: the readings that were held against it,
    empty until the last notice is over.
    """

    store = models.ForeignKey(Store, on_delete=models.CASCADE, related_name="forecasts")
    hour = models.DateTimeField()
    at = models.DateTimeField()
    p10_days = models.FloatField(null=True)
    p50_days = models.FloatField(null=True)
    p90_days = models.FloatField(null=True)
    baseline_days = models.FloatField(null=True)
    outcome = models.CharField(max_length=8, null=True)
    outcome_days = models.FloatField(null=True)
    levels = models.JSONField(null=True)
    seen = models.JSONField(null=True)

    class Meta:
        ordering = ["at", "id"]
        constraints = [models.UniqueConstraint(fields=["store", "hour"], name="unique_issued_forecast")]

    def __str__(self) -> str:
        return f"{self.store} {self.hour}"


class Spot(models.Model):
    """A place of the rig's book, under an id of its own. ``document``: as the file has it."""

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="spots")
    slug = models.CharField(max_length=60)
    document = models.JSONField(default=dict)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["rig", "slug"], name="unique_spot_slug")]

    def __str__(self) -> str:
        return self.slug


class Agreed(models.Model):
    """A lever that the crew agreed on, from a date through another. ``words``: what it was called then.

    ``expected``: what it was said to save of each store a day.
    """

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="agreed")
    lever = models.CharField(max_length=120)
    since = models.DateField()
    until = models.DateField()
    words = models.CharField(max_length=200, blank=True)
    expected = models.JSONField(default=dict)

    class Meta:
        ordering = ["since", "id"]

    def __str__(self) -> str:
        return self.lever


class PlannedStop(models.Model):
    """A stop that was planned by hand."""

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="planned")
    slug = models.CharField(max_length=60)
    arrive = models.DateTimeField()
    plug = models.BooleanField(default=False)

    class Meta:
        ordering = ["arrive", "id"]

    def __str__(self) -> str:
        return f"{self.slug} {self.arrive}"


class Ticket(models.Model):
    """The ticket of a stop as it was written, so that it stays the same while it is ticked off.

    ``body``: its place, times, tasks and weights.
    """

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="tickets")
    opened_at = models.DateTimeField()
    slug = models.CharField(max_length=60)
    body = models.JSONField(default=dict)

    class Meta:
        ordering = ["-opened_at", "-id"]

    def __str__(self) -> str:
        return f"{self.slug} {self.opened_at}"
