"""Own templates: what they write is proved, and whatever they say they reach nothing and come to an end."""

from __future__ import annotations

import re
from contextlib import suppress
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from selectolax.lexbor import LexborHTMLParser

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.map.map_files import Files
from basilica.core.outputs.static_site import Renderer
from basilica.core.own_templates.sandbox import FILTERS, TESTS, Function, TemplateEnvironment, TemplateRefused, run
from basilica.core.own_templates.template_set import NAMES, starting, templates_of
from basilica.core.own_templates.views import VALUES, documented
from basilica.core.rules.finding import Finding
from basilica.store.folders import Source, read_source
from tests.core.help import markdown

RECIPES = Path(__file__).parents[2] / "docs/recipes"
MAP = """\
site: {name: Mill, base: 'https://mill.example', language: cy}
pages:
  home: {path: /}
  visit: {title: Visit & more, pages: {hours: Hours, access: {title: Access, kind: section, pages: {ramp: Ramp}}}}
  shop: Shop
menus:
  main: [home, {page: visit, icon: clock, note: Soon, items: [hours, access: [ramp]]}, {group: More, items: [shop#x]},
    separator, {url: "https://other.example", label: Other, class: far, above: 500}]
  footer: [home, shop]
breadcrumbs: {shorten: 3, home: icon}
"""
TEXTS = {"home": "A", "visit": "B", "shop": "## X {#x}\n"}


def with_templates(source: Source, *names: str, **own: str) -> tuple[Finding, dict[str, bytes]]:
    texts = {**{name: starting(name) for name in names}, **own}
    files = {**source.files, **{f"templates/{name}.html": text.encode() for name, text in texts.items()}}
    made = build(compile_map(source.map, Files(files).with_heads(source.contents)), source.contents)
    return made.findings, {file.path: file.data for file in made.files}


@pytest.mark.long
@pytest.mark.parametrize("names", [*((name,) for name in NAMES), NAMES])
def test_the_templates_to_begin_from_write_what_is_built_in(names: tuple[str, ...], demo: Source) -> None:
    odd = Source("", MAP.encode(), markdown(**TEXTS), ())
    for source in (demo, odd):
        findings, files = with_templates(source, *names)
        assert files == with_templates(source)[1]
        assert not any(finding.stops for finding in findings)


LINK = "if entry.address"
FIRST = "{% if loop.first %}{{ item(entry, opens) }}{% endif %}"
BROKEN = [
    ("menu", ' aria-current="{{ entry.current }}"', "", "wrong-current", "entry.current"),
    ("menu", "{{ item(entry, opens) -}}", FIRST, "menu-differs", LINK),
    ("menu", '<a{{ button(entry) }} href="{{ entry.address }}"', '<a href="/{{ entry.label }}"', "menu-differs", LINK),
    ("menu", "<a{{ button(entry) }}", '<a tabindex="-1"{{ button(entry) }}', "template-hides", LINK),
    ("menu", "<ul{% if id %}", "<ul hidden{% if id %}", "template-hides", LINK),
    ("menu", "entry.note }}", "entry.nota }}", "template-unusable", "entry.nota"),
    ("menu", "{{ entry.address }}", "{{ entry.address|upper }}", "template-unusable", LINK),
    ("menu", "{% macro note(entry) %}", "{% macro note(entry) %}{% include 'x' %}", "template-unusable", "include"),
    ("breadcrumbs", ' aria-current="page"', "", "wrong-breadcrumbs", "one.current"),
    ("breadcrumbs", "in end %}", "in end|reverse %}", "wrong-breadcrumbs", "one.current"),
    ("header", '<a class="b-skip" href="#content">{{ phrases["skip"] }}</a>\n', "", "skip-link", ""),
    ("header", "{{ main_menu }}", "", "menu-differs", ""),
    ("header", 'phrases["skip"]', 'phrases["skipp"]', "template-unusable", "skipp"),
    ("header", "{{ name ", "{{ file('gone.svg') }}{{ name ", "template-unusable", "gone.svg"),
    ("footer", "{{ menu -}}", "", "menu-differs", ""),
    ("footer", "<footer", "<div", "part-differs", ""),
    ("menu", "</nav>", "", "template-tags", "<nav"),
    ("header", "</header>", "</header></section>", "template-tags", "</section>"),
    ("footer", "</footer>", "", "template-tags", "<footer"),
    ("page", "{{ html_attributes }}", "", "language", ""),
    ("page", "{{ head }}", "", "template-unusable", ""),
]
"""A template, what is replaced in it by what, the finding, and what stands in the line of it (empty: the first)."""


