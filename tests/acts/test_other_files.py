"""Pages that the map takes from other files, a table and an included map: in every language, with their old addresses,
and with their place said before anybody types."""

from __future__ import annotations

import io
import logging

import pytest
from flask.testing import FlaskClient

from basilica.core.compile import compile_map
from basilica.core.edits import Command, Edited, EditRejected, edit
from basilica.core.edits.commands.add_page import AddPage
from basilica.core.edits.commands.delete_page import DeletePage
from basilica.core.edits.commands.duplicate_page import DuplicatePage
from basilica.core.edits.commands.move_page import MovePage
from basilica.core.edits.commands.name_page import NamePage
from basilica.core.edits.commands.rename_id import RenameId
from basilica.core.edits.commands.set_entry import SetEntry
from basilica.core.edits.commands.translate_page import TranslatePage
from basilica.core.edits.kept_addresses import Keeping
from basilica.core.map.map_files import Files
from basilica.core.map.site.written_place import written_elsewhere
from basilica.core.plan.content_links import Content
from basilica.core.plan.site_plan import every_redirect
from basilica.services.all_services import Services
from tests.web.test_web import token

MAP = """site: {name: Mill, base: "https://mill.example", languages: [en, cy]}
pages:
  home: {path: /, title: Mill, cy: Melin}
  visit: Visit
  mills: {title: Mills, cy: Melinau, table: mills.csv}
  learn: {title: Learn, cy: Dysgu, include: maps/learn.yaml}
redirects:
  /cy/hen: learn
  /cy/ymweld: visit
menus: {main: auto}
"""
LEARN = b"""# what is taught
pages:
  how: {title: How, cy: {title: Sut, path: sut, was: /cy/sut.htm}}
  past: Past
"""
FILES = Files({"tables/mills.csv": b'name,place\nTide,"by\nthe creek"\n\nWind,Hill\n', "maps/learn.yaml": LEARN})


def after(*commands: Command, text: str = MAP) -> Edited:
    return edit(compile_map(text, FILES), text, *commands, keeping=Keeping(None))


def learnt(*commands: Command) -> str:
    """The included file after some edits."""
    return after(*commands).files["maps/learn.yaml"].decode()


def refusal(*commands: Command, text: str = MAP) -> str:
    with pytest.raises(EditRejected) as refused:
        edit(compile_map(text, FILES), text, *commands)
    return str(refused.value)


def test_an_included_map_has_words_in_every_language() -> None:
    plan = compile_map(MAP, FILES).plan
    assert plan is not None and plan.site.pages["learn/how"].title == "How"
    welsh = plan.languages["cy"]
    assert welsh.site.pages["learn/how"].title == "Sut" and welsh.path_of("learn/how") == "/cy/learn/sut/"
    assert "learn/past" in welsh.drafts, "it has no title in this language"
    assert [(each.site.language, old.address) for each, old in every_redirect(plan) if old.key == "learn/how"] == [
        ("cy", "/cy/sut.htm")
    ]


def test_a_redirect_leads_to_the_page_in_the_language_of_its_address() -> None:
    plan = compile_map(MAP, FILES).plan
    assert plan is not None
    leads = {old.address: (each.site.language, old.key) for each, old in every_redirect(plan)}
    assert leads["/cy/hen"] == ("cy", "learn")
    assert leads["/cy/ymweld"] == ("en", "visit"), "the page is not translated"


def test_old_addresses_of_rows_and_included_pages_are_kept_in_every_language() -> None:
    edited = after(RenameId("mills", "mill"), RenameId("learn", "teach"))
    assert edited.words.endswith("11 old addresses kept")
    plan = edited.compiled.plan
    assert plan is not None
    leads = {old.address: (each.site.language, old.key) for each, old in every_redirect(plan)}
    assert leads["/cy/mills/wind/"] == ("cy", "mill/wind") and leads["/mills/wind/"] == ("en", "mill/wind")
    assert leads["/cy/learn/sut/"] == ("cy", "teach/how")


def test_a_page_of_another_file_is_told_with_its_line() -> None:
    site = compile_map(MAP, FILES).plan.site  # type: ignore[union-attr]
    assert written_elsewhere(site, "visit") is None
    assert refusal(MovePage("mills/wind", None, 0)).startswith("Wind is row 2 of the table tables/mills.csv (line 5).")
    twice = MAP.replace("redirects:", "  again: {title: Again, include: learn.yaml}\nredirects:")
    for command in (NamePage("learn/how", "H"), DeletePage("again/how")):
        assert "in maps/learn.yaml" in refusal(command, text=twice), "an edit of one would be one of the other"
    assert "table: mills.csv, pages: {new: New}" in after(AddPage("New", "mills", 9)).text, "rows come after it"
    assert refusal(NamePage("visit/gone", "x")) == "The page `visit/gone` is not there any more. Nothing was changed."


