"""Steps hold the contents of several pages; those of before hold one in another form, and are forgotten.

Revision ID: 0010
Revises: 0009
"""

from __future__ import annotations

from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.execute("DELETE FROM step")
