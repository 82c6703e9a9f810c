from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db import connection
from django.db.migrations.loader import MigrationLoader

from jackstaff.backups.copies import BEGUN, CannotKeep, give_back_space, in_a_file, sound
from jackstaff.commands.management.recordscommand import RecordsCommand
from jackstaff.demo.load import ACCOUNT
from jackstaff.records.account import Account


class Command(RecordsCommand):
    help = "Look whether the database is whole, and bring its tables up to this build."

    def handle(self, *args: Any, **options: Any) -> None:
        filed = in_a_file(settings.DATABASES["default"]["ENGINE"])
        if filed:
            try:
                sound(settings.DATA_DIR)
            except CannotKeep as error:
                raise CommandError(str(error)) from error
        if newer := _newer_migrations():
            raise CommandError(
                f"The records were written by a newer build ({', '.join(newer)}): this one would not know all of them."
                " Start the newer one, or put a copy of this build's time back (make restore FROM=folder)."
            )
        call_command("migrate", verbosity=0)
        if filed:
            (settings.DATA_DIR / BEGUN).touch(mode=0o600)
            connection.close()
            give_back_space(settings.DATA_DIR)
        # Sessions that have ended.
        call_command("clearsessions")
        if not settings.DEMO and Account.objects.filter(username=ACCOUNT).exists():
            self.stdout.write(f"The account {ACCOUNT} is here. Outside make demo its password opens nothing.")


def _newer_migrations() -> list[str]:
    """Return the migrations of the records that this build has never heard of."""
    loader = MigrationLoader(connection)
    unheard_of = set(loader.applied_migrations) - set(loader.disk_migrations)
    return sorted(name for app, name in unheard_of if app == "records")
