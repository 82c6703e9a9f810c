from getpass import getpass
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import CommandError, CommandParser

from jackstaff.commands.management.recordscommand import RecordsCommand
from jackstaff.documents.kit import KIT
from jackstaff.records.account import Account


class Command(RecordsCommand):
    help = "Make accounts that can sign in: add_account NAME ... (asks for the password)."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("names", nargs="+", metavar="NAME")
        parser.add_argument("--password-from", help="read the password from this file instead of asking")

    def handle(self, *args: Any, **options: Any) -> None:
        names = [name.strip() for name in options["names"]]
        for name in names:
            if not name or Account.objects.filter(username=name).exists():
                raise CommandError(f"'{name}' is empty or taken. Choose another name.")
        if options["password_from"]:
            with open(options["password_from"], encoding="utf-8") as file:
                password = file.read().strip()
        else:
            password = getpass("Password: ")
            if password != getpass("Again: "):
                raise CommandError("The two passwords differ. Nothing was made.")
        try:
            for name in names:
                validate_password(password, Account(username=name))
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from error
        for name in names:
            KIT.start(Account.objects.create_user(name, password=password))
            self.stdout.write(f"Account '{name}' made.")
