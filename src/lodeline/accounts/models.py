"""Who lives aboard which rig, and who was asked to."""

from django.conf import settings
from django.db import models

from lodeline.logbook.models import Rig


class Membership(models.Model):
    """An account's place on a rig: its owner, who may change and import it; crew, who log; readers, who see."""

    OWNER, CREW, READER = "owner", "crew", "reader"
    ROLES = (READER, CREW, OWNER)

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=6, choices=[(role, role) for role in ROLES])

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "rig"], name="unique_membership")]

    def __str__(self) -> str:
        return f"{self.user} on {self.rig}: {self.role}"


class Invitation(models.Model):
    """A link that puts whoever opens it on a rig, once, until it expires. The secret itself is not kept."""

    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="invitations")
    digest = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=6, choices=[(role, role) for role in (Membership.READER, Membership.CREW)])
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    expires_at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.role} on {self.rig} until {self.expires_at}"


class Guesses(models.Model):
    """How many wrong passwords were given since a time. ``key``: a digest of a name, an address or a device."""

    key = models.CharField(max_length=64, unique=True)
    count = models.PositiveIntegerField()
    since = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.count} since {self.since}"


class CalendarFeed(models.Model):
    """A secret address at which a member's calendar reads a rig's plan. The secret itself is not kept.

    ``positions``: whether it says where the stops are, for whoever has the address.
    """

    membership = models.OneToOneField(Membership, on_delete=models.CASCADE, related_name="feed")
    digest = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField()
    positions = models.BooleanField(default=False)

    def __str__(self) -> str:
        return f"calendar of {self.membership}"