def test_edits_of_included_pages_change_their_file_and_nothing_else() -> None:
    how = "  how: {title: How, cy: {title: Sut, path: sut, was: /cy/sut.htm}}\n"
    named = after(NamePage("learn/past", "Long ago"))
    assert named.text == MAP and named.files == {"maps/learn.yaml": LEARN.replace(b"past: Past", b"past: Long ago")}
    assert learnt(AddPage("New", "learn", 1)) == LEARN.decode().replace("  past:", "  new: New\n  past:")
    assert learnt(DuplicatePage("learn/past")).endswith("  past: Past\n  past-copy: Past (copy)\n")
    assert learnt(MovePage("learn/past", "learn", 0)).endswith("  past: Past\n" + how)
    assert "    cy: Gynt\n" in learnt(TranslatePage("learn/past", "cy", {"title": "Gynt"}))
    assert learnt(DeletePage("learn/past")) == LEARN.decode().replace("  past: Past\n", "")
    renamed = after(RenameId("learn/how", "ways"))
    ways = "  ways: {title: How, cy: {title: Sut, path: sut, was: /cy/sut.htm}, was: /learn/how/}\n"
    assert ways in renamed.files["maps/learn.yaml"].decode() and renamed.keys["learn/how"] == "learn/ways"
    out, into = after(MovePage("learn/how", None, 1)), after(MovePage("visit", "learn", 2))
    assert "  how: {title: How, cy: {title: Sut," in out.text and b"how" not in out.files["maps/learn.yaml"]
    assert "visit:" not in into.text
    assert into.files["maps/learn.yaml"] == LEARN + b"  visit:\n    title: Visit\n    was: /visit/\n"


def test_screens_say_where_a_page_is_written(client: FlaskClient, services: Services) -> None:
    slug = services.store.make("Mill", MAP, {}, "", files=FILES).slug
    row, included = "file=tables/mills.csv&amp;line=5", "file=maps/learn.yaml&amp;line=3"
    for address in (
        "map/page?page=mills/wind",
        "settings?section=page&page=mills/wind",
        "header?page=mills/wind&for=page",
    ):
        shown = client.get(f"/sites/{slug}/{address}").text
        assert "Wind is row 2 of the table tables/mills.csv (line 5)" in shown, address
        assert row in shown and "Rename id" not in shown and "Save to map" not in shown
    for address in ("map/page?page=learn/how", "settings?section=page&page=learn/how", "pages?page=learn/how"):
        shown = client.get(f"/sites/{slug}/{address}").text
        assert included in shown and ("Rename id" in shown or "Save to map" in shown), "it is edited here"
    assert 'data-line="3"' in client.get(f"/sites/{slug}/parts?file=maps/learn.yaml&line=3").text
    services.store.put_files(slug, {"maps/learn.yaml": LEARN.replace(b"past: Past", b"past: {titel: Past}")})
    assert "file=maps/learn.yaml&amp;line=4" in client.get(f"/sites/{slug}/map").text, "a finding leads to its file"


def test_forms_and_acts_save_the_included_file_with_the_map_or_nothing(client: FlaskClient, services: Services) -> None:
    slug = services.store.make(
        "Mill", MAP, {"learn/how": Content("content/learn/how.md", "Text")}, "", files=FILES
    ).slug
    headers = {"X-CSRFToken": token(client)}

    def file() -> str:
        return services.store.files(slug)["maps/learn.yaml"].decode()

    form = {
        "csrf_token": token(client),
        "page": "learn/past",
        "revision": 1,
        "language": "cy",
        "title": "Gynt",
        "seen": "{}",
    }
    assert client.post(f"/sites/{slug}/pages/languages", data=form).status_code == 303
    assert "cy: Gynt" in file() and services.store.get(slug).text == MAP
    services.sites.undo(slug, services.sites.last_step(services.store.get(slug)).after)  # type: ignore[union-attr]
    assert file() == LEARN.decode()
    sent = {"text": MAP, "edit": {"edit": "move-page", "key": "learn/how", "parent": None, "index": 0}}
    done = client.post(f"/sites/{slug}/map/edit", json=sent, headers=headers).get_json()
    save = {"text": done["text"], "revision": 1, "moves": done["moves"], "files": done["files"]}
    services.store.put_files(slug, {"maps/learn.yaml": LEARN + b"# theirs\n"})
    refused = client.put(f"/sites/{slug}/map/text", json=save, headers=headers)
    assert refused.status_code == 409 and refused.get_json()["file"] == "maps/learn.yaml"
    assert services.store.get(slug).text == MAP and file().endswith("# theirs\n"), "nothing of it was done"
    services.store.put_files(slug, {"maps/learn.yaml": LEARN})
    for _ in range(2):  # an answer may be lost on its way, and then it is sent again
        assert client.put(f"/sites/{slug}/map/text", json=save, headers=headers).status_code == 200
        save["revision"] = services.store.get(slug).revision
    assert "how" not in file() and services.store.contents(slug)["how"].text == "Text", "content follows its page"
    icon, svg = "files/own.svg", '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><path d="M0 0h1"/></svg>'
    sent_file = {"icon": (io.BytesIO(svg.encode()), "own.svg")}
    added = client.post(f"/sites/{slug}/map/icon", data=sent_file, headers=headers).get_json()["added"]
    for name, was, now, answer in (
        ("files/a.css", "", "p{}", 422),
        (icon, "", "<svg>", 422),
        (icon, "", added, 200),  # it is there already
        (icon, added, "", 200),
    ):
        revision = services.store.get(slug).revision
        other = {**save, "moves": [], "revision": revision, "files": [[name, was, now]]}
        got = client.put(f"/sites/{slug}/map/text", json=other, headers=headers)
        assert got.status_code == answer, (name, now, got.text)
        assert (icon in services.store.files(slug)) is bool(now), "Undo of the entry takes its icon away"


