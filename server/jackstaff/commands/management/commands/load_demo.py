from typing import Any

from jackstaff.commands.management.recordscommand import RecordsCommand
from jackstaff.demo import load as demo


class Command(RecordsCommand):
    help = "Make the demo account and its frames from Vardsund."

    def handle(self, *args: Any, **options: Any) -> None:
        demo.load()
        self.stdout.write(f"Demo account '{demo.ACCOUNT}', password '{demo.PASSWORD}'.")
