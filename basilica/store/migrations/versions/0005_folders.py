"""Sites of folders: what each file was when the folder and the site were last the same.

Revision ID: 0005
Revises: 0004
"""

from __future__ import annotations

import hashlib
import json

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.execute("ALTER TABLE site ADD COLUMN folder_digests TEXT NOT NULL DEFAULT '{}'")
    op.execute("ALTER TABLE site ADD COLUMN edited_here BOOLEAN NOT NULL DEFAULT 0")
    connection = op.get_bind()
    found = connection.execute(sa.text("SELECT id, synced FROM site WHERE folder IS NOT NULL")).all()
    for site, synced in found:
        # Of content and files nothing was known: they count as they stand, as they did until now.
        digests = {"site.yaml": _sha(synced or "")}
        mine = {"site": site}
        for name, text in connection.execute(
            sa.text("SELECT name, text FROM content WHERE site_id = :site AND NOT archived"), mine
        ):
            digests[name] = _sha(text)
        digests |= dict(connection.execute(sa.text("SELECT name, sha FROM file WHERE site_id = :site"), mine).all())
        connection.execute(
            sa.text("UPDATE site SET folder_digests = :digests, edited_here = 1 WHERE id = :site"),
            {"digests": json.dumps(digests), **mine},
        )
    op.execute("ALTER TABLE site DROP COLUMN synced")


def downgrade() -> None:
    op.execute("ALTER TABLE site ADD COLUMN synced TEXT")
    op.execute("UPDATE site SET synced = text WHERE folder IS NOT NULL")
    op.execute("ALTER TABLE site DROP COLUMN folder_digests")
    op.execute("ALTER TABLE site DROP COLUMN edited_here")


def _sha(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()
