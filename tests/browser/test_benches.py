"""Run every bench once with its smallest size, so that none of them rots."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from bench import drawing, finder, firstload, hostile, light, load, log, offline, run, table, timing, watching, years
from playwright.sync_api import Browser
from tools.serving import Server

from jackstaff_core.sky.made_up import SkyKind

PICTURE = log.picture


@pytest.fixture(autouse=True)
def rows(monkeypatch: pytest.MonkeyPatch) -> list[tuple[str, str, str]]:
    """The table of figures, empty; nothing is written into the docs."""
    kept: list[tuple[str, str, str]] = []
    monkeypatch.setattr(table, "_rows", kept)
    return kept


def test_what_is_worked_out(
    monkeypatch: pytest.MonkeyPatch, rows: list[Any], capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(log, "picture", lambda stops: PICTURE(stops, 600, 400))
    for module in (finder, light, log):
        monkeypatch.setattr(module, "ROUNDS", 1)
    monkeypatch.setattr(finder, "SIZES", (4, 6, 8))
    monkeypatch.setattr(drawing, "WIDTH", 240)
    monkeypatch.setattr(drawing, "WIDTHS", (240,))
    for module in (finder, drawing, light, log):
        module.main()
    assert len(rows) >= 8
    monkeypatch.setattr(watching, "SEEDS", 1)
    monkeypatch.setattr(watching, "EVERY", 40.0)
    monkeypatch.setattr(watching, "SkyKind", (SkyKind.DAWN,))
    watching.table()
    assert "| dawn | " in capsys.readouterr().out


def test_what_a_server_and_a_page_take(
    monkeypatch: pytest.MonkeyPatch, rows: list[Any], server: Server, browser: Browser
) -> None:
    monkeypatch.setattr(firstload, "VISITS", 2)
    monkeypatch.setattr(firstload, "IDLE_SECONDS", 1)
    monkeypatch.setattr(firstload, "SETTLED_MS", 500)
    monkeypatch.setattr(offline, "BOOTS", 2)
    monkeypatch.setattr(timing, "MINUTES", 0.02)
    monkeypatch.setattr(offline, "ASKED", {"exposure": 2})
    monkeypatch.setattr(run, "ROUNDS", 20)
    monkeypatch.setattr(run, "PRESSES", 5)
    monkeypatch.setattr(log, "LOGS", {"short": 25, "long": 40})
    monkeypatch.setattr(log, "ASKED", 4)
    run._exposure_against_health(server.url)
    run._key_to_paint(browser, server.url)
    log.pages(browser)
    firstload.main(browser, server.url)
    timing.main(browser, server.url)
    offline.main(browser, server.url)
    assert len(rows) >= 10


def test_what_years_and_many_clients_take(monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]) -> None:
    monkeypatch.setattr(years, "SIZES", ("20,3,10", "60,6,12"))
    years.main()
    assert "| archive, first part | " in capsys.readouterr().out
    monkeypatch.setattr(load, "EACH_SECONDS", 0.3)
    monkeypatch.setattr(load, "CLIENTS", (1, 2))
    load.main(1.0)
    assert capsys.readouterr().out.count("| ") > 20
    monkeypatch.setattr(hostile, "SECONDS", 1)
    monkeypatch.setattr(hostile, "CASES", (hostile.idle,))
    hostile.main()
    assert "Hold connections that say nothing" in capsys.readouterr().out


def test_a_change_for_the_mutants_is_made_in_one_line() -> None:
    mutants = pytest.importorskip("bench.mutants")
    module = Path("core/jackstaff_core/filters/rims.py")
    change = mutants.changes(module)[0]
    was = (mutants.ROOT / module).read_text(encoding="utf-8").splitlines()
    assert sum(old != new for old, new in zip(was, change.made().splitlines(), strict=True)) == 1
