"""Runs migrations on the connection that the store hands over."""

from alembic import context

from basilica.store.tables import Table

context.configure(
    connection=context.config.attributes["connection"], target_metadata=Table.metadata, render_as_batch=True
)
with context.begin_transaction():
    context.run_migrations()
