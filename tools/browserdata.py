"""The browser's own database of the application, read and written from outside: for tests and benchmarks."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page


def kept(page: Page, kind: str, owner: str | None = None) -> list[dict[str, Any]]:
    """Return the documents of a kind in this browser's own database, removals included."""
    return page.evaluate(  # type: ignore[no-any-return]
        """([kind, owner]) => new Promise((done, fail) => {
            const opening = indexedDB.open("jackstaff");
            opening.onerror = () => fail(opening.error);
            opening.onsuccess = () => {
                const all = opening.result.transaction("documents").objectStore("documents").getAll();
                all.onsuccess = () => {
                    opening.result.close();
                    done(all.result.filter((doc) => doc.kind === kind && (owner === null || doc.owner === owner)));
                };
            };
        })""",
        [kind, owner],
    )


def write_document(page: Page, document: dict[str, Any]) -> None:
    """Put a document into this browser's database as an earlier visit would have left it."""
    write_documents(page, [document])


def write_documents(page: Page, documents: list[dict[str, Any]]) -> None:
    """Return the same for several."""
    page.evaluate(
        """(docs) => new Promise((done, fail) => {
            const opening = indexedDB.open("jackstaff");
            opening.onerror = () => fail(opening.error);
            opening.onsuccess = () => {
                const writing = opening.result.transaction("documents", "readwrite");
                for (const doc of docs) writing.objectStore("documents").put(doc);
                writing.oncomplete = () => { opening.result.close(); done(); };
            };
        })""",
        documents,
    )


def note(page: Page, key: str, value: object) -> None:
    """Leave a note in this browser's database."""
    page.evaluate(
        """([key, value]) => new Promise((done, fail) => {
            const opening = indexedDB.open("jackstaff");
            opening.onerror = () => fail(opening.error);
            opening.onsuccess = () => {
                const writing = opening.result.transaction("notes", "readwrite");
                writing.objectStore("notes").put(value, key);
                writing.oncomplete = () => { opening.result.close(); done(); };
            };
        })""",
        [key, value],
    )


def noted(page: Page, key: str) -> Any:
    """Return a note in this browser's database."""
    return page.evaluate(
        """(key) => new Promise((done, fail) => {
            const opening = indexedDB.open("jackstaff");
            opening.onerror = () => fail(opening.error);
            opening.onsuccess = () => {
                const reading = opening.result.transaction("notes").objectStore("notes").get(key);
                reading.onsuccess = () => { opening.result.close(); done(reading.result); };
            };
        })""",
        key,
    )
