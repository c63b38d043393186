"""Fifty people for a minute on one server and five sites: they edit the map and texts, look at previews and checks, and
save versions. Told is how long they waited, what failed, and whether anything that was acknowledged is gone."""

from __future__ import annotations

import http.client
import json
import random
import re
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import defaultdict
from pathlib import Path

from rich.console import Console
from rich.table import Table

from basilica.services.all_services import Services
from bench.sites import map_of

PEOPLE, SECONDS = 50, 60
SITES = {"small-1": 50, "small-2": 50, "small-3": 100, "medium": 500, "large": 2000}
COMMAND = Path(sys.executable).with_name("basilica")
STATE = re.compile(r'id="state">(.*?)</script>', re.DOTALL)
TOKEN = re.compile(r'name="token" content="([^"]+)"')


class Person:
    """One of the people: works on one site, with a page of their own in it, as a browser would."""

    def __init__(self, port: int, number: int, until: float) -> None:
        self.slug = [*SITES][number % len(SITES)]
        self.number, self.until, self.chance = number, until, random.Random(number)
        self.address = f"/sites/{self.slug}"
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=120)
        self.cookie = self.token = ""
        self.waits: dict[str, list[float]] = defaultdict(list)
        self.failed: list[str] = []
        self.conflicts = self.written = self.marked = 0

    @property
    def page(self) -> str:
        """The page whose text is this person's own."""
        return f"section-1/page-1-{self.number // len(SITES) + 1}"

    def work(self) -> None:
        """Do one thing after the other, with pauses, until the time is over."""
        opened = self.ask("open the map", "GET", f"{self.address}/map")
        found = TOKEN.search(opened)
        self.token = found[1] if found else ""
        acts = [self.edit, self.edit, self.write, self.write, self.preview, self.check, self.keep]
        while time.monotonic() < self.until:
            self.chance.choice(acts)()
            time.sleep(self.chance.uniform(0.5, 1.5))

    def state(self) -> dict[str, object]:
        """What the Map is opened with: the text, and its revision."""
        found = STATE.search(self.ask("open the map", "GET", f"{self.address}/map"))
        return json.loads(found[1]) if found else {"text": "", "revision": -1}

    def edit(self) -> None:
        """Add a line to the map, or put another into its place; where somebody else was first, begin again."""
        for _ in range(20):
            state = self.state()
            text, mark = str(state["text"]), f"# person {self.number}: "
            lines = [line for line in text.splitlines() if not line.startswith(mark)]
            text = "\n".join([*lines, f"{mark}{self.marked + 1}"]) + "\n"
            sent = {"text": text, "revision": state["revision"]}
            answer = self.ask("save the map", "PUT", f"{self.address}/map/text", sent, meets=409)
            if answer:
                self.marked += 1
                return
            self.conflicts += 1

    def write(self) -> None:
        """Another text of the own page."""
        sent = {"key": self.page, "text": f"{self.written + 1}\n", "was": f"{self.written}\n" if self.written else ""}
        if self.ask("save a text", "PUT", f"{self.address}/map/content", sent):
            self.written += 1

    def preview(self) -> None:
        """Look at the own page."""
        self.ask("open a preview", "GET", f"{self.address}/preview?page={self.page}")

    def check(self) -> None:
        """Ask whether all holds."""
        self.ask("open the checks", "GET", f"{self.address}/checks")

    def keep(self) -> None:
        """Save a version."""
        sent = {"revision": self.state()["revision"], "note": f"Person {self.number}"}
        if not self.ask("save a version", "POST", f"{self.address}/map/version", sent, meets=409):
            self.conflicts += 1

    def ask(self, what: str, method: str, where: str, sent: object = None, meets: int = 200) -> str:
        """One answer; empty where it was ``meets``, which is no failure."""
        headers = {"Content-Type": "application/json", "X-CSRFToken": self.token, "Cookie": self.cookie}
        begun = time.monotonic()
        try:
            self.connection.request(method, where, json.dumps(sent).encode() if sent else None, headers)
            answer = self.connection.getresponse()
            text = answer.read().decode()
        except OSError as error:
            self.connection.close()
            self.failed.append(f"{what}: {error}")
            return ""
        self.waits[what].append(time.monotonic() - begun)
        self.cookie = (answer.getheader("Set-Cookie") or self.cookie).partition(";")[0]
        if answer.status in (200, 202):
            return text
        if answer.status != meets:
            self.failed.append(f"{what}: {answer.status} {text[:200]}")
        return ""


def load(console: Console) -> None:
    """Begin, let them work, and print what came of it."""
    with tempfile.TemporaryDirectory() as made:
        services = Services.of(Path(made))
        for slug, pages in SITES.items():
            services.store.make(slug, map_of(pages), {}, "First")
        services.close()
        with socket.socket() as one, socket.socket() as other:
            for free in (one, other):
                free.bind(("127.0.0.1", 0))
            port, previews = (free.getsockname()[1] for free in (one, other))
        words = [COMMAND, "serve", "--data", made, "--port", str(port), "--preview-port", str(previews)]
        server = subprocess.Popen(words, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL)
        try:
            assert server.stdout is not None
            server.stdout.readline()
            people = [Person(port, number, time.monotonic() + SECONDS) for number in range(PEOPLE)]
            threads = [threading.Thread(target=person.work) for person in people]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join()
            status = Path(f"/proc/{server.pid}/status").read_text()
        finally:
            server.terminate()
            server.wait()
        show(console, people, int(re.search(r"VmHWM:\s+(\d+)", status)[1]) // 1000, lost(Path(made), people))  # type: ignore[index]


def lost(data: Path, people: list[Person]) -> list[str]:
    """What was acknowledged last and is not there."""
    services, found = Services.of(data), []
    for person in people:
        text, contents = services.store.get(person.slug).text, services.store.contents(person.slug)
        if person.marked and f"# person {person.number}: {person.marked}\n" not in text:
            found.append(f"the line of person {person.number}")
        if person.written and contents[person.page].text != f"{person.written}\n":
            found.append(f"the text of person {person.number}")
    services.close()
    return found


def show(console: Console, people: list[Person], megabytes: int, gone: list[str]) -> None:
    """Print how long people waited, by what they did and by the size of their site."""
    table = Table(f"{PEOPLE} people for {SECONDS} s", "times", "median, s", "19 of 20, s", "longest, s")
    for what in sorted({what for person in people for what in person.waits}):
        waits = sorted(wait for person in people for wait in person.waits[what])
        table.add_row(what, str(len(waits)), *_told(waits))
    for slug, pages in SITES.items():
        waits = sorted(wait for one in people if one.slug == slug for each in one.waits.values() for wait in each)
        table.add_row(f"all on {slug}, {pages:,} pages", str(len(waits)), *_told(waits))
    console.print(table)
    failed = [each for person in people for each in person.failed]
    for each in failed[:5]:
        console.print(f"  {each}", markup=False)
    console.print(f"  answers that failed: {len(failed)}  (wanted: 0)")
    console.print(f"  updates that were lost: {len(gone)} {', '.join(gone[:3])}  (wanted: 0)")
    console.print(f"  told that somebody else was first, and begun again: {sum(one.conflicts for one in people)}")
    console.print(f"  memory of the server: {megabytes} MB  (wanted: below 1,000)")


def _told(waits: list[float]) -> tuple[str, str, str]:
    return f"{statistics.median(waits):.2f}", f"{waits[len(waits) * 19 // 20]:.2f}", f"{waits[-1]:.2f}"


if __name__ == "__main__":
    load(Console())
