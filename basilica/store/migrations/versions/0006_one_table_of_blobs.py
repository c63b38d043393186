"""Texts and files in one table of blobs; digests of maps; what belongs to a site goes with it; the key that signs
sessions is a file beside the database.

Revision ID: 0006
Revises: 0005
"""

from __future__ import annotations

import hashlib
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def _of_a_site() -> sa.Column[Any]:
    return sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False)


def upgrade() -> None:
    op.rename_table("blob", "text_blob")
    op.create_table(
        "blob",
        sa.Column("sha", sa.String, primary_key=True),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
    op.execute("INSERT INTO blob (sha, data) SELECT sha, CAST(text AS BLOB) FROM text_blob")
    op.execute("INSERT OR IGNORE INTO blob (sha, data) SELECT sha, data FROM file_data")
    for table in ("site", "version"):
        op.execute(f"ALTER TABLE {table} ADD COLUMN map_digest VARCHAR NOT NULL DEFAULT ''")
        _digest_maps(table)
    with op.batch_alter_table("site") as site:
        site.alter_column("folder_digests", type_=sa.JSON)
    _make_anew(
        "version",
        "id, site_id, text, note, saved_at, impact, map_digest, contents, contents_digest, files, files_digest",
        sa.Column("id", sa.Integer, primary_key=True),
        _of_a_site(),
        sa.Column("text", sa.Text, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("saved_at", sa.DateTime, nullable=False),
        sa.Column("impact", sa.String, nullable=False),
        sa.Column("map_digest", sa.String, nullable=False),
        sa.Column("contents", sa.JSON, nullable=False),
        sa.Column("contents_digest", sa.String, nullable=False),
        sa.Column("files", sa.JSON, nullable=False),
        sa.Column("files_digest", sa.String, nullable=False),
    )
    _make_anew(
        "content",
        "id, site_id, key, name, text, archived",
        sa.Column("id", sa.Integer, primary_key=True),
        _of_a_site(),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("text", sa.Text, nullable=False),
        sa.Column("archived", sa.Boolean, nullable=False),
        sa.UniqueConstraint("site_id", "key", "archived"),
    )
    _make_anew(
        "file",
        "id, site_id, name, sha",
        sa.Column("id", sa.Integer, primary_key=True),
        _of_a_site(),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("sha", sa.String, sa.ForeignKey("blob.sha"), nullable=False),
        sa.UniqueConstraint("site_id", "name"),
    )
    for table in ("text_blob", "file_data", "secret"):
        op.drop_table(table)


def downgrade() -> None:
    raise NotImplementedError("Texts and files would have to be told apart again.")


def _digest_maps(table: str) -> None:
    connection = op.get_bind()
    for number, text in connection.execute(sa.text(f"SELECT id, text FROM {table}")).all():
        digest = hashlib.sha256(text.encode()).hexdigest()
        values = {"digest": digest, "id": number}
        connection.execute(sa.text(f"UPDATE {table} SET map_digest = :digest WHERE id = :id"), values)


def _make_anew(table: str, columns: str, *parts: Any) -> None:
    """SQLite cannot change what refers to another table: it is made anew, and filled from the old one."""
    op.create_table(f"{table}_anew", *parts)
    op.execute(f"INSERT INTO {table}_anew ({columns}) SELECT {columns} FROM {table}")
    op.drop_table(table)
    op.rename_table(f"{table}_anew", table)
    op.create_index(f"ix_{table}_site_id", table, ["site_id"])
