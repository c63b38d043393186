"""A site that exists in two languages: one map for both, every page at its address, and each in its own words."""

from __future__ import annotations

import re

import pytest
from selectolax.lexbor import LexborHTMLParser

from basilica.core.exchange.site_import import analyse
from basilica.core.shared.output_file import File
from basilica.services.site_imports import SiteImport, import_site
from basilica.services.site_stays import SiteStay, stay_site
from tests.core.test_audit import OTHERS, SECTIONS, bilingual, sound


def files_of(landmarks: bool, **changed: str) -> tuple[File, ...]:
    pages = dict(bilingual(landmarks)) | changed
    return (*(File(name, text.encode()) for name, text in pages.items() if text), *OTHERS)


@pytest.fixture(scope="module", params=[True, False], ids=["landmarks", "old"])
def landmarks(request: pytest.FixtureRequest) -> bool:
    return bool(request.param)


@pytest.fixture(scope="module")
def found(landmarks: bool) -> SiteImport:
    return import_site(files_of(landmarks))


def labels(page: bytes, selector: str) -> list[str]:
    return [" ".join(one.text().split()) for one in LexborHTMLParser(page).css(selector)]


def test_every_page_is_where_it_was_in_its_own_words(found: SiteImport, landmarks: bool) -> None:
    assert found.answering == len(found.answers) == 61  # with the map that is shown in a frame
    built = {file.path: file.data for file in found.build.files}
    for name, old in bilingual(landmarks):
        new, before = built[name], old.encode()
        assert labels(new, "h1") == labels(before, "h1")
        assert LexborHTMLParser(new).css_first("html").attributes["lang"] == ("cy" if "cy/" in name else "en-GB")
        # The menu has the words of its language, and the switch is that of the map: it stands in it no more.
        was = labels(before, "header a" if landmarks else "#nav a")[:-1]
        assert labels(new, ".b-main > ul > li > a") == was
        assert labels(new, ".b-languages a") == ["English" if "cy/" in name else "Cymraeg"]
        assert labels(new, ".b-breadcrumbs a") == labels(before, "[aria-label=Breadcrumb] a, .crumbs a")
        assert "since 1782" in old or "1782" in " ".join(labels(new, ".b-footer"))
        assert labels(new, "main p")[0] == labels(before, "#content p")[0]
        assert not {"Cymraeg", "English"} & set(labels(new, "main a"))


def stayed(files: tuple[File, ...]) -> SiteStay:
    site = analyse(files)
    assert site is not None
    stay = stay_site(site, files)
    assert not stay.compiled.stops
    return stay


def test_the_menus_of_several_sections_are_told_apart(landmarks: bool) -> None:
    stay = stayed((*(File(name, text.encode()) for name, text in sound(landmarks)), *OTHERS))
    assert len(stay.changes) == 30 and stay.mended == ()
    menus = {region for one in stay.changes for region in re.findall(rb"basilica: entries ([a-z0-9-]+)", one.after)}
    assert len(menus) == 1 + len(SECTIONS)


@pytest.mark.long
def test_it_can_stay_as_it_is_too(landmarks: bool) -> None:
    files = files_of(landmarks)
    stay = stayed(files)
    assert len(stay.changes) == 60 and stay.mended == () and stay.marked == 60
    by_name = {one.file: one.after.decode() for one in stay.changes}
    for name in ("mill/the-pond.html", "cy/mill/the-pond.html"):
        regions = re.findall(r"<!-- basilica: ([a-z0-9 -]+) -->", by_name[name])
        assert {"entries main", "breadcrumbs", "content"} <= set(regions)
        assert len([region for region in regions if region.startswith("entries ")]) == 2


