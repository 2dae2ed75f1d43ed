"""Who lives aboard which rig."""

from django.conf import settings
from django.db import models

from lodeline.logbook.models import Rig


class Membership(models.Model):
    """An account's place on a rig: its owner, who may change and import it, or crew, who log."""

    OWNER, CREW = "owner", "crew"

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    rig = models.ForeignKey(Rig, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=5, choices=[(OWNER, "owner"), (CREW, "crew")])

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "rig"], name="unique_membership")]

    def __str__(self) -> str:
        return f"{self.user} on {self.rig}: {self.role}"
