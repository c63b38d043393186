"""Sites, kept states, content."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "site",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("slug", sa.String, nullable=False, unique=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("made_at", sa.DateTime, nullable=False),
        sa.Column("text", sa.Text, nullable=False),
        sa.Column("good_text", sa.Text, nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("saved_at", sa.DateTime, nullable=False),
    )
    op.create_table(
        "kept_state",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id"), nullable=False),
        sa.Column("text", sa.Text, nullable=False),
        sa.Column("note", sa.String, nullable=False),
        sa.Column("kept_at", sa.DateTime, nullable=False),
    )
    op.create_index("ix_kept_state_site_id", "kept_state", ["site_id"])
    op.create_table(
        "content",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id"), nullable=False),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("text", sa.Text, nullable=False),
        sa.UniqueConstraint("site_id", "key"),
    )
    op.create_index("ix_content_site_id", "content", ["site_id"])
    op.create_table(
        "secret",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("key", sa.String, nullable=False),
    )


def downgrade() -> None:
    for table in ("secret", "content", "kept_state", "site"):
        op.drop_table(table)
