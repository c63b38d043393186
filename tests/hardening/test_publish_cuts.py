"""A publish that is cut or killed at any moment: the next run completes it, nothing that is nobody's is touched, and no
page is ever half of one."""

from __future__ import annotations

import multiprocessing
import signal
import threading
import time
from pathlib import Path
from random import Random

import pytest

from basilica.services.host import Host
from basilica.services.publish_work import Choices, PublishNote, prepare, publish
from basilica.store.targets import TargetProblem, TargetSettings, settings_of
from tests.hardening import TIMES
from tests.publish_targets import target_of, tree_at

CUTS = 20 if TIMES == 1 else 15 * TIMES
processes = multiprocessing.get_context("forkserver")
processes.set_forkserver_preload(["tests.hardening.test_publish_cuts"])
PATHS = [f"{folder}/{name}" for folder in ("visit", "tides", "mill") for name in ("index.html", "a.css", "more.html")]


def version(random: Random, number: int) -> dict[str, bytes]:
    """A build; every file of it says of which version it is, from its first byte to its last."""
    paths = [*random.sample(PATHS, random.randint(3, len(PATHS))), "index.html", "sitemap.xml"]
    return {path: f"<{number}>".encode() * random.choice([1, 500, 30_000]) for path in paths}


def is_whole(data: bytes) -> bool:
    """Whether some bytes are all of one version."""
    end = data.find(b">") + 1
    return end > 0 and len(data) % end == 0 and data == data[:end] * (len(data) // end)


class Watch:
    """Reads every page of a folder again and again, and notes those that are half of one."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.torn, self.read = folder, set[str](), 0
        self._over = threading.Event()
        self._thread = threading.Thread(target=self._look, daemon=True)
        self._thread.start()

    def _look(self) -> None:
        while not self._over.is_set():
            for path in PATHS:
                try:
                    data = (self.folder / path).read_bytes()
                except OSError:
                    continue
                self.read += 1
                if not is_whole(data):
                    self.torn.add(path)

    def end(self) -> None:
        self._over.set()
        self._thread.join()


def put(settings: TargetSettings, built: dict[str, bytes], number: int) -> None:
    prepared = prepare(settings, built, None)
    publish(prepared, Choices(deletions=prepared.many_deletions), PublishNote(str(number)), None)


def ends_right(settings: TargetSettings, live: Path, built: dict[str, bytes], number: int) -> None:
    """The next run completes it, and nobody's file is as it was."""
    prepared = prepare(settings, built, None)
    assert not prepared.found.files.drift, [file.path for file in prepared.found.files.drift]
    put(settings, built, number)
    assert tree_at(live) == {**built, "CNAME": b"mill.example"}
    assert prepare(settings, built, None).found.state.unfinished is None
    assert not list(live.rglob("*.basilica-unfinished")) or settings.kind == "sftp"


def test_cut_after_any_byte(tmp_path: Path) -> None:
    """The connection is cut, over SFTP; the next version may be another one."""
    random = Random(1782)
    with Host(tmp_path / "www") as host:
        live, settings = tmp_path / "www", settings_of("live", host.settings())
        built = version(random, 0)
        put(settings, built, 0)
        (live / "CNAME").write_bytes(b"mill.example")
        watch, cut = Watch(live), 0
        for number in range(1, CUTS + 1):
            built = version(random, number)
            host.faults.drop_at = random.randint(1, sum(map(len, built.values())) + 2_000)
            try:
                put(settings, built, number)
            except TargetProblem as problem:
                cut += "was lost" in str(problem)
            host.faults.drop_at = None
            if random.random() < 0.5:
                ends_right(settings, live, built, number)
        ends_right(settings, live, built, CUTS)
        watch.end()
        assert not watch.torn and watch.read and cut > CUTS / 3


@pytest.mark.parametrize("kind", ["folder", "sshd", "git"])
def test_killed_at_any_moment(kind: str, tmp_path: Path) -> None:
    random = Random(17)
    with target_of(kind, tmp_path) as (settings, live):
        built = {**version(random, 0), "CNAME": b"mill.example"}
        put(settings, built, 0)
        built.pop("CNAME")
        nobodys(settings, live)
        watch, killed = (Watch(live) if kind != "git" else None), 0
        took = time.monotonic()
        put(settings, built, 0)
        took = time.monotonic() - took
        for number in range(1, CUTS // 4 + 1):
            built = version(random, number)
            process = processes.Process(target=put, args=(settings, built, number))
            process.start()
            time.sleep(random.random() * (took + 0.3))
            process.kill()
            process.join()
            killed += process.exitcode == -signal.SIGKILL
            if random.random() < 0.5:
                ends_right(settings, live, built, number)
        ends_right(settings, live, built, CUTS)
        if watch is not None:
            watch.end()
            assert not watch.torn and watch.read
        assert killed


def nobodys(settings: TargetSettings, live: Path) -> None:
    """Make the file `CNAME` one that nobody published, by taking it out of what is remembered."""
    import json

    from basilica.core.diff.live_differences import name_digest
    from basilica.store.targets import open_target
    from basilica.store.targets.target import PUBLISHED

    with open_target(settings) as target:
        said = json.loads(target.read(PUBLISHED) or b"")
        del said["files"][name_digest("CNAME")]
        target.send([(PUBLISHED, json.dumps(said).encode())], lambda path: None)
        target.finish("By hand")
