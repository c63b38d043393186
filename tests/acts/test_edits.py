"""Edits of the map, lines 1 to 5: through what the Map workspace sends."""

from __future__ import annotations

from difflib import unified_diff
from typing import Any

import pytest
from flask.testing import FlaskClient

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.edits import EditRejected
from basilica.core.edits.accounted_words import word_account
from basilica.core.edits.commands import DRAWN
from basilica.core.shared.conservation import account
from basilica.services.all_services import Services
from tests.web.test_web import SLUG, token

MAP = """site: {name: Mill, base: https://mill.example, languages: [en, cy]}
pages:
  home: {path: /, title: Mill, label: Home, cy: Melin}
  visit:
    title: Visit
    cy: {title: Ymweld, path: ymweld}
    pages:
      hours: {title: Hours, cy: {title: Oriau, path: oriau}}
      # by bus, and on foot
      way:
        title: Way
        cy:
          title: Ffordd
          path: ffordd
      # the last of the visit
  # the tides
  tides: {title: Tides, cy: Llanw}
"""
WRITTEN = (
    MAP
    + """menus:
  main:
    - home
    # come
    - page: visit
      label: Come
      cy: {label: Dewch}
      icon: clock
      items: [hours]
    - group: Learn
      cy: Dysgu
      items:
        - tides
        # more to come
    - {label: Shop, url: "https://shop.example", cy: {label: Siop}}
"""
)


class Map:
    """A site that was handed out, as the Map workspace edits it."""

    def __init__(self, client: FlaskClient, services: Services, text: str) -> None:
        self.client, self.text = client, text
        self.site = services.store.make("Mill", text, {}, "First")
        plan = services.maps.compiled(text, self.site).plan
        assert plan is not None
        services.addresses.handed_out(self.site.slug, plan)

    def post(self, what: str, **sent: Any) -> tuple[int, dict[str, Any]]:
        headers = {"X-CSRFToken": token(self.client)}
        sent = {"text": self.text, **sent}
        answer = self.client.post(f"/sites/{self.site.slug}/map/{what}", json=sent, headers=headers)
        return answer.status_code, answer.get_json()

    def edit(self, tag: str, **fields: Any) -> dict[str, Any]:
        status, answer = self.post("edit", edit={"edit": tag, **fields})
        assert status == 200, answer
        self.text = answer["text"]
        return answer


@pytest.mark.parametrize("words", [{"class": "wide"}, {"icon": "house"}, {"note": "By the mill"}])
@pytest.mark.parametrize(("number", "kept"), [(1, "cy: {label: Dewch}"), (5, "cy: {label: Siop}")])
def test_1_an_entry_that_is_edited_keeps_its_other_languages(
    client: FlaskClient, services: Services, words: dict[str, str], number: int, kept: str
) -> None:
    here = Map(client, services, WRITTEN)
    here.edit("set-entry", menu="main", number=number, words=words)
    assert kept in here.text
    here.edit("set-entry", menu="main", number=number, words={"label": "Other", **dict.fromkeys(words, "")})
    assert kept in here.text


def test_1_a_copy_of_a_menu_and_an_entry_in_a_group_have_their_languages(
    client: FlaskClient, services: Services
) -> None:
    here = Map(client, services, WRITTEN)
    here.edit("make-group", menu="main", number=1, label="All")
    here.edit("new-menu", name="second", like="main")
    assert here.text.count("Dewch") == here.text.count("Siop") == 2


def test_1_no_edit_removes_what_it_does_not_name() -> None:
    """The account of every edit is drawn up in one place, by what the map is made of and not by a list of words."""
    before = {
        "pages": {"home": {"title": "A", "new-word": {"xx": "B"}}},
        "menus": {"main": [{"page": "home", "q": "1"}]},
    }
    after = {"pages": {"home": "A"}, "menus": {"main": ["home"]}}
    lost = word_account((before, ["# a"]), (after, []), (["home"], ["home"]), {}, ())
    assert set(lost.lost) == {
        ("pages", "home", "new-word"),
        ("pages", "home", "new-word", "xx"),
        ("menus", "main", "entries", "page:home", "q"),
        ("#", "# a"),
    }
    named = word_account((before, []), (after, []), (["home"], ["home"]), {}, [("pages", "home"), ("menus", "main")])
    assert named.holds and set(named.dropped) == set(lost.lost) - {("#", "# a")}
    assert not word_account((after, ["# a"]), (after, []), (["home"], ["home"]), {}, ()).holds
    assert account("aab", "ab").lost == {"a": 1}