def test_a_fault_of_an_edit_is_no_page_that_is_gone(
    client: FlaskClient, services: Services, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    slug = services.store.make("Mill", MAP, {}, "", files=FILES).slug

    def faulty(*_: object) -> None:
        raise KeyError("some key")

    monkeypatch.setattr(NamePage, "change", faulty)
    sent = {"text": MAP, "edit": {"edit": "name-page", "key": "visit", "name": "V"}}
    with caplog.at_level(logging.ERROR):
        answer = client.post(f"/sites/{slug}/map/edit", json=sent, headers={"X-CSRFToken": token(client)})
    assert answer.status_code == 500 and "Something went wrong in Basilica" in answer.get_json()["message"]
    assert "some key" in caplog.text


MENU = """pages:
  home: {path: /, title: Mill}
  visit: {title: Visit, pages: {hours: Hours}}
  tides: Tides
menus:
  main:
    # what is first
    auto:
      # not all
      except: tides
  footer:
    - home
    # the tides
    - group: More
      class: more
      items:
        - page: tides
    # out
    - url: https://out.example # far
      # its name
      label: Out
"""


def test_comments_of_an_automatic_menu_outlive_it() -> None:
    text = after(SetEntry("main", 1, {"label": "V"}, write_out=True), text=MENU).text
    assert "    # what is first\n    # not all\n    - home\n" in text and "- page: visit\n      label: V\n" in text


def test_an_entry_becomes_one_of_another_kind_in_its_place() -> None:
    welsh = "      label: Out\n      cy:\n        # in Welsh\n        label: Allan # far\n        note: Nodyn\n"
    told = "site: {languages: [en, cy]}\n" + MENU.replace("      label: Out\n", welsh).replace(
        "title: Mill", "title: Mill, cy: Melin"
    )
    text = after(SetEntry("footer", 3, {}, labels={"cy": "Mas"}), text=told).text
    assert "      cy:\n        # in Welsh\n        label: Mas # far\n        note: Nodyn\n" in text
    text = after(SetEntry("footer", 3, {"url": "", "page": "visit"}), text=MENU).text
    assert "    # out\n    - page: visit # far\n      # its name\n      label: Out\n" in text


def test_a_group_goes_with_its_last_page_by_name() -> None:
    edited = after(DeletePage("tides"), text=MENU)
    assert "removed the group More, which is empty without it" in edited.words and "More" not in edited.text
    under = MENU.replace("except: tides", "under: visit")
    assert refusal(DeletePage("visit"), text=under).startswith(
        "The menu main has the pages under Visit and nothing else."
    )


def test_an_entry_has_its_label_in_every_language_in_its_form(client: FlaskClient, services: Services) -> None:
    text = (
        "site: {name: X, languages: [en, cy]}\npages:\n  home: {path: /, title: X, cy: Y}\n  visit: V\n"
        "menus:\n  main:\n    - home\n    - group: More\n      cy: {group: Mwy, note: Nodyn}\n      items: [visit]\n"
    )
    slug = services.store.make("X", text, {}, "").slug
    shown = client.get(f"/sites/{slug}/map/entry?menu=main&number=1").text
    assert 'name="label-in-cy" value="Mwy" lang="cy"' in shown and "Cymraeg" in shown
    sent = {
        "text": text,
        "edit": {"edit": "set-entry", "menu": "main", "number": 1, "words": {}, "labels": {"cy": "Rhagor"}},
    }
    answer = client.post(f"/sites/{slug}/map/edit", json=sent, headers={"X-CSRFToken": token(client)}).get_json()
    assert "cy: {group: Rhagor, note: Nodyn}\n" in answer["text"], "other words in the language stay"
    assert "labels" not in answer["text"]