@pytest.mark.long
@pytest.mark.parametrize(("name", "old", "new", "code", "at"), BROKEN)
def test_what_a_template_breaks_is_a_finding_at_its_line(
    name: str, old: str, new: str, code: str, at: str, demo: Source
) -> None:
    text = starting(name)
    assert old in text
    text = text.replace(old, new)
    findings, _ = with_templates(demo, **{name: text})
    found = [finding for finding in findings if finding.code == code]
    assert found and {finding.file for finding in found} == {f"templates/{name}.html"}
    assert len(set(found)) == len(found)  # the demo has two languages, and one of each template
    lines = text.splitlines()
    assert at in lines[found[0].line - 1] if at else found[0].line == 1


@pytest.mark.parametrize(
    ("menu", "why"),
    [
        ("<nav{0}><ul hidden>{1}</ul></nav>", "`hidden`"),
        ("<nav{0} inert><ul>{1}</ul></nav>", "`inert`"),
        ("<nav{0}><div aria-hidden='true'><ul>{1}</ul></div></nav>", "`aria-hidden`"),
        ("<nav{0}><ul style='DISPLAY : none'>{1}</ul></nav>", "`style`"),
        ("<nav{0}><dialog><ul>{1}</ul></dialog></nav>", "`dialog`"),
        ("<nav{0}><div popover id=p><ul>{1}</ul></div></nav>", "`popover`"),
        ("<nav{0}><button popovertarget=p>M</button><div popover id=p><ul>{1}</ul></div></nav>", ""),
        ("<nav{0}><details><summary>M</summary><ul>{1}</ul></details></nav>", ""),
        ("<nav{0}><dialog open><ul>{1}</ul></dialog></nav>", ""),
    ],
)
def test_what_only_a_mouse_reaches(menu: str, why: str) -> None:
    item = "{% for entry in menu.entries %}<li><a href='{{ entry.address }}'>{{ entry.label }}</a></li>{% endfor %}"
    text = menu.format(" aria-label='{{ menu.label }}'", item)
    files = Files({"templates/menu.html": text.encode()})
    renderer = Renderer(compile_map("site: {name: M}\npages: {home: {path: /}, a: A}\n", files).plan, {})  # type: ignore[arg-type]
    renderer.page("home")
    hidden = [finding.message for finding in renderer.findings() if finding.code == "template-hides"]
    assert [why in message for message in hidden] == ([True] if why else [])


