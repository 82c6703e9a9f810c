from typing import Any

from django.contrib.auth.models import User

from jackstaff.records.management.recordscommand import RecordsCommand
from jackstaff.records.replication import begin_epoch
from jackstaff.records.writing import all_or_none


class Command(RecordsCommand):
    help = "Begin another epoch of every account's count, after a copy was put back by other means than make restore."

    def handle(self, *args: Any, **options: Any) -> None:
        accounts = User.objects.all()
        for account in accounts:
            with all_or_none(account):
                begin_epoch(account)
        self.stdout.write(f"{len(accounts)} accounts count in another epoch.")