@pytest.mark.long
def test_each_language_may_write_its_menus_and_breadcrumbs_its_own_way(landmarks: bool) -> None:
    """Nothing but marks changes then as well, and a new entry comes to each language as that writes them."""
    items = re.compile(r"<li>(?=<a)")
    pages = {name: items.sub('<li class="llinell">', text) for name, text in bilingual(landmarks) if "cy/" in name}
    pages = {name: text.replace(" &gt; ", " &raquo; ") for name, text in pages.items()}
    files = files_of(landmarks, **pages)
    stay = stayed(files)
    assert (len(stay.changes), stay.mended, stay.marked) == (60, (), 60)
    marks = re.compile(rb"<!-- /?basilica: [a-z0-9 -]+ -->")
    plainly = {one.file: marks.findall(one.after) for one in stayed(files_of(landmarks)).changes}
    before = {file.path: file.data for file in files}
    for one in stay.changes:
        assert marks.sub(b"", one.after) == before[one.file]
        assert marks.findall(one.after) == plainly[one.file]
    plan = stay.compiled.plan
    assert plan is not None
    markup = {tag: one.site.inlay.menus["main"] for tag, one in plan.languages.items()}
    assert "llinell" in markup["cy"].entry and "llinell" not in markup["en-GB"].entry


def with_one_alone(landmarks: bool, file: str) -> tuple[File, ...]:
    """The site with one more page in Welsh, which is no translation; the menu of its section leads to it."""
    pages = {name: text for name, text in bilingual(landmarks) if "cy/" in name}
    entry = re.compile(r'<li[^>]*><a href="../mill/the-pond.html"[^>]*>Eht Dnop</a></li>')
    pond, weir = "Eht Dnop", "Eht Riew"
    plain = '<li><a href="../mill/the-pond.html">Eht Dnop</a></li>'
    own = pages["cy/mill/the-pond.html"].replace("../../mill/the-pond.html", "../../index.html")
    own = own.replace(pond, weir).replace("the-pond.html", "the-weir.html")
    for name, text in pages.items():
        if "../mill/the-wheel.html" in text:
            pages[name] = entry.sub(
                lambda found: f"{found[0]}\n{plain.replace('pond', 'weir').replace(pond, weir)}", text
            )
    here = re.compile(r'<li[^>]*><a href="../mill/the-weir.html"[^>]*>Eht Riew</a></li>')
    pages[file] = here.sub(lambda found: f"{plain}\n{found[0]}", own)
    return files_of(landmarks, **pages)


@pytest.mark.long
def test_a_page_in_one_language_alone_is_in_the_map_and_its_menus_there(landmarks: bool) -> None:
    files = with_one_alone(landmarks, "cy/mill/the-weir.html")
    found = import_site(files)
    assert found.answering == len(found.answers) == 62
    built = {file.path: file.data for file in found.build.files}
    page = built["cy/mill/the-weir.html"]
    assert labels(page, "h1") == ["Eht Riew"] and "mill/the-weir.html" not in built
    there = [labels(built[f"cy/mill/{name}.html"], ".b-section a") for name in ("the-pond", "the-weir", "the-loft")]
    assert there[0] == there[1] == there[2] and there[0][3:5] == ["Eht Dnop", "Eht Riew"]
    assert "Eht Riew" not in labels(built["mill/the-pond.html"], "a")
    assert [finding.message for finding in found.build.findings if finding.stops] == []
    stay = stayed(files)
    assert (len(stay.changes), stay.mended, stay.marked) == (61, (), 61)


def test_a_page_in_one_language_alone_may_stand_in_a_group() -> None:
    words = {
        "en": ("Home", "Learn", "Boats", "Tides", ""),
        "cy": ("Hafan", "Dysgu", "Cychod", "Llanw", "Gwyl"),
    }
    names = ("index.html", "", "boats.html", "tides.html", "feast.html")
    files = []
    for tag, (home, group, *others) in words.items():
        below = "".join(f"<li><a href={n}>{t}</a>" for n, t in zip(names[2:], others, strict=True) if t)
        menu = f"<ul id=nav><li><a href=index.html>{home}</a><li><span>{group}</span><ul>{below}</ul></ul>"
        folder = "cy/" if tag == "cy" else ""
        for name, title in zip(names, words[tag], strict=True):
            page = f"<html lang={tag}><head><title>{title}</title></head><body>{menu}<h1>{title}</h1><p>{title}: words."
            files += [File(f"{folder}{name}", page.encode())] if name and title else []
    found = import_site(tuple(files))
    built = {file.path: file.data for file in found.build.files}
    assert labels(built["cy/index.html"], ".b-main a") == ["Hafan", "Cychod", "Llanw", "Gwyl"]
    assert labels(built["index.html"], ".b-main a") == ["Home", "Boats", "Tides"] and "cy/feast.html" in built