@pytest.mark.parametrize(
    ("css", "why"),
    [
        (".deep { display: none }", "`.deep { display: none }` hides"),
        ("nav > .deep { visibility: hidden }", "hides"),
        ("@layer own { .deep { display: none } }", "hides"),
        # Shown to a mouse alone: WCAG 2.2, 2.1.1.
        (".deep { display: none } nav:hover .deep { display: block }", "hides"),
        (".deep { display: none } nav:focus-within .deep { display: block }", ""),
        (".deep { display: none } [aria-expanded=true] + .deep { display: block }", "hides"),
        (".deep { display: none } @media (min-width: 40em) { .deep { display: block } }", ""),
        (".js .deep { display: none }", ""),  # a class that a script sets
        ("@media print { .deep { display: none } }", ""),
        (".deep::before { display: none } .deep:empty { display: none }", ""),
        (".deep { position: absolute; clip-path: inset(50%) }", ""),  # a key reaches what is only not seen
        ("nav .deep:is(ul, ol) { display: none } .deep { display: grid }", ""),
        (".de\\:ep { display: none }", ""),
    ],
)
def test_what_a_style_of_ones_own_hides(css: str, why: str) -> None:
    item = "{% for entry in menu.entries %}<li><a href='{{ entry.address }}'>{{ entry.label }}</a></li>{% endfor %}"
    files = Files(
        {
            "templates/menu.html": f"<nav aria-label='{{{{ menu.label }}}}'><ul class=deep>{item}</ul></nav>".encode(),
            "files/own.css": css.encode(),
        }
    )
    plan = compile_map("site: {name: M}\npages: {home: {path: /}, a: A}\nhead: {styles: [own.css]}\n", files).plan
    assert plan is not None
    renderer = Renderer(plan, {})
    renderer.page("home")
    hidden = [finding.message for finding in renderer.findings() if finding.code == "template-hides"]
    assert [why in message for message in hidden] == ([True] if why else []), hidden


def test_lists_may_be_wrapped_in_elements_of_ones_own() -> None:
    entry = (
        '<a href="{{ e.address }}"{% if e.current %} aria-current="{{ e.current }}"{% endif %}><b>{{ e.label }}</b></a>'
    )
    below = "{% if e.entries %}<section><ul>{{ loop(e.entries) }}</ul></section>{% endif %}"
    text = (
        '<x-menu><nav aria-label="{{ menu.label }}"><div><ul>{% for e in menu.entries recursive %}'
        f"<li><div>{{% if e.address %}}{entry}{{% else %}}<button>{{{{ e.label }}}}</button>{{% endif %}}</div>{below}"
        "</li>{% endfor %}</ul></div></nav></x-menu>"
    )
    source = Source("", MAP.replace("    separator, ", "    ").encode(), markdown(**TEXTS), ())
    findings, _ = with_templates(source, menu=text)
    assert {finding.code for finding in findings if finding.file} <= {"vague-label"}


REFUSED = [
    ("{{ ''.__class__ }}", "__class__"),
    ("{{ ''['__class__'] }}", "__class__"),
    ("{{ site.__init__ }}", "__init__"),
    ("{{ f.call }}", ".call"),
    ("{{ site['__dict__'] }}", "__dict__"),
    ("{{ items.append }}", ".append"),
    ("{{ 'a'.format }}", ".format"),
    ("{{ self }}", "template"),
    ("{{ self.__init__ }}", "__init__"),
    ("{{ f.__globals__ }}", "__globals__"),
    ("{% macro m() %}{% endmacro %}{{ m._func }}", "_func"),
    ("{% for i in items %}{{ loop._iterable }}{% endfor %}", "_iterable"),
    ("{{ items|map('upper') }}", "map"),
    ("{{ items|attr('x') }}", "attr"),
    ("{{ 'x'|safe }}", "safe"),
    ("{{ 'a' * 9 }}", "*"),
    ("{{ 2 ** 9 }}", "**"),
    ("{{ {'a': 1} }}", "{…}"),
    ("{{ items[0:1] }}", "[:]"),
    ("{% include 'menu.html' %}", "include"),
    ("{% import 'menu.html' as m %}", "import"),
    ("{% extends 'menu.html' %}", "extends"),
    ("{% block a %}{% endblock %}", "block"),
    ("{{ range(9) }}", "range"),
    ("{{ cycler }}", "cycler"),
    ("{{ f(*items) }}", "one by one"),
    ("{{ f(1) }}", "texts"),
    ("{{ f() }}", "another number"),
    ("{{ site() }}", "cannot be called"),
    ("{{ items }}", "list is where"),
    ("{{ site }}", "site is where"),
    ("{{ [[1]] }}", "inside a list"),
    ("{{ 1 % 0 }}", "divided"),
    ("{{ 'a' + 'b' }}", "whole numbers"),
    ("{{ environment }}", "environment"),
    ("{% if %}", "cannot be read"),
]
ENDLESS = [
    "{% macro m() %}{{ m() }}{% endmacro %}{{ m() }}",
    "{% macro m(x) %}{{ m(x ~ x) }}{% endmacro %}{{ m('aaaa') }}",
    "{% macro m(x) %}{% set y %}{{ x }}{{ x }}{% endset %}{{ m(y) }}{% endmacro %}{{ m('aaaa') }}",
    "{% macro m(x) %}{{ m([x, x]|join) }}{% endmacro %}{{ m('aaaa') }}",
    "{% macro m(x) %}{{ m(x|replace('a', 'aa')) }}{% endmacro %}{{ m('aaaa') }}",
    "{% for a in items recursive %}{{ loop(items) }}{{ loop(items) }}{% endfor %}",
    "{% for a in items %}" * 20 + "x" + "{% endfor %}" * 20,
    "{% for a in items %}" * 15 + "x" * 5000 + "{% endfor %}" * 15,
    "{{ 'a'|replace('', 'b') }}",
    *(
        "{% macro m(x, n) %}{% if n %}{{ m(x ~ x, n - 1) }}{% else %}"
        + "{% for a in items %}" * 8
        + f"{{% if {compared} %}}{{% endif %}}"
        + "{% endfor %}" * 8
        + "{% endif %}{% endmacro %}{{ m('a', 16) }}"
        for compared in ("(x ~ 'b') in x", "[x] == [x]", "'b' not in x", "x < x")
    ),
]
VALUES_GIVEN = {"items": ("a", "b", "c", "d"), "f": Function(lambda text: text)}


