"""The words of the screens: versions that are saved, sites and content that are archived, digests.

Revision ID: 0004
Revises: 0003
"""

from __future__ import annotations

from alembic import op

revision = "0004"
down_revision = "0003"

RENAMED = {
    "site": {
        "good_text": "last_valid_text",
        "contents_mark": "contents_digest",
        "files_mark": "files_digest",
        "aside_at": "archived_at",
    },
    "kept_state": {
        "kept_at": "saved_at",
        "reach": "impact",
        "contents_mark": "contents_digest",
        "files_mark": "files_digest",
    },
    "content": {"aside": "archived"},
}


def upgrade() -> None:
    for table, columns in RENAMED.items():
        for old, new in columns.items():
            # SQLite renames in place, in indexes and constraints too; nothing is copied.
            op.execute(f'ALTER TABLE {table} RENAME COLUMN "{old}" TO "{new}"')
    op.rename_table("kept_state", "version")
    op.execute("UPDATE file SET name = 'page-' || name WHERE name LIKE 'layouts/%'")
    op.execute("""UPDATE version SET files = replace(files, '"layouts/', '"page-layouts/')""")


def downgrade() -> None:
    op.execute("UPDATE file SET name = substr(name, 6) WHERE name LIKE 'page-layouts/%'")
    op.execute("""UPDATE version SET files = replace(files, '"page-layouts/', '"layouts/')""")
    op.rename_table("version", "kept_state")
    for table, columns in RENAMED.items():
        for old, new in columns.items():
            op.execute(f'ALTER TABLE {table} RENAME COLUMN "{new}" TO "{old}"')
