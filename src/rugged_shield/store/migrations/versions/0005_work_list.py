"""What the work list shows is kept beside each job; a job can be put away or into the bin."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    """Three columns; nothing that was there changes."""
    with op.batch_alter_table("job") as job:
        job.add_column(sa.Column("place", sa.String(8), nullable=False, server_default=""))
        job.add_column(sa.Column("shown", sa.JSON(), nullable=True))
        job.add_column(sa.Column("shown_of", sa.String(40), nullable=False, server_default=""))
