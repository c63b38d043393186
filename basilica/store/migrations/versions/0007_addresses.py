"""The addresses of each site that were handed out.

Revision ID: 0007
Revises: 0006
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.create_table(
        "address",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False),
        sa.Column("address", sa.String, nullable=False),
        sa.UniqueConstraint("site_id", "address"),
    )
    op.create_index("ix_address_site_id", "address", ["site_id"])
