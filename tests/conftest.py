"""A real server on its own data, for whatever asks over HTTP."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from tools.serving import Server, serving

OTHER_PASSWORD = "two-pairs-of-gloves"


@pytest.fixture(scope="session")
def server(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """The application with the demo account and four others."""
    data = tmp_path_factory.mktemp("data")
    (data / "password").write_text(OTHER_PASSWORD)
    accounts = (
        ["add_account", name, "--password-from", str(data / "password")] for name in ("edda", "joar", "runa", "sanna")
    )
    with serving(data, *accounts) as running:
        yield running
