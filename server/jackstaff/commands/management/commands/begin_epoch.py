from typing import Any

from jackstaff.commands.management.recordscommand import RecordsCommand
from jackstaff.documents.replication import begin_epoch
from jackstaff.records.account import Account
from jackstaff.records.transactions import all_or_none


class Command(RecordsCommand):
    help = "Begin another epoch of every account's count, after a copy was put back by other means than make restore."

    def handle(self, *args: Any, **options: Any) -> None:
        accounts = Account.objects.all()
        for account in accounts:
            with all_or_none(account):
                begin_epoch(account)
        self.stdout.write(f"{len(accounts)} accounts count in another epoch.")
