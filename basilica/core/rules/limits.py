"""How large a page map may be. Past a limit stands a finding, never a crash."""

TEXT_BYTES = 2 * 1024 * 1024
PAGES = 20_000
LEVELS = 12
LABEL_CHARACTERS = 300
SITE_NAME_CHARACTERS = 120
"""Of the name that a site has in the list of sites."""
NESTING = 64
"""Brackets and indentations inside one another that the reader follows; the map language needs fewer."""
SEGMENT_BYTES = 240
"""Longest piece of an address: file systems stop at 255 bytes, and a suffix needs room."""
ADDRESS_CHARACTERS = 2_000
"""Longest route path. A sitemap's ``loc`` stays under 2,048 characters (sitemaps.org protocol 0.9)."""
MENU_LINKS = 20_000_000
"""Pages times menu entries: what a build would have to write out."""
FINDINGS = 1_000
"""Findings that one stage lists; the rest are counted."""
SUGGESTIONS = 50
"""Nearest names looked up in one reading, so that many unknown names stay cheap."""

FILE_BYTES = 10 * 1024 * 1024
"""The largest file beside a map."""
FILES = 20_000
"""Files beside a map, as many as a site that is brought in may have."""
ALL_FILES_BYTES = 200 * 1024 * 1024
"""All files beside a map together."""

IMPORTED_FILES = 20_000
ALL_IMPORTED_BYTES = 200 * 1024 * 1024
IMPORTED_PAGES_BYTES = 40 * 1024 * 1024
"""What a site that exists may have to be brought in: all files, and the pages among them, which are compared with each
other in memory."""

OLD_ADDRESSES = 100_000
"""Old addresses that one list may have."""

ELEMENT_DEPTH = 512
"""Elements of a built page in one another; browsers follow about as many."""
CONTENT_CHARACTERS = 500_000
"""The longest text of a page that is typed in the application."""
PART_CHARACTERS = 200_000
"""The longest part, with all that stands in it."""
PART_DEPTH = 40
"""Parts in one another."""
PAGE_CHARACTERS = 5_000_000
"""What parts may add to the text of one page."""
LAYOUT_CHARACTERS, LAYOUT_PLACES = 100_000, 100
"""The longest layout, and the most parts and slots that one names."""
TEMPLATE_CHARACTERS, TEMPLATE_DEPTH = 100_000, 60
"""The longest own template, and how far what it says may stand in one another."""
TEMPLATE_STEPS, TEMPLATE_OUTPUT = 200_000, 2_000_000
"""What one run of an own template may do, and write, in characters."""
TABLE_CHARACTERS = 50_000_000
"""What a table may make as the text of pages, all together."""

WINDOW_WIDTH = 10_000
"""The widest window that a map can speak of, CSS px."""
