"""The record is events: kind and payload; facts say which version of their form they are in."""

import json

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"

SPARSE = ("joint", "step", "torque_nm", "km", "ref", "reason", "overridden")


def upgrade() -> None:
    """Every line becomes an event with all it had; ``upgrade_1`` then gives it its form."""
    for table in ("job", "shelf"):
        with op.batch_alter_table(table) as altered:
            altered.add_column(
                sa.Column("facts_version", sa.Integer(), nullable=False, server_default="1")
            )
    event = op.create_table(
        "event",
        sa.Column("id", sa.Integer(), primary_key=True, autoincrement=True),
        sa.Column("job_id", sa.String(40), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(40), nullable=False),
        sa.Column("at", sa.String(40), nullable=False),
        sa.Column("payload", sa.JSON(), nullable=False),
        sa.Column("voided", sa.Boolean(), nullable=False, server_default=sa.false()),
        sa.UniqueConstraint("job_id", "seq", name="uq_event_job_seq"),
    )
    op.create_index("ix_event_job_id", "event", ["job_id"])
    connection = op.get_bind()
    columns = "id, job_id, seq, kind, at, voided, " + ", ".join(SPARSE)
    for row in connection.execute(sa.text(f"SELECT {columns} FROM record ORDER BY id")).mappings():
        payload = {name: row[name] for name in SPARSE}
        payload["overridden"] = bool(payload["overridden"])
        kept = {name: row[name] for name in ("id", "job_id", "seq", "kind", "at")}
        op.execute(
            event.insert().values(
                **kept, voided=bool(row["voided"]), payload=json.loads(json.dumps(payload))
            )
        )
    op.drop_table("record")
