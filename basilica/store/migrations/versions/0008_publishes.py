"""Targets of sites, and what was published to them.

Revision ID: 0008
Revises: 0007
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "target",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("settings", sa.JSON, nullable=False),
        sa.UniqueConstraint("site_id", "name"),
    )
    op.create_index("ix_target_site_id", "target", ["site_id"])
    op.create_table(
        "publish",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id", ondelete="CASCADE")),
        sa.Column("place", sa.String, nullable=False),
        sa.Column("target", sa.String, nullable=False),
        sa.Column("published_at", sa.DateTime, nullable=False),
        sa.Column("version", sa.String, nullable=False),
        sa.Column("version_id", sa.Integer),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("reason", sa.String, nullable=False),
        sa.Column("summary", sa.String, nullable=False),
        sa.Column("files", sa.JSON, nullable=False),
    )
    op.create_index("ix_publish_site_id", "publish", ["site_id"])
    op.create_index("ix_publish_place", "publish", ["place"])
