from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import CommandError

from jackstaff.records.keeping import CannotKeep, in_a_file, sound
from jackstaff.records.management.recordscommand import RecordsCommand


class Command(RecordsCommand):
    help = "Look whether the database is whole, and bring its tables up to this build."

    def handle(self, *args: Any, **options: Any) -> None:
        if in_a_file(settings.DATABASES["default"]["ENGINE"]):
            try:
                sound(settings.DATA_DIR)
            except CannotKeep as error:
                raise CommandError(str(error)) from error
        call_command("migrate", verbosity=0)
        # Sessions that have ended.
        call_command("clearsessions")
