from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import CommandError, CommandParser

from jackstaff.backups.copies import CannotKeep, copies, must_be_in_a_file, restore
from jackstaff.commands.management.recordscommand import RecordsCommand


class Command(RecordsCommand):
    help = "Put a copy back (default: the newest); what is there now is set aside beside it. Stop the server first."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("copy", nargs="?", type=Path, help="the folder that backup named")

    def handle(self, *args: Any, **options: Any) -> None:
        copy = options["copy"] or next(iter(copies(settings.DATA_DIR / "backups")), None)
        if copy is None:
            raise CommandError("There is no copy to put back. Name one: make restore FROM=folder")
        try:
            must_be_in_a_file(settings.DATABASES["default"]["ENGINE"])
            put = restore(copy, settings.DATA_DIR, datetime.now(UTC))
        except CannotKeep as error:
            raise CommandError(str(error)) from error
        # A copy of an older build comes along to this one's tables.
        call_command("bring_up")
        frames, accounts = put.rows.get("records_frame", 0), put.rows.get("auth_user", 0)
        self.stdout.write(f"{put.folder} is back: {frames} frames of {accounts} accounts.")
