"""Put the demo into a data folder of its own."""

import json
from datetime import timedelta

from django.contrib.auth.models import User
from django.db import transaction

from lodeline.accounts.access import grant, rigs_of
from lodeline.accounts.models import Membership
from lodeline.core.forecast.forecast import forecast
from lodeline.core.forecast.known import Known
from lodeline.core.tracking.checkpoints import Checkpoints
from lodeline.core.tracking.track import track
from lodeline.demo.life import lived_to_tell
from lodeline.demo.scenario import SCENARIOS
from lodeline.formats.logbook import read_logbook
from lodeline.logbook import clock
from lodeline.logbook.models import Rig
from lodeline.logbook.services import issued, rows, transfer

_EVENINGS_AGO = range(33, 0, -3)
_DAYS_BEFORE, _PATHS = 45, 500

SEEDS = (28, 32)


def _look_back(rig: Rig) -> None:
    """Keep the forecasts that the demo's crew would have been shown on some evenings of the last weeks."""
    core, now, checkpoints = rows.rig_rows(rig).core, clock.now(), Checkpoints()
    since = core.zone.date(now) - timedelta(days=_EVENINGS_AGO[0] + _DAYS_BEFORE)
    for ago in _EVENINGS_AGO:
        at = now - timedelta(days=ago)
        log = rows.core_log(rig, since=since, until=core.zone.date(at))
        known = Known(rig=core, log=log, now=at, tracked=track(core, log, at, checkpoints))
        issued.keep(rig, forecast(known, known.ahead(n_paths=_PATHS, seed=rig.pk)), known.tracked, log)


@transaction.atomic
def load_demo() -> User:
    """The demo account and its two rigs; what is there already stays."""
    user, made = User.objects.get_or_create(username="demo")
    if made:
        user.set_unusable_password()
        user.save()
    if not rigs_of(user):
        for seed, scenario in zip(SEEDS, SCENARIOS, strict=True):
            document = lived_to_tell(scenario, clock.now(), seed).document
            rig = transfer.import_new(read_logbook(json.dumps(document).encode()).doc, by=user)
            grant(user, rig, Membership.OWNER)
            _look_back(rig)
    return user
