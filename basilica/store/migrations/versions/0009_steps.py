"""Steps that can be taken back.

Revision ID: 0009
Revises: 0008
"""

from __future__ import annotations

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.create_table(
        "step",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id", ondelete="CASCADE"), nullable=False),
        sa.Column("before", sa.String, nullable=False),
        sa.Column("after", sa.String, nullable=False),
        sa.Column("who", sa.String, nullable=False),
        sa.Column("words", sa.String, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
    op.create_index("ix_step_site_id", "step", ["site_id"])
