"""Whatever the vetting of layouts accepts can be rendered, with every branch taken both ways, and shows only text."""

from __future__ import annotations

from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from markupsafe import Markup

from basilica.core.build import build
from basilica.core.compile import compile_map
from basilica.core.content.layouts import layouts_of
from basilica.core.map.map_files import Files
from tests.core.help import HOME
from tests.hardening import TIMES

_SAID = st.sampled_from(
    [
        *("content", "page", "site", "slot", "part", "super", "reach", "super()", "self", "page.title", "page.lost"),
        *(
            'slot("a")',
            'part("header")',
            'slot("a") or page.title',
            'slot("a") and content',
            "not content",
            "site.name",
        ),
        *("loop", "1", '"x"', 'slot("a")("b")', "content()", "page.title.upper()", 'slot("a", "b")', "none"),
    ]
)
_PIECES = st.recursive(
    st.one_of(
        _SAID.map("{{{{ {} }}}}".format),
        st.sampled_from(["text ", '{% extends "plain" %}', '{% extends "other" %}', "{{ content }}", "{# note #}"]),
    ),
    lambda inner: st.one_of(
        st.builds("{{% if {} %}}{}{{% else %}}{}{{% endif %}}".format, _SAID, inner, inner),
        st.builds(
            "{{% block {} {}%}}{}{{% endblock %}}".format,
            st.sampled_from(["main", "foot", "x"]),
            st.sampled_from(["", "", "scoped ", "required "]),
            inner,
        ),
        st.lists(inner, max_size=4).map("".join),
    ),
    max_leaves=12,
)


def every_way(files: Files) -> list[str]:
    """Every layout that was accepted, with its slots, values and room for content there or not."""
    layouts = layouts_of(files)
    found = []
    for name, there, said, reach in product(layouts.good, *[(False, True)] * 3):
        text = Markup("filled") if there else Markup("")
        page = dict.fromkeys(("title", "label", "section", "description", "key"), "said" if said else "")
        site = {"name": "said" if said else ""}
        found.append(
            layouts.render(
                name, lambda _, t=text: t, lambda _, t=text: t, content=text, reach=reach, page=page, site=site
            )
        )
    return found


@settings(max_examples=300 * TIMES, deadline=None)
@given(_PIECES, _PIECES)
def test_what_is_accepted_renders(one: str, other: str) -> None:
    files = Files({"page-layouts/one.html": one.encode(), "page-layouts/other.html": other.encode()})
    for markup in every_way(files):
        assert not any(odd in markup for odd in ("&lt;function", "&lt;bound", "object at", "{&#39;", "Undefined"))
    compiled = compile_map(HOME + "layout: one\npages: {home: {path: /, title: Mill}}\n", files)
    assert build(compiled, {}).files or compiled.stops


@pytest.mark.parametrize(
    ("layout", "said"),
    [
        ("{{ content }}{{ page }}", "`page`"),
        ("{{ content }}{% if page.title %}{{ super() }}{% endif %}", "`super()`"),
        ('{% if page.title %}{% extends "plain" %}{% endif %}{{ content }}', "`extends`"),
        ('{% extends "plain" %}{% extends "plain" %}', "two others"),
        ("{{ content }}{{ slot }}", "`slot`"),
        ("{{ content }}{% block x %}{{ super() }}{% endblock %}", "`super()`"),
        ('{% extends "plain" %}{% block lost %}{{ super() }}{% endblock %}', "`super()`"),
        ("{{ content }}{% block x required %}{% endblock %}", "required"),
        ("{{ content }}{{ reach }}", "`reach`"),
    ],
)
def test_what_cannot_be_rendered_is_refused(layout: str, said: str) -> None:
    compiled = compile_map("pages: {home: {path: /}}", Files({"page-layouts/one.html": layout.encode()}))
    found = [finding for finding in compiled.findings if finding.file]
    assert [finding.code for finding in found] == ["layout-unread"] and said in found[0].message