def test_2_a_list_changes_what_it_says_otherwise_and_nothing_else(client: FlaskClient, services: Services) -> None:
    text = services.store.get(SLUG).text
    listed = client.get(f"/sites/{SLUG}/map/listed.txt").text
    headers = {"X-CSRFToken": token(client)}

    def ask(listed: str, *declined: str) -> dict[str, Any]:
        sent = {"text": text, "list": listed, "place": "all", "declined": declined}
        answer: dict[str, Any] = client.post(f"/sites/{SLUG}/map/list", json=sent, headers=headers).get_json()
        return answer

    same = ask(listed)
    assert same["empty"] and same["text"] == text and "Nothing: the pages and menus are as they are" in same["shown"]
    other = listed.replace("  Opening hours |", "  Opening times |", 1).replace(
        "[in no menu]\n", "[in no menu]\n  Loans\n"
    )
    other = other.replace("Flour\n  Recipes\n    Sea loaf\n", "**Kitchen**\n  Flour\n    Recipes\n      Sea loaf\n")
    other = other.replace("News\n  The new sluice gate | /news/new-sluice-gate\n", "")
    answer = ask(other)
    added, gone = _lines_that_differ(text, answer["text"])
    assert [line.strip() for line in added] == [
        "title: Opening times",
        "loans: Loans",
        "- group: Kitchen",
        "items:",
        "- flour",
    ]
    assert {"title: Opening hours", "news:", "- news"} < {line.strip() for line in gone}
    assert not [line for line in gone if "hours" in line and "title" not in line]
    assert answer["words"] == "Imported a list: 4 changes" and ["news", None] in answer["moves"]
    left = ask(other, "remove:main:news", "add::Loans")
    added, gone = _lines_that_differ(text, left["text"])
    assert "- group: Kitchen" in "".join(added) and not [
        line for line in (*added, *gone) if "oan" in line or "ews" in line
    ]


def _lines_that_differ(before: str, after: str) -> tuple[list[str], list[str]]:
    """The lines that came, and those that are gone."""
    lines = [*unified_diff(before.splitlines(), after.splitlines(), n=0, lineterm="")][2:]
    return [line[1:] for line in lines if line[0] == "+"], [line[1:] for line in lines if line[0] == "-"]


@pytest.mark.long
@pytest.mark.parametrize(
    ("tag", "fields", "address", "leads"),
    [
        ("move-page", {"key": "visit/way", "parent": None, "index": 9}, "/cy/ymweld/ffordd/", "/cy/ffordd/"),
        ("rename-id", {"key": "tides", "id": "sea"}, "/cy/tides/", "/cy/sea/"),
        (
            "translate-page",
            {"key": "visit/hours", "language": "cy", "words": {"path": "amserau"}},
            "/cy/ymweld/oriau/",
            "/cy/ymweld/amserau/",
        ),
        ("set-settings", {"settings": [{"path": ["path"], "value": "ebb"}], "key": "tides"}, "/cy/tides/", "/cy/ebb/"),
    ],
)
def test_3_an_address_in_every_language_leads_on(
    client: FlaskClient, services: Services, tag: str, fields: dict[str, Any], address: str, leads: str
) -> None:
    here = Map(client, services, MAP)
    before = here.text
    here.edit(tag, **fields)
    built = build(compile_map(here.text), {}).files
    files = {file.path: file.data.decode() for file in built if not file.path.endswith(".woff2")}
    assert f"{address},{leads},301" in files["redirects.csv"]
    assert leads in files[f"{address[1:]}index.html"]
    assert f'"{address}"' in files["redirects.nginx.conf"] and f'"={address}"' in files["redirects.apache.conf"]
    if tag in ("move-page", "rename-id"):  # and back: nothing is left of it
        back = {"key": "way", "parent": "visit", "index": 1} if tag == "move-page" else {"key": "sea", "id": "tides"}
        here.edit(tag, **back)
        assert compile_map(here.text).findings == compile_map(before).findings
        assert "/cy/" not in here.text.replace("/cy/ffordd/", "").replace("/cy/sea/", "")


@pytest.mark.parametrize(
    ("kind", "words"), [("url", {"url": "https://a.example", "label": "A"}), ("group", {"group": "G"})]
)
@pytest.mark.parametrize("menu", ["", "menus: {main: auto}\n", "menus:\n  main:\n    auto: 2   # two\n"])
def test_4_a_menu_that_follows_the_pages_goes_on_following_them(
    client: FlaskClient, services: Services, menu: str, kind: str, words: dict[str, str]
) -> None:
    here = Map(client, services, MAP + menu)
    more = {"first": "tides"} if kind == "group" else {}
    here.edit("add-entry", menu="main", parent=None, kind=kind, words=words, **more)
    assert "- auto" in here.text or "[auto, " in here.text
    assert ("# two" in here.text) == ("# two" in menu)
    here.edit("remove-from-menu", menu="main", number=1)
    assert "except: visit" in here.text
    here.edit("add-page", title="News", parent=None, index=9)
    plan = compile_map(here.text).plan
    assert plan is not None
    shown = [entry.page for entry in plan.menus["main"].entries]
    assert "news" in shown and "visit" not in shown and shown.count("tides") == 1
    here.edit("add-to-menu", menu="main", key="visit", parent=None, index=9)
    assert "except" not in here.text


