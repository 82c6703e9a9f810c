"""How much stands in a first view, and that the next step always stands in one place."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from .conftest import Visit, get_ready, in_its_own_letters, no_countdown, rested
from .test_path import hold

IN_VIEW = """() => {
    const seen = (element) => {
        if (!element.checkVisibility({ visibilityProperty: true })) return false;
        const { top, bottom, left, right, height } = element.getBoundingClientRect();
        return height > 0 && bottom > 0 && top < innerHeight && right > 0 && left < innerWidth;
    };
    const groups = new Set();
    const stops = [...document.querySelectorAll("button, a[href], input, select, [tabindex='0']")].filter((element) => {
        if (element.disabled || element.tabIndex < 0 || element.closest(".visually-hidden, .skip")) return false;
        const shown = element.type === "radio" ? element.labels[0] : element;
        if (!shown || !seen(shown)) return false;
        // A choice is one stop; the arrow keys go on within it.
        if (element.type === "radio") {
            if (groups.has(element.name)) return false;
            groups.add(element.name);
        }
        return true;
    });
    const texts = [];
    const walk = document.createTreeWalker(document.querySelector("#root"), NodeFilter.SHOW_TEXT);
    while (walk.nextNode()) {
        const { parentElement: parent, data } = walk.currentNode;
        const apart = parent.closest(".visually-hidden, .skip, option, svg, .band-column");
        if (!data.trim() || apart || !seen(parent)) continue;
        texts.push([data.trim(), getComputedStyle(parent).fontSize]);
    }
    const words = texts.flatMap(([text]) => text.match(/\\p{L}{2,}/gu) ?? []);
    return { stops: stops.length, words: words.length, sizes: new Set(texts.map(([, size]) => size)).size };
}"""
"""What stands in the view: stops of the Tab key, words beside the drawings, and how many sizes they are set in."""

PENNANT = """() => {
    const button = document.querySelector(".main-action, .hold-close");
    const { top, left, width, height } = button.getBoundingClientRect();
    return [top, left, width, height].map(Math.round);
}"""


def fits(page: Page, stops: int, words: int, sizes: int) -> None:
    in_its_own_letters(page)
    found = page.evaluate(IN_VIEW)
    assert found["stops"] <= stops, found
    assert found["words"] <= words, found
    assert found["sizes"] <= sizes, found
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")


@pytest.mark.parametrize("size", [(390, 844), (360, 740), (844, 390), (1280, 800)], ids=str)
def test_each_moment_shows_what_it_needs_and_its_next_step_in_one_place(visits: Any, size: tuple[int, int]) -> None:
    visit: Visit = visits(visited=True, phone=size[0] < 900)
    page = visit.page
    page.set_viewport_size({"width": size[0], "height": size[1]})
    expect(page.get_by_test_id("answer-time")).to_have_text("13s")
    page.keyboard.press("2")
    expect(page.get_by_test_id("answer-time")).to_have_text("3min23s")
    desk = size[0] > 900
    fits(page, 26 if desk else 25, 85, 10)
    places = [page.evaluate(PENNANT)]
    get_ready(page)
    expect(page.get_by_role("heading", name="Ready to open")).to_be_visible()
    rested(page)
    fits(page, 28, 140, 10)
    places.append(page.evaluate(PENNANT))
    no_countdown(page)
    page.get_by_role("button", name="Open the shutter").click()
    expect(page.get_by_test_id("run-left")).to_be_visible()
    rested(page)
    fits(page, 15, 55, 9)
    places.append(page.evaluate(PENNANT))
    hold(page, "Close")
    expect(page.get_by_test_id("run-result")).to_be_visible()
    rested(page)
    fits(page, 25, 75, 9)
    places.append(page.evaluate(PENNANT))
    # Within a pixel: where the view is an odd number of them wide, one side is rounded up.
    assert all(abs(a - b) <= 1 for place in places for a, b in zip(place, places[0], strict=True)), places
    # The next step stands whole in the view, and the answer above its middle.
    top, _, _, height = places[0]
    assert top + height <= size[1]


@pytest.mark.parametrize("size", [(390, 844), (320, 740), (844, 390), (1024, 768), (1280, 800)], ids=str)
def test_the_other_first_views_hold_no_more_than_they_need(visits: Any, size: tuple[int, int]) -> None:
    visit: Visit = visits(visited=True, phone=size[0] < 900)
    page = visit.page
    page.set_viewport_size({"width": size[0], "height": size[1]})
    expect(page.get_by_test_id("answer-time")).to_be_visible()
    places = []
    for path, there in (("/outing", ".morning"), ("/bag", ".filter-tile"), ("/log", ".empty")):
        page.goto(visit.server.url + path)
        expect(page.locator(there).first).to_be_visible()
        if path == "/log":
            fits(page, 30, 60, 9)
            continue
        fits(page, 34, 200, 9)
        places.append(page.evaluate(PENNANT))
    # Within a pixel in one place, whole and in view.
    assert all(abs(a - b) <= 1 for a, b in zip(*places, strict=True)), places
    top, _, _, height = places[0]
    assert top + height <= size[1]


SCALE_PX = (13, 15, 17, 20, 22, 26, 32)
"""Labels, running text, titles, the action, choices, values, headings. Larger ones are times."""


def test_every_size_of_type_is_one_of_the_scales() -> None:
    sheets = Path(__file__).parents[2].joinpath("web/src").rglob("*.css")
    sizes = [
        (sheet.name, float(size) * (16 if unit == "rem" else 1))
        for sheet in sheets
        for size, unit in re.findall(r"font-size:\s*([\d.]+)(rem|px);", sheet.read_text())
    ]
    assert len(sizes) > 100
    assert [(name, size) for name, size in sizes if 0 < size < 48 and size not in SCALE_PX] == []


def test_every_kind_of_control_in_every_light(guest: Visit, tmp_path: Path) -> None:
    page = guest.page
    page.goto(guest.server.url + "/kinds")
    expect(page.get_by_role("heading", name="Kinds of control")).to_be_visible()
    in_its_own_letters(page)
    pictures = set()
    for light in ("noon", "dusk", "red"):
        page.evaluate("(light) => { document.documentElement.dataset.light = light; }", light)
        assert page.locator("button, select, input").count() >= 10
        assert Axe().run(page, options={"runOnly": ["wcag2a", "wcag2aa", "wcag22aa"]}).response["violations"] == []
        pictures.add(page.screenshot(path=tmp_path / f"kinds-{light}.png"))
    assert len(pictures) == 3
    # Each does what it does: dial, choice, block, row, main action.
    value = page.get_by_role("button", name=re.compile("^Shutter"))
    value.press("ArrowUp")
    expect(value).to_contain_text("1/30")
    page.locator("label", has_text="rising").click()
    expect(page.get_by_label("Light, folded")).to_have_value("rising")
    block = page.get_by_role("button", name="Slot ND 9, 9")
    block.click()
    expect(block).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="Readings").click()
    expect(page.get_by_role("button", name="Get ready")).to_contain_text("1 tap")
