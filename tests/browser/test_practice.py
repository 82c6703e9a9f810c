"""Quick drills: asked from one's own filters, typed as people say it, graded by the core, remembered, offline too."""

from __future__ import annotations

import re

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Request, expect
from tools.browserdata import kept

from jackstaff_core.practice.drills import Answered, DrillQuestion, drill
from jackstaff_core.wire.reader import read

from .conftest import Visit


def right(question: dict[str, object]) -> str:
    """What the core calls right, as somebody types it."""
    found = drill(read(DrillQuestion, question))
    match found.answered:
        case Answered.TIME:
            return f"{found.right:.6f} s"
        case Answered.STOPS:
            return f"{found.right:.2f} stops"
        case Answered.CHOICE:
            return str(int(found.right) + 1)


def test_drills_from_one_s_own_bag_by_keyboard_alone(guest: Visit) -> None:
    page = guest.page
    questions: list[dict[str, object]] = []

    def heard(sent: Request) -> None:
        if sent.url.endswith("/api/practice/drill"):
            questions.append(dict(sent.post_data_json or {}))

    page.on("request", heard)
    page.goto(f"{guest.server.url}/log/practice")
    said = page.locator(".drill-verdict")
    kinds = set()
    for turn in range(6):
        expect(page.locator(".drill-asks")).to_be_visible()
        question = questions[-1]
        kinds.add(question["kind"])
        answer = right(question)
        if page.locator("#drill-said").count():
            expect(page.locator("#drill-said")).to_be_focused()
            page.keyboard.type(answer)
            page.keyboard.press("Enter")
        else:
            page.keyboard.press(answer)
        expect(said).to_be_visible()
        expect(said).to_have_text(re.compile("^Right"))
        expect(page.get_by_role("button", name="Next question")).to_be_focused()
        if turn < 5:
            page.keyboard.press("Enter")
            expect(said).to_have_count(0)
    assert len(kinds) > 2
    # Nothing of it is a frame, and what was learnt is there again after a reload.
    again = page.locator(".practice-progress li").filter(has_text="again")
    held = again.all_text_contents()
    assert len(held) == len(kinds)
    assert Axe().run(page).response["violations"] == []
    page.reload()
    expect(again).to_have_text(held)
    page.goto(f"{guest.server.url}/log")
    expect(page.get_by_text("No frames yet.")).to_be_visible()
    assert kept(page, "frame") == []
