from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import CommandError, CommandParser

from jackstaff.backups.copies import CannotKeep, back_up, must_be_in_a_file
from jackstaff.commands.management.recordscommand import RecordsCommand


class Command(RecordsCommand):
    help = "Copy everything that is kept, while the server runs; the copy is checked before it counts."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--into", type=Path, help="the folder of copies (default: backups in the data folder)")
        parser.add_argument("--keep", type=int, default=14, help="how many of them stay (default 14)")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["keep"] < 1:
            raise CommandError("Keep at least one copy.")
        into = options["into"] or settings.DATA_DIR / "backups"
        try:
            must_be_in_a_file(settings.DATABASES["default"]["ENGINE"])
            copy = back_up(settings.DATA_DIR, into, datetime.now(UTC), options["keep"])
        except CannotKeep as error:
            raise CommandError(str(error)) from error
        frames, accounts = copy.rows.get("records_frame", 0), copy.rows.get("auth_user", 0)
        self.stdout.write(f"{copy.folder}: {frames} frames of {accounts} accounts, checked.")
