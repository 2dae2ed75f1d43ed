"""What differs between installations, as the environment says it."""

import json
import os
import subprocess
import sys

import pytest

from tests.test_command_line import ROOT

ASK = (
    "import json; from django.conf import settings as s; from lodeline import cli;"
    "print(json.dumps([s.ALLOWED_HOSTS[3:], s.SECURE_SSL_REDIRECT, s.SECURE_HSTS_SECONDS > 0, s.SESSION_COOKIE_SECURE,"
    " s.CSRF_TRUSTED_ORIGINS[-1:], s.SECRET_KEY, s.DEMO, s.DATABASES['default']['OPTIONS']['init_command']]))"
)


def told(folder, code=ASK, **environment):
    """What a process of its own says."""
    environment = os.environ | {"LODELINE_DATA": str(folder), "PYTHONPATH": str(ROOT / "src")} | environment
    environment["DJANGO_SETTINGS_MODULE"] = "lodeline.site.settings"
    done = subprocess.run(
        [sys.executable, "-c", code], env=environment, capture_output=True, text=True, timeout=120, check=False
    )
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)


def test_https_is_kept_to_and_hosts_may_have_spaces(tmp_path):
    plain = told(tmp_path)
    assert plain[:5] == [[], False, False, False, []]
    over = told(tmp_path, LODELINE_HTTPS="1", LODELINE_HOSTS=" rig.example.org , , other.example ")
    assert over[:5] == [["rig.example.org", "other.example"], True, True, True, ["https://other.example"]]
    assert "synchronous=FULL" in plain[7]


@pytest.mark.parametrize("found", [None, "", "  \n"])
def test_a_secret_key_is_made_where_there_is_none_and_then_kept(tmp_path, found):
    path = tmp_path / "secret_key"
    if found is not None:
        path.write_text(found)
    key = told(tmp_path)[5]
    assert len(key) > 40
    assert told(tmp_path)[5] == key
    assert oct(path.stat().st_mode & 0o777) == "0o600"
    assert [each.name for each in tmp_path.iterdir()] == ["secret_key"]


SERVE = (
    "import json, os; from lodeline import cli; cli.serve = lambda *a: print(json.dumps(os.environ.get('LODELINE_DEMO'))) or 0;"
    "cli.main(['{}'])"
)


def test_the_demo_is_a_mode_of_its_command_alone(tmp_path):
    assert told(tmp_path, SERVE.format("serve"), LODELINE_DEMO="1") is None
    assert told(tmp_path, SERVE.format("demo")) == "1"


LAN = (
    "import json, os, io, contextlib; from lodeline import cli; cli._stand = lambda number: None; out = io.StringIO();\n"
    "with contextlib.redirect_stdout(out): cli.main(['serve', '--lan', '--port', '8765'])\n"
    "print(json.dumps([os.environ.get('LODELINE_CLAIM', ''), out.getvalue()]))"
)


def test_a_new_server_on_a_network_shows_a_code_until_it_has_an_account(tmp_path):
    code, shown = told(tmp_path, LAN)
    assert len(code) == 9
    assert f"The first account is made with this code: {code}" in shown
    assert told(tmp_path, LAN)[0] != code
    account = "import sys; from lodeline import cli; sys.stdin = __import__('io').StringIO('a-long-word-9'); cli.main(['account', 'mira'])"
    subprocess.run(
        [sys.executable, "-c", account],
        check=True,
        capture_output=True,
        env=os.environ
        | {
            "LODELINE_DATA": str(tmp_path),
            "PYTHONPATH": str(ROOT / "src"),
            "DJANGO_SETTINGS_MODULE": "lodeline.site.settings",
        },
    )
    code, shown = told(tmp_path, LAN)
    assert code == ""
    assert "code" not in shown
