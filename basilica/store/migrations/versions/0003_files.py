"""Files beside a map, of sites and of their kept states."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.create_table(
        "file_data",
        sa.Column("sha", sa.String, primary_key=True),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
    op.create_table(
        "file",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("site_id", sa.Integer, sa.ForeignKey("site.id"), nullable=False),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("sha", sa.String, sa.ForeignKey("file_data.sha"), nullable=False),
        sa.UniqueConstraint("site_id", "name"),
    )
    op.create_index("ix_file_site_id", "file", ["site_id"])
    with op.batch_alter_table("site") as site:
        site.add_column(sa.Column("files_mark", sa.String, nullable=False, server_default=""))
    with op.batch_alter_table("kept_state") as state:
        state.add_column(sa.Column("files", sa.Text, nullable=False, server_default="{}"))
        state.add_column(sa.Column("files_mark", sa.String, nullable=False, server_default=""))


def downgrade() -> None:
    raise NotImplementedError("Sites would lose their files.")
