"""Passwords that are guessed at: who guesses is shut out, and nobody else."""

import pytest
from django.contrib.auth.models import User
from django.test import Client

from lodeline.accounts import guessing
from lodeline.logbook.models import Rig
from tests.api.conftest import Api

RIGHT = "a-long-word-9"
NOW, LATER = "2026-09-05T20:30:00+01:00", "2026-09-05T20:46:00+01:00"


class From(Api):
    """Somebody at an address, with the cookies of their device."""

    def __init__(self, address):
        self.rig, self.client = Rig(pk=0), Client(REMOTE_ADDR=address)

    def tries(self, password, name="owner"):
        return self.post("/account/sign-in", {"username": name, "password": password})


def guess(times, *addresses, name="owner"):
    answer = None
    for n in range(times):
        answer = From(addresses[n % len(addresses)]).tries(f"wrong-{n}", name)
    return answer


@pytest.fixture(autouse=True)
def account(owner):
    return User.objects.get(username="owner")


def test_who_guesses_is_told_to_wait_and_the_owner_gets_in_from_elsewhere():
    answer = guess(100, "198.51.100.7")
    assert answer.status_code == 429
    assert answer.body == {
        "place": "",
        "label": "",
        "problem": "Too many wrong passwords. Wait 15 minutes, then try again.",
    }
    assert answer.headers["Retry-After"] == "900"
    assert From("198.51.100.7").tries(RIGHT).status_code == 429
    assert From("203.0.113.9").tries(RIGHT).status_code == 200


def test_addresses_of_one_line_are_one():
    guess(guessing.ADDRESS.most, *(f"2001:db8:1:2::{n:x}" for n in range(1, 9)))
    assert From("2001:db8:1:2:aaaa::1").tries(RIGHT).status_code == 429
    assert From("2001:db8:1:3::1").tries(RIGHT).status_code == 200


def test_the_wait_ends(monkeypatch):
    guess(guessing.ADDRESS.most, "198.51.100.7")
    assert From("198.51.100.7").tries(RIGHT).status_code == 429
    monkeypatch.setenv("LODELINE_NOW", LATER)
    assert From("198.51.100.7").tries(RIGHT).status_code == 200


def test_a_success_begins_the_count_anew():
    for _ in range(3):
        guess(guessing.ADDRESS.most - 1, "198.51.100.7")
        assert From("198.51.100.7").tries(RIGHT).status_code == 200
    assert guess(1, "198.51.100.7").status_code == 422


def test_a_name_guessed_at_from_everywhere_stays_open_to_devices_that_know_it():
    mine = From("203.0.113.9")
    assert mine.tries(RIGHT).status_code == 200
    mine.post("/account/sign-out")
    guess(guessing.NAME.most, *(f"198.51.100.{n}" for n in range(60)))
    assert From("192.0.2.1").tries(RIGHT).status_code == 429  # a stranger's device
    assert mine.tries("not-this").status_code == 422
    assert mine.tries(RIGHT).status_code == 200
    assert From("192.0.2.1").tries("x", name="somebody-else").status_code == 422


def test_a_known_device_that_guesses_is_shut_out_itself_and_no_other_name_is_open_to_it(as_user):
    as_user("crew")
    mine = From("203.0.113.9")
    mine.tries(RIGHT)
    for n in range(guessing.DEVICE.most):
        mine.tries(f"wrong-{n}")
    assert mine.tries(RIGHT).status_code == 429
    other = From("203.0.113.9")
    other.client.cookies = mine.client.cookies
    for n in range(guessing.ADDRESS.most):
        other.tries(f"wrong-{n}", name="crew")
    assert other.tries("wrong", name="crew").status_code == 429


def test_a_device_is_not_known_by_a_cookie_of_its_own_making_nor_after_a_new_password(account):
    forged, mine = From("203.0.113.9"), From("203.0.113.10")
    mine.tries(RIGHT)
    assert guessing.Guesser("owner", "x", mine.client.cookies[guessing.DEVICE_COOKIE].value).is_known()
    assert not guessing.Guesser("crew", "x", mine.client.cookies[guessing.DEVICE_COOKIE].value).is_known()
    forged.client.cookies[guessing.DEVICE_COOKIE] = mine.client.cookies[guessing.DEVICE_COOKIE].value[:-2] + "xx"
    assert not guessing.Guesser("owner", "x", forged.client.cookies[guessing.DEVICE_COOKIE].value).is_known()
    account.set_password("another-word-7")
    account.save()
    assert not guessing.Guesser("owner", "x", mine.client.cookies[guessing.DEVICE_COOKIE].value).is_known()


def test_the_password_of_who_is_signed_in_cannot_be_guessed_at_either(owner):
    for n in range(guessing.ADDRESS.most):
        assert owner.post("/account/delete", {"password": f"wrong-{n}"}).status_code == 422
    assert owner.post("/account/delete", {"password": RIGHT}).status_code == 429


@pytest.fixture
def new_server(settings):
    User.objects.all().delete()
    settings.DEMO, settings.CLAIM = False, "ABCD-2345"
    return From("203.0.113.9")


def test_a_new_server_on_a_network_is_claimed_with_its_code(new_server):
    first = {"username": "mira", "password": RIGHT}
    assert new_server.get("/account/me").body["code"] is True
    for code in ("", "ABCD-2346"):
        refused = new_server.post("/account/first", first | {"code": code})
        assert (refused.status_code, refused.body["place"]) == (422, "code")
    for _ in range(guessing.ADDRESS.most):
        answer = new_server.post("/account/first", first | {"code": "WRONG"})
    assert answer.status_code == 429
    for n in range(guessing.NAME.most):  # however many there are, they shut out themselves alone
        From(f"198.51.100.{n}").post("/account/first", first | {"code": "WRONG"})
    elsewhere = From("203.0.113.10")
    assert elsewhere.post("/account/first", first | {"code": " abcd 2345"}).body["username"] == "mira"
    assert elsewhere.get("/account/me").body["code"] is False


@pytest.mark.parametrize("name", ["Mira", "سارا\u200cجان", "さくら", "Zoë", "a.b+c@d-e_f"])
def test_a_name_in_any_script_is_taken(new_server, name):
    made = new_server.post("/account/first", {"username": name, "password": RIGHT, "code": "abcd2345"})
    assert made.status_code == 200, made.body
    new_server.post("/account/sign-out")
    assert new_server.tries(RIGHT, name).status_code == 200


@pytest.mark.parametrize("name", ["two words", "a/b", "line\nbreak", "\u200c", "tab\t", "x" * 151, "<b>"])
def test_what_is_no_name_is_refused_wherever_it_is_made(new_server, name):
    made = new_server.post("/account/first", {"username": name, "password": RIGHT, "code": "abcd2345"})
    assert (made.status_code, made.body["place"]) == (422, "username")
    assert not User.objects.exists()


def test_names_that_look_alike_are_one(owner, rig):
    token = owner.post("/rigs/{rig}/invitations", {"role": "crew"}).body["path"].removeprefix("/join#")
    for name in ("OWNER", "own\u200der", "ｏｗｎｅｒ"):
        taken = From("203.0.113.9").post("/account/join", {"token": token, "username": name, "password": RIGHT})
        assert "already" in taken.body["problem"], name
