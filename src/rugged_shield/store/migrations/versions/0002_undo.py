"""Undo and redo: edits say what they take back, record lines can be voided."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    """Add the columns; what was there before are plain edits and standing lines."""
    with op.batch_alter_table("edit") as table:
        table.add_column(sa.Column("kind", sa.String(8), nullable=False, server_default="edit"))
        table.add_column(sa.Column("ref", sa.Integer()))
    with op.batch_alter_table("record") as table:
        table.add_column(
            sa.Column("voided", sa.Boolean(), nullable=False, server_default=sa.false())
        )