def test_4_entries_are_written_out_only_when_one_agrees(client: FlaskClient, services: Services) -> None:
    here = Map(client, services, MAP)
    under = {
        "edit": "add-entry",
        "menu": "main",
        "parent": 1,
        "kind": "url",
        "words": {"url": "https://a.example", "label": "A"},
    }
    for asked in (under, {"edit": "set-entry", "menu": "main", "number": 1, "words": {"label": "Come"}}):
        status, answer = here.post("edit", edit=asked)
        assert status == 422 and answer["asks"] == "write-out" and "follows the pages" in answer["message"]
    assert here.post("edit", edit={**under, "write_out": True})[0] == 200
    deeper = here.edit("add-page", title="Sundays", parent="visit/hours", index=0, menu="main")
    assert "menus" not in here.text and "not in the menu main" in deeper["words"]


def test_4_a_page_that_goes_into_a_new_group_is_in_the_menu_once(client: FlaskClient, services: Services) -> None:
    here = Map(client, services, WRITTEN)
    here.edit("add-entry", menu="main", parent=None, kind="group", words={"group": "G"}, first="visit")
    assert here.text.count("page: visit") == 1 and "cy: {label: Dewch}" in here.text and "# come" in here.text
    done = here.edit("add-entry", menu="main", parent=None, kind="group", words={"group": "H"}, first="tides")
    assert "removed the group Learn" in done["words"]


def test_5_comments_stay_with_what_they_are_about(client: FlaskClient, services: Services) -> None:
    here = Map(client, services, WRITTEN)
    here.edit("move-page", key="tides", parent="visit", index=9)
    lines = [line.strip() for line in here.text.splitlines()]
    assert lines.index("# the last of the visit") < lines.index("# the tides")
    assert lines[lines.index("# the tides") + 1].startswith("tides:")
    here.edit("move-entry", menu="main", number=3, parent=None, index=0)
    lines = [line.strip() for line in here.text.splitlines()]
    assert lines.index("# more to come") == lines.index("- tides") + 1 < lines.index("# come")
    here.edit("move-entry", menu="main", number=4, parent=None, index=9)
    lines = [line.strip() for line in here.text.splitlines()]
    assert lines[lines.index("# come") + 1] == "- page: visit"


def test_every_edit_that_comes_from_a_browser_is_accounted_for(monkeypatch: pytest.MonkeyPatch) -> None:
    """An edit that drops a word beside its own is refused, whichever it is: the account is drawn up for all of them."""
    from basilica.core.edits import command, edit
    from basilica.core.edits.commands.name_page import NamePage

    assert NamePage in DRAWN
    compiled = compile_map(WRITTEN)
    kept = command.EditInProgress.accountable
    monkeypatch.setattr(
        command.EditInProgress,
        "accountable",
        lambda work: ({**kept(work)[0], "facts": str(work.chosen)}, kept(work)[1]),
    )
    edit(compiled, WRITTEN, NamePage("tides", "Sea"))
    monkeypatch.setattr(
        command.EditInProgress, "accountable", lambda work: ({**kept(work)[0], str(work.chosen): "x"}, kept(work)[1])
    )
    with pytest.raises(EditRejected, match="would also remove `None`"):
        edit(compiled, WRITTEN, NamePage("tides", "Sea"))


def test_a_copy_of_a_page_has_addresses_of_its_own_in_every_language(client: FlaskClient, services: Services) -> None:
    here = Map(client, services, WRITTEN)
    here.edit("duplicate-page", key="visit")
    plan = compile_map(here.text).plan
    assert plan is not None and plan.languages["cy"].routes["visit-copy"].path == "/cy/visit-copy/"
    assert plan.languages["cy"].site.pages["visit-copy"].title == "Ymweld (copy)"


def test_an_outside_entry_is_removed_however_its_address_is_written(client: FlaskClient, services: Services) -> None:
    here = Map(client, services, WRITTEN)
    here.edit("remove-from-menu", menu="main", number=5)
    assert "shop.example" not in here.text
