"""Jobs, their record and their edits."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    """Create the first slice's tables."""
    op.create_table(
        "job",
        sa.Column("id", sa.String(40), primary_key=True),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("facts", sa.JSON(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("updated_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "record",
        sa.Column("id", sa.Integer(), primary_key=True, autoincrement=True),
        sa.Column("job_id", sa.String(40), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("at", sa.String(40), nullable=False),
        sa.Column("joint", sa.String(60), nullable=False),
        sa.Column("step", sa.String(80), nullable=False),
        sa.Column("torque_nm", sa.Float()),
        sa.Column("km", sa.Float()),
        sa.Column("ref", sa.Integer()),
        sa.Column("reason", sa.String(400), nullable=False),
        sa.Column("overridden", sa.Boolean(), nullable=False),
        sa.UniqueConstraint("job_id", "seq", name="uq_record_job_seq"),
    )
    op.create_index("ix_record_job_id", "record", ["job_id"])
    op.create_table(
        "edit",
        sa.Column("id", sa.Integer(), primary_key=True, autoincrement=True),
        sa.Column("job_id", sa.String(40), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("key", sa.String(64), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("words", sa.String(400), nullable=False),
        sa.Column("changes", sa.JSON(), nullable=False),
        sa.UniqueConstraint("job_id", "key", name="uq_edit_job_key"),
    )
    op.create_index("ix_edit_job_id", "edit", ["job_id"])
