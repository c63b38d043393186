"""Kept states with their content; sites set aside, and sites of folders; content of deleted pages."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "blob",
        sa.Column("sha", sa.String, primary_key=True),
        sa.Column("text", sa.Text, nullable=False),
    )
    with op.batch_alter_table("site") as site:
        site.add_column(sa.Column("contents_mark", sa.String, nullable=False, server_default=""))
        site.add_column(sa.Column("aside_at", sa.DateTime))
        site.add_column(sa.Column("folder", sa.String))
        site.add_column(sa.Column("synced", sa.Text))
        site.create_unique_constraint("site_folder", ["folder"])
    with op.batch_alter_table("kept_state") as state:
        state.add_column(sa.Column("contents", sa.Text, nullable=False, server_default="{}"))
        state.add_column(sa.Column("reach", sa.String, nullable=False, server_default=""))
        state.add_column(sa.Column("contents_mark", sa.String, nullable=False, server_default=""))
    # The unique constraint has no name in SQLite, so the table is made again.
    op.rename_table("content", "content_old")
    op.create_table(
        "content",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id"), nullable=False),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("text", sa.Text, nullable=False),
        sa.Column("aside", sa.Boolean, nullable=False, server_default=sa.false()),
        sa.UniqueConstraint("site_id", "key", "aside"),
    )
    op.execute(
        "INSERT INTO content (id, site_id, key, name, text) SELECT id, site_id, key, name, text FROM content_old"
    )
    op.drop_table("content_old")
    op.create_index("ix_content_site_id", "content", ["site_id"])


def downgrade() -> None:
    raise NotImplementedError("Kept states would lose their content.")
