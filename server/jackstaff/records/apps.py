"""The application that Django is told of."""

from django.apps import AppConfig
from django.db.backends.signals import connection_created


class RecordsConfig(AppConfig):
    """The application that holds the tables."""

    name = "jackstaff.records"

    def ready(self) -> None:
        """Before the first connection: which file each of them has opened is to be known."""
        from .transactions import opened  # noqa: PLC0415 (models are not loaded before)

        connection_created.connect(opened)
