"""A list on paper ↔ a map: indented lists and tables, read into items and written from a site."""

from basilica.core.exchange.csv_table import looks_like_table, read_table, write_table
from basilica.core.exchange.indented_list import read_list, write_list
from basilica.core.exchange.list_from_site import items_from
from basilica.core.exchange.list_items import Item, ItemKind
from basilica.core.exchange.map_writer import map_of
from basilica.core.exchange.new_map import blank_map, site_section
from basilica.core.rules.finding import Finding

__all__ = [
    "Item",
    "ItemKind",
    "blank_map",
    "items_from",
    "map_of",
    "read_list",
    "read_list_or_table",
    "read_table",
    "site_section",
    "write_list",
    "write_table",
]


def read_list_or_table(text: str) -> tuple[tuple[Item, ...], tuple[Finding, ...]]:
    """The items of a text that is either, and what could not be taken of it."""
    return read_table(text) if looks_like_table(text) else read_list(text)
