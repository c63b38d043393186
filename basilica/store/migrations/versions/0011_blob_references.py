"""What refers to a blob has a row, so that what nothing refers to can be collected.

Revision ID: 0011
Revises: 0010
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    op.add_column("blob", sa.Column("unused_since", sa.DateTime))
    op.create_index("ix_file_sha", "file", ["sha"])
    for owner in ("version", "publish"):
        table = f"{owner}_blob"
        column, sha = f"{owner}_id", sa.Column("sha", sa.String, sa.ForeignKey("blob.sha"), primary_key=True)
        owned = sa.Column(column, sa.Integer, sa.ForeignKey(f"{owner}.id", ondelete="CASCADE"), primary_key=True)
        op.create_table(table, owned, sha)
        op.create_index(f"ix_{table}_sha", table, ["sha"])
    for owner, listed, value in (
        ("version", "contents", "json_extract(each.value, '$[1]')"),
        ("version", "files", "each.value"),
        ("publish", "files", "each.value"),
    ):
        op.execute(
            f"INSERT OR IGNORE INTO {owner}_blob SELECT {owner}.id, {value} FROM {owner},"
            f" json_each({owner}.{listed}) AS each WHERE {value} IN (SELECT sha FROM blob)"
        )
