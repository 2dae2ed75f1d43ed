"""Accounts: passwords, coming aboard by a link, leaving, and what is deleted."""

from pathlib import Path

import pytest
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.test import Client

from lodeline.accounts import hashing
from lodeline.accounts.access import grant
from lodeline.accounts.models import Guesses
from lodeline.logbook.models import Rig
from tests.api.conftest import EXAMPLE, Api

LATER = "2026-09-13T20:31:00+01:00"


@pytest.fixture
def token(owner):
    return owner.post("/rigs/{rig}/invitations", {"role": "reader"}).body["path"].removeprefix("/join#")


@pytest.fixture
def visitor(rig):
    visitor = Api(rig)
    visitor.client = Client()
    return visitor


def test_a_link_brings_a_new_account_aboard_once(owner, visitor, token, rig):
    told = visitor.post("/account/invited", {"token": token}).body
    assert told == {"rig": rig.name, "role": "reader", "by": "owner"}
    taken = visitor.post("/account/join", {"token": token, "username": "owner", "password": "a-long-word-9"})
    assert "already" in taken.body["problem"]
    weak = visitor.post("/account/join", {"token": token, "username": "guest", "password": "12345678"})
    assert weak.status_code == 422
    me = visitor.post("/account/join", {"token": token, "username": "guest", "password": "a-long-word-9"}).body
    assert [(each["name"], each["role"]) for each in me["rigs"]] == [(rig.name, "reader")]
    assert visitor.get("/rigs/{rig}/round").status_code == 200
    again = Api(rig).post("/account/join", {"token": token, "username": "other", "password": "a-long-word-9"})
    assert again.status_code == 404
    assert not User.objects.filter(username="other").exists()


def test_a_link_expires_and_does_not_lessen_a_role(owner, as_user, token, monkeypatch):
    assert owner.post("/account/accept", {"token": token}).body["rigs"][0]["role"] == "owner"
    token = owner.post("/rigs/{rig}/invitations", {"role": "crew"}).body["path"].removeprefix("/join#")
    monkeypatch.setenv("LODELINE_NOW", LATER)
    assert as_user("stranger").post("/account/accept", {"token": token}).status_code == 404
    assert as_user("stranger").get("/rigs/{rig}/round").status_code == 404


@pytest.mark.parametrize("how", ["removed", "made crew", "back again"])
def test_an_invitation_ends_with_its_makers_right_to_invite(owner, as_user, token, rig, visitor, how):
    second = as_user("crew")
    owner.put("/rigs/{rig}/crew/crew", {"role": "owner"})
    if how == "made crew":
        second.put("/rigs/{rig}/crew/owner", {"role": "crew"})
    else:
        second.delete("/rigs/{rig}/crew/owner")
    if how == "back again":
        grant(User.objects.get(username="owner"), rig, "owner")
    assert owner.post("/account/accept", {"token": token}).status_code == 404
    assert visitor.post("/account/invited", {"token": token}).status_code == 404
    assert owner.get("/rigs/{rig}/round").status_code == (404 if how == "removed" else 200)


def test_open_invitations_are_listed_and_ended_one_by_one(owner, as_user, token, rig):
    other = owner.post("/rigs/{rig}/invitations", {"role": "crew"}).body["path"].removeprefix("/join#")
    listed = owner.get("/rigs/{rig}/invitations").body
    assert [(each["role"], each["by"]) for each in listed] == [("crew", "owner"), ("reader", "owner")]
    assert token not in str(listed)
    stranger = as_user("stranger")
    theirs = Rig.objects.get(pk=stranger.post("/imports", EXAMPLE).body["rig"])
    stranger.rig = theirs
    assert stranger.delete(f"/rigs/{{rig}}/invitations/{listed[0]['id']}").status_code == 204  # of another rig: nothing
    assert owner.delete(f"/rigs/{{rig}}/invitations/{listed[1]['id']}").status_code == 204
    assert [each["role"] for each in owner.get("/rigs/{rig}/invitations").body] == ["crew"]
    assert stranger.post("/account/accept", {"token": token}).status_code == 404
    assert stranger.post("/account/accept", {"token": other}).status_code == 200
    assert owner.get("/rigs/{rig}/invitations").body == []
    for _ in range(30):
        assert owner.post("/rigs/{rig}/invitations", {"role": "crew"}).status_code == 200
    assert owner.post("/rigs/{rig}/invitations", {"role": "crew"}).body["place"] == "role"


