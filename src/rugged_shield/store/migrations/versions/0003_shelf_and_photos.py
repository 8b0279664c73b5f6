"""A shelf of bikes and plates for the next job, and photos beside a job."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    """Two tables; nothing that was there changes."""
    op.create_table(
        "shelf",
        sa.Column("id", sa.String(40), primary_key=True),
        sa.Column("kind", sa.String(8), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("content", sa.JSON(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "photo",
        sa.Column("id", sa.String(40), primary_key=True),
        sa.Column("job_id", sa.String(40), sa.ForeignKey("job.id"), primary_key=True),
        sa.Column("jpeg", sa.LargeBinary(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_index("ix_photo_job_id", "photo", ["job_id"])
