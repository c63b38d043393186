"""What the head of a page says."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from selectolax.lexbor import LexborNode

from basilica.core.site_reader.built_page import BuiltHead, CrumbData, Load
from basilica.core.site_reader.elements import text_of


def head_of(node: LexborNode) -> BuiltHead:
    """Everything that a head says."""
    head = BuiltHead()
    for child in node.iter():
        tag, attributes = child.tag, child.attributes
        if tag == "title":
            head.titles += 1
            head.title = text_of(child) if head.title is None else head.title
        elif tag == "meta":
            _meta(head, attributes)
        elif tag == "link":
            _head_link(head, attributes)
        elif tag == "script":
            if attributes.get("src"):
                head.loads.append(Load("script", attributes["src"] or ""))
            elif attributes.get("type") == "application/ld+json" and not head.data:
                head.data = _data(child.text() or "")
        elif tag == "base":
            head.base = attributes.get("href")
    return head


def _meta(head: BuiltHead, attributes: Mapping[str, str | None]) -> None:
    name, content = (attributes.get("name") or "").lower(), attributes.get("content") or ""
    if name == "description" and head.description is None:
        head.description = " ".join(content.split())
    elif name == "robots":
        head.robots = content.lower()
    elif (attributes.get("http-equiv") or "").lower() == "refresh":
        head.refresh = content.partition("=")[2].strip(" '\"") or None


def _head_link(head: BuiltHead, attributes: Mapping[str, str | None]) -> None:
    href, rel = attributes.get("href"), (attributes.get("rel") or "").lower().split()
    if not href or (not rel and attributes.get("rev")):
        return  # what a page says of its maker, backwards, is no address to be followed
    if "canonical" in rel:
        head.canonical = href
    if "alternate" in rel and attributes.get("hreflang"):
        head.translations.append((attributes["hreflang"] or "", href))
    if {"stylesheet", "icon", "preload", "modulepreload", "manifest", "apple-touch-icon"} & set(rel):
        head.loads.append(Load("link", href))
    else:
        head.links.append(href)


def _data(text: str) -> tuple[CrumbData, ...]:
    try:
        data: Any = json.loads(text)
        if data["@type"] == "BreadcrumbList":
            items = data["itemListElement"]
            return tuple(CrumbData(i["position"], str(i["name"]), _address(i.get("item"))) for i in items)
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError):
        pass
    return ()


def _address(item: Any) -> str | None:
    """The address of a breadcrumb in the data: a text, or a thing whose name it is."""
    if isinstance(item, dict):
        item = item.get("@id")
    return item if isinstance(item, str) else None