def written(text: str) -> str:
    from basilica.core.own_templates.views import Address, ShownSite

    site = ShownSite("Mill", "en", "", Address("/"))  # type: ignore[arg-type]
    return run(TemplateEnvironment().from_text(text, "t.html"), {**VALUES_GIVEN, "site": site})


@pytest.mark.parametrize(("text", "said"), REFUSED)
def test_a_template_reaches_nothing(text: str, said: str) -> None:
    with pytest.raises(TemplateRefused) as refused:
        written("\n\n" + text)
    assert said in str(refused.value) + refused.value.remedy and refused.value.line == 3


@pytest.mark.parametrize("text", ENDLESS)
def test_a_template_comes_to_an_end(text: str) -> None:
    with pytest.raises(TemplateRefused) as refused:
        written(text)
    assert re.search("steps|characters|without end", str(refused.value))


def test_what_a_template_can_say() -> None:
    assert written("{% for i in items %}{{ loop.index }}{{ i|upper }}{{ ', ' if not loop.last }}{% endfor %}") == (
        "1A, 2B, 3C, 4D"
    )
    assert written("{{ '<b>' }}{{ site.name }}{{ items|join('<') }}") == "&lt;b&gt;Milla&lt;b&lt;c&lt;d"
    assert (
        written("{% set x = ['a' if false, 'b']|select|join(' ') %}{{ x|length }}{{ f('y') }}{{ 7 % 2 + 1 }}") == "1y2"
    )
    assert written("{{ nothing|default('z') }}{{ nothing is defined }}{{ items|length is even }}") == "zFalseTrue"