@pytest.mark.long
def test_what_no_map_can_say_stays_and_is_said(landmarks: bool) -> None:
    """A page in another language beside its folder, or below one that is not there."""
    files = with_one_alone(landmarks, "more/the-weir.html")
    found = import_site(files)
    assert any("more/the-weir.html" in note and "Cymraeg" in note for note in found.moved.notes)
    before = {file.path: file.data for file in files}
    assert {file.path: file.data for file in found.build.files}["more/the-weir.html"] == before["more/the-weir.html"]
    assert found.moved.text.count("    cy:\n") >= 25


def test_a_language_that_no_map_can_say_loses_no_file() -> None:
    """Its pages lie in no folder with its tag; nor does its page for what is not there."""
    page = "<html lang={0}><head><title>{1}</title></head><body><p>Words of {1}.</p></body></html>"
    files = [File(f"{name}.html", page.format("en", name).encode()) for name in ("index", "boats", "tides", "404")]
    files += [File(f"de/{name}.html", page.format("de-AT", name).encode()) for name in ("mehr", "404")]
    found = import_site(tuple(files))
    built = {file.path: file.data for file in found.build.files}
    assert all(built[file.path] == file.data for file in files if file.path.startswith("de/"))


def test_each_language_may_have_a_folder_of_its_own() -> None:
    """The front door leads into the first; pages that do not say their translations are told by their files."""
    words = {"en": ("Home", "Boats", "Tides"), "cy": ("Hafan", "Cychod", "Llanw")}
    names = ("index.html", "boats.html", "tides.html")
    front = "<html><head><title>M</title><meta http-equiv=refresh content='0; url=en/'></head><body></body></html>"
    files = [File("index.html", front.encode())]
    for tag, titles in words.items():
        menu = "".join(f"<li><a href={name}>{title}</a>" for name, title in zip(names, titles, strict=True))
        for name, title in zip(names, titles, strict=True):
            head = f"<link rel=canonical href=https://m.example/{tag}/{name.removesuffix('index.html')}>"
            page = f"<html lang={tag}><head><title>{title}</title>{head}</head><body><ul id=nav>{menu}</ul><p>{title}."
            files.append(File(f"{tag}/{name}", page.encode()))
    found = import_site(tuple(files))
    assert "languages: [en, cy]" in found.moved.text and "language-prefix: all" in found.moved.text
    assert 'base: "https://m.example"' in found.moved.text
    assert found.answering == len(found.answers) == 7 and found.left == ()
    built = {file.path: file.data for file in found.build.files}
    for tag, titles in words.items():
        for name in names:
            assert labels(built[f"{tag}/{name}"], ".b-main a") == list(titles)
    stay = stayed(tuple(files))
    assert (len(stay.changes), stay.mended) == (6, ()) and {one.problem for one in stay.changes} == {""}


def test_a_language_that_was_copied_along_is_none_of_the_site() -> None:
    """Three pages of thirty say German, and are no versions of others: they are pages like all."""
    pages = dict(sound(True))
    for name in ("mill/the-pond.html", "mill/the-wheel.html", "people/press.html"):
        pages[name] = pages[name].replace('lang="en-GB"', 'lang="de"')
    site = analyse([*(File(name, text.encode()) for name, text in pages.items()), *OTHERS])
    assert site is not None and not site.versions and len(site.pages) == 31
    assert {(one.file, str(one.kind)) for one in site.drift} == {
        (name, "other language") for name in ("mill/the-pond.html", "mill/the-wheel.html", "people/press.html")
    }
