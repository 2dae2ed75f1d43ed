"""A week lived on a phone: two rigs set up from nothing, seven evenings each, typed by Enter and touched by thumb. What
is refused, what breaks, whether the log holds what was done and nothing else, and whether the headline and the lane of
what comes first name one time."""

import re
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from playwright.sync_api import BrowserContext, Page, Playwright, expect, sync_playwright

from bench.browser import ARGS, CHROMIUM
from bench.evening import PHONE
from bench.server import free_port, serving

FIRST = datetime.fromisoformat("2026-11-30T20:30:00+00:00")
EVENINGS = 7
WHO = ("week", "a week on the road 2026")
_AT_ITS_LINE = "at its line now"


@dataclass(frozen=True, slots=True)
class Rig:
    """A rig as it is set up, and what is typed and touched on each evening. A gauge without a text is passed by."""

    name: str
    chosen: dict[str, str]
    typed: dict[str, str]
    pressed: tuple[str, ...]
    readings: dict[str, tuple[str, ...]]
    acts: dict[int, tuple[str, ...]] = field(default_factory=dict)


# the second goes past the line of its grey tank on the fifth evening and stays there for one
RIGS = (
    Rig(
        name="Heron",
        chosen={"Toilet": "cassette", "A second cassette": "yes"},
        typed={},
        pressed=("fridge",),
        readings={
            "House bank": ("71%", "64%", "62%", "70%", "75%", "69%", "66%"),
            "Fresh water": ("2/3", "2/3", "1/3", "1/3", "full", "", "2/3"),
            "Grey tank": ("10 L", "21", "33 l", "45", "8", "", "nearly empty"),
            "Cassette": ("20%", "", "55%", "80%", "", "20%", "35%"),
            "Gas bottle": ("60%", "", "", "4,1 kg", "", "", "55%"),
            "Vehicle fuel": ("1/2", "", "300 km left", "", "", "between 1/3 and 1/2", ""),
        },
        acts={3: ("Cassette changed for its spare",), 4: ("Filled Fresh water", "Emptied Grey tank")},
    ),
    Rig(
        name="Tern",
        chosen={"Units": "gallons"},
        typed={"Fresh tanks": "20", "Adults": "1"},
        pressed=(),
        readings={
            "House bank": ("90%", "70%", "50%", "35%", "25%", "15%", "60%"),
            "Fresh water": ("15 gal", "12", "9", "6.5", "4", "1", "full"),
            "Grey tank": ("1 gal", "25%", "45%", "70%", "full", "full", "empty"),
        },
        acts={6: ("Emptied Grey tank", "Filled Fresh water")},
    ),
)


class Faults(list[str]):
    """What went wrong, with when and where."""

    def __init__(self) -> None:
        super().__init__()
        self.now = ""

    def say(self, what: str) -> None:
        self.append(f"{self.now}: {what}")

    def watch(self, page: Page) -> None:
        """Write down every refusal, and what the page says against itself."""
        page.on("response", lambda r: self.say(f"{r.status} {r.request.method} {r.url}") if r.status >= 400 else None)
        page.on("pageerror", lambda error: self.say(str(error)))
        page.on("console", lambda said: self.say(said.text) if said.type == "error" else None)


def _asked(page: Page, path: str) -> Any:
    return page.evaluate(
        """async (path) => {
            const me = await (await fetch('/api/account/me')).json();
            const rig = Number(localStorage.getItem('lodeline-rig')) || me.rigs[0].id;
            for (;;) {
                // it is being worked out, or is of what was known before
                const answer = await fetch(`/api/rigs/${rig}${path}`);
                if (answer.status !== 202 && !answer.headers.has('X-Lodeline-As-Of')) return answer.json();
            }
        }""",
        path,
    )


def _account(page: Page) -> None:
    page.get_by_label("Account", exact=True).fill(WHO[0])
    page.get_by_label("Password", exact=True).fill(WHO[1])
    page.get_by_role("button", name="Make the account").tap()
    expect(page.get_by_label("Account", exact=True)).to_have_count(0)


def _answer(page: Page, rig: Rig) -> None:
    """What is asked on one screen of the set-up."""
    for label, option in rig.chosen.items():
        choice = page.get_by_label(re.compile(f"^{label}"))
        if choice.is_visible():
            words = choice.locator("option").all_inner_texts()
            choice.select_option(label=next(each for each in words if option in each))
    for label, text in rig.typed.items():
        field = page.get_by_label(re.compile(f"^{label}"))
        if field.is_visible():
            field.fill(text)
    burns = page.get_by_role("group", name="What burns gas")
    for word in rig.pressed if burns.is_visible() else ():
        burns.get_by_role("button", name=re.compile(word)).tap()