def test_a_code_is_drawn_for_the_link(owner):
    made = owner.post("/rigs/{rig}/invitations", {"role": "crew"}).body
    assert len(made["code"]) == len(made["code"][0]) >= 25
    assert set("".join(made["code"])) == {"0", "1"}
    assert made["expires"]["date"] == "2026-09-12"


def test_sessions_that_are_over_are_thrown_away(owner, rig, visitor):
    Session.objects.create(session_key="old", session_data="", expire_date="2020-01-01T00:00:00Z")
    visitor.post("/account/sign-in", {"username": "owner", "password": "a-long-word-9"})
    assert not Session.objects.filter(session_key="old").exists()
    assert visitor.get("/rigs/{rig}/round").status_code == 200


def test_passwords_are_looked_at_a_few_at_a_time(owner, rig, visitor, monkeypatch, settings):
    """Who comes while many are waits, then is told to come again; it is no wrong password."""
    settings.PASSWORD_HASHERS = ["lodeline.accounts.hashing.Argon2"]
    user = User.objects.get(username="owner")
    user.set_password("a-long-word-9")
    user.save()
    monkeypatch.setattr(hashing, "_PATIENCE_S", 0.0)
    busy = [hashing._turns.acquire(blocking=False) for _ in range(hashing._AT_ONCE)]
    try:
        answer = visitor.post("/account/sign-in", {"username": "owner", "password": "a-long-word-9"})
        assert (all(busy), answer.status_code, answer["Retry-After"]) == (True, 429, "3")
        assert not Guesses.objects.exists()
    finally:
        for _ in busy:
            hashing._turns.release()
    assert visitor.post("/account/sign-in", {"username": "owner", "password": "a-long-word-9"}).status_code == 200


def test_a_password_is_changed_by_who_knows_it(owner, rig):
    wrong = owner.post("/account/password", {"password": "no", "new_password": "another-word-7"})
    assert wrong.body["place"] == "password"
    weak = owner.post("/account/password", {"password": "a-long-word-9", "new_password": "password"})
    assert weak.body["place"] == "new_password"
    assert owner.post("/account/password", {"password": "a-long-word-9", "new_password": "another-word-7"}).body
    assert owner.get("/rigs/{rig}/round").status_code == 200  # one stays signed in
    assert User.objects.get(username="owner").check_password("another-word-7")


def test_an_account_goes_and_its_entries_stay_but_a_rig_keeps_an_owner(owner, as_user, rig):
    crew = as_user("crew")
    User.objects.get(username="crew").set_password("a-long-word-9")
    entry = crew.read("fresh", "1/3").body["entries"][0]
    alone = owner.post("/account/delete", {"password": "a-long-word-9"})
    assert "only owner of Sanderling" in alone.body["problem"]
    owner.put("/rigs/{rig}/crew/crew", {"role": "owner"})
    assert owner.post("/account/delete", {"password": "a-long-word-9"}).body["username"] is None
    assert not User.objects.filter(username="owner").exists()
    assert entry["words"] in [each["words"] for each in crew.get("/rigs/{rig}/round").body["entries"]]
    assert crew.get("/rigs/{rig}/crew").body == [{"username": "crew", "role": "owner"}]


def test_the_last_owner_stays_one(owner, rig):
    assert owner.put("/rigs/{rig}/crew/owner", {"role": "crew"}).status_code == 422
    assert owner.post("/rigs/{rig}/leave").status_code == 422


def test_a_rig_is_deleted_by_its_name_and_an_export_is_kept(owner, rig, settings):
    wrong = owner.post("/rigs/{rig}/delete", {"name": "sanderling"})
    assert "Sanderling" in wrong.body["problem"]
    assert owner.post("/rigs/{rig}/delete", {"name": "Sanderling"}).status_code == 204
    assert not Rig.objects.filter(pk=rig.pk).exists()
    kept = list((Path(settings.LODELINE_DATA) / "exports").glob(f"rig-{rig.pk}-before-delete-*.json"))
    assert kept
    assert b"Sanderling" in kept[-1].read_bytes()


def test_what_was_assumed_is_confirmed(owner, rig):
    rig.assumed = ["stores.fresh.capacity", "stores.grey.capacity"]
    rig.save()
    answer = owner.post("/rigs/{rig}/confirm", {"paths": ["stores.fresh.capacity"]}).body
    assert answer["assumed"] == ["stores.grey.capacity"]
