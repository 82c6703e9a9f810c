from typing import Any

from jackstaff.records import demo
from jackstaff.records.management.recordscommand import RecordsCommand


class Command(RecordsCommand):
    help = "Make the demo account and its frames from Vardsund."

    def handle(self, *args: Any, **options: Any) -> None:
        demo.load()
        self.stdout.write(f"Demo account '{demo.ACCOUNT}', password '{demo.PASSWORD}'.")