def _set_up(page: Page, address: str, rig: Rig) -> None:
    page.goto(f"{address}/set-up")
    page.get_by_label("Name", exact=True).fill(rig.name)
    page.get_by_label("Timezone", exact=True).select_option("Europe/Lisbon")
    while True:
        _answer(page, rig)
        further = page.get_by_role("button", name="Next", exact=True)
        if further.count() == 0:
            break
        further.tap()
    page.get_by_role("button", name="Make the rig").tap()
    page.get_by_role("heading", name=re.compile("^The round")).wait_for()


def _evening(page: Page, address: str, rig: Rig, n: int, faults: Faults) -> int:
    """One evening of a rig; how many entries were made."""
    page.goto(f"{address}/round")
    page.locator("[data-store] input").first.wait_for()
    fields = page.locator("[data-store] input")
    names = fields.evaluate_all("all => all.map(one => one.labels[0].innerText)")
    fields.first.focus()
    read = [(name, text) for name in names if (text := rig.readings.get(name, ("",) * EVENINGS)[n])]
    for name in names:
        expect(page.get_by_label(name, exact=True)).to_be_focused()
        page.keyboard.type(dict(read).get(name, ""))
        page.keyboard.press("Enter")
    page.keyboard.press("Enter")
    for name, text in read:
        echo = page.locator("[data-store]").filter(has=page.get_by_label(name, exact=True)).locator("[id^=echo-]")
        expect(echo).to_contain_text(f"Saved: {text}")
    done = page.get_by_role("region", name="What was done")
    for act in rig.acts.get(n, ()):
        done.get_by_role("button", name=act, exact=True).tap()
        expect(done.get_by_text(f"Logged: {act}")).to_be_visible()
    answer = _asked(page, "/log?days=1&all=true")
    if "days" not in answer:
        faults.say(f"the log answers {answer}")
    days: list[Any] = answer.get("days", [])
    today: list[Any] = days[0]["entries"] if days else []
    wanted = sorted(["reading"] * len(read) + ["event"] * len(rig.acts.get(n, ())))
    if sorted(entry["kind"] for entry in today) != wanted:
        faults.say(f"{wanted} were done; the log has {[entry['words'] for entry in today]}")
    return len(wanted)


def _one_answer(page: Page, address: str, faults: Faults) -> str:
    """The headline, once what is shown is of the log as it stands; a fault where the lane of the first says otherwise."""
    page.goto(address)
    shown = page.locator("[data-part=headline]")
    shown.wait_for()
    page_now = _asked(page, "/horizon")
    headline: str = page_now["headline"]
    try:
        expect(shown).to_have_text(headline)
    except AssertionError:
        faults.say(f"the page says {shown.inner_text()!r}, the server {headline!r}")
    lane = next((each for each in page_now["lanes"] if each["id"] == page_now["first"]), None)
    if lane is not None and lane["left"]:
        day, part = (
            ("now", "now") if lane["left"] == _AT_ITS_LINE else (lane["left"].split()[0], lane["left"].split()[-1])
        )
        told = headline if day != "now" else headline.replace("now", "now now")
        near = any(word in told for word in ("tomorrow", "this ", "tonight", "today"))
        if lane["name"] not in told or not (part in told and (near or day in told)):
            faults.say(f"the headline says {headline!r}, the lane of {lane['name']} {lane['left']!r}")
    return headline


@contextmanager
def _phone(play: Playwright, state: Path, at: datetime) -> Iterator[tuple[BrowserContext, Page]]:
    """The phone as it was put away, some evenings on: with what it keeps."""
    context = play.chromium.launch_persistent_context(
        state, executable_path=CHROMIUM, args=ARGS, viewport=PHONE, has_touch=True, is_mobile=True, locale="en-GB"
    )
    context.clock.install(time=at)
    page = context.new_page()
    page.set_default_timeout(30_000)
    yield context, page
    context.close()


def main(evenings: int = EVENINGS) -> None:
    """Live the week and print what went wrong."""
    expect.set_options(timeout=30_000)
    faults, entries = Faults(), 0
    with tempfile.TemporaryDirectory(prefix="lodeline-week-") as folder, sync_playwright() as play:
        data, state = Path(folder) / "data", Path(folder) / "phone"
        data.mkdir()
        port = free_port()  # one address for the week: the phone knows it, and stays signed in
        for n in range(evenings):
            at = FIRST + timedelta(days=n)
            with serving("serve", data, at.isoformat(), port=port) as address, _phone(play, state, at) as (_, page):
                faults.now = f"evening {n + 1}"
                page.goto(address)
                if n == 0:
                    _account(page)
                faults.watch(page)
                for rig in RIGS:
                    faults.now = f"evening {n + 1}, {rig.name}"
                    if n == 0:
                        _set_up(page, address, rig)
                    else:
                        page.get_by_label("Rig", exact=True).select_option(label=rig.name)
                    entries += _evening(page, address, rig, n, faults)
                    print(f"{faults.now}: {_one_answer(page, address, faults)}", flush=True)
    for fault in faults:
        print(f"FAULT {fault}")
    print(f"a week of {len(RIGS)} rigs at 390x844: {entries} entries as they were done, {len(faults)} faults")