NAMED = ["items", "site", "site.name", "f", "f('x')", "loop", "self", "m", "x", "nothing", "items[0]"]
ASKED = ["name", "__class__", "index", "cycle", "call", "entries", "room"]
FILTERED = [*FILTERS, "map", "attr('__class__')", "replace('a', 'aa')"]
VALUE = st.recursive(
    st.sampled_from([*NAMED, "'a'", "1", "[x, 'b']"]),
    lambda inner: st.one_of(
        st.builds("{} ~ {}".format, inner, inner),
        st.builds("({} {} {})".format, inner, st.sampled_from(["+", "-", "%", "==", "<", "in", "and", "*"]), inner),
        st.builds("{}|{}".format, inner, st.sampled_from(FILTERED)),
        st.builds("{} is {}".format, inner, st.sampled_from([*TESTS, "mapping"])),
        st.builds("{}.{}".format, inner, st.sampled_from(ASKED)),
        st.builds("{}({})".format, inner, inner),
        st.builds("{}[{}]".format, inner, inner),
        st.builds("({} if {} else {})".format, inner, inner, inner),
    ),
    max_leaves=6,
)
BODY = st.recursive(
    st.one_of(st.builds("{{{{ {} }}}}".format, VALUE), st.sampled_from(["text", "<b>", "{{", "%}", "{#", "\0"])),
    lambda inner: st.one_of(
        st.builds("{}{}".format, inner, inner),
        st.builds("{{% for x in {} recursive %}}{}{{{{ loop(items) }}}}{{% endfor %}}".format, VALUE, inner),
        st.builds("{{% if {} %}}{}{{% endif %}}".format, VALUE, inner),
        st.builds("{{% set x = {} %}}{}".format, VALUE, inner),
        st.builds("{{% set x %}}{}{{% endset %}}{}".format, inner, inner),
        st.builds("{{% macro m(x) %}}{}{{% endmacro %}}{{{{ m({}) }}}}".format, inner, VALUE),
        st.builds("{{% with x = {} %}}{}{{% endwith %}}".format, VALUE, inner),
    ),
    max_leaves=8,
)


def test_an_empty_page_template_says_what_it_lacks_and_nothing_else(demo: Source) -> None:
    findings, files = with_templates(demo, page="")
    assert files == {}
    assert [(finding.code, finding.line) for finding in findings if finding.stops] == [("template-unusable", 1)]


@pytest.mark.long
@given(BODY)
def test_whatever_a_template_says_it_writes_text_or_is_refused(text: str) -> None:
    found = ""
    with suppress(TemplateRefused):
        found = written(text)
    assert not re.search(r"object at 0x|<class|<function|<module|Function\(", found)


def test_names_and_sizes_of_templates() -> None:
    files = Files(
        {"templates/menus.html": b"", "templates/sub/menu.html": b"", "templates/footer.html": b"x" * 100_001}
    )
    problems = {problem.file: problem.message for problem in templates_of(files).problems}
    assert set(problems) == set(files) and "100,000" in problems["templates/footer.html"]


def test_everything_that_templates_see_is_told() -> None:
    assert set(VALUES) == set(NAMES)
    for view, meaning, values in documented():
        assert meaning, view
        assert all(words for _, _, words in values), view


@pytest.mark.parametrize("recipe", [path.name for path in sorted(RECIPES.iterdir())])
def test_recipes_hold(recipe: str) -> None:
    source = read_source(RECIPES / recipe / "site.yaml")
    files = Files({"files/site.css": b"", **source.files})  # what Tailwind builds; a test in the browser has it built
    made = build(compile_map(source.map, files), source.contents)
    assert [f"{f.code}: {f.message}" for f in made.findings if f.code != "no-content"] == []
    page = LexborHTMLParser(next(file.data for file in made.files if file.path == "boats/index.html"))
    assert [link.attributes["href"] for link in page.css("nav [aria-current=page][href]")] == ["/boats/"]


@pytest.mark.long
def test_a_menu_that_would_be_written_for_hours_is_refused_with_a_remedy() -> None:
    pages = "".join(f"  p{number}: P{number}\n" for number in range(505))
    text = f"site: {{name: M, base: 'https://m.example'}}\npages:\n  home: {{path: /}}\n{pages}menus: {{main: auto}}\n"
    files = Files({"templates/menu.html": starting("menu").encode()})
    made = build(compile_map(text, files), {})
    # That the menu is on no page then is not said as well.
    found = [finding for finding in made.findings if finding.stops]
    assert [(finding.code, finding.file, finding.line) for finding in found] == [
        ("template-unusable", "templates/menu.html", 1)
    ]
    assert made.results is None and not made.files
    assert "506 entries" in found[0].message and "`auto: 1`" in found[0].remedy
