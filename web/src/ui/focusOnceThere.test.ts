// @vitest-environment happy-dom
import { afterEach, expect, test } from "vitest";
import { focusOnceThere } from "./focusOnceThere";

const later = () => new Promise((done) => setTimeout(done));

afterEach(() => {
  document.body.innerHTML = "";
});

test("a heading that comes later is given the focus, once", async () => {
  focusOnceThere("main h1");
  document.body.innerHTML = "<main><h1>Log</h1><input></main>";
  await later();
  expect(document.activeElement?.textContent).toBe("Log");
  document.querySelector("input")?.focus();
  document.querySelector("main")?.append("more");
  await later();
  expect(document.activeElement?.tagName).toBe("INPUT");
});

test("whoever is elsewhere by then is left there, and what is given up finds nothing", async () => {
  document.body.innerHTML = "<main></main><dialog open><input></dialog>";
  document.querySelector("input")?.focus();
  focusOnceThere("main h1");
  document.querySelector("main")?.insertAdjacentHTML("beforeend", "<h1>Log</h1>");
  await later();
  expect(document.activeElement?.tagName).toBe("INPUT");
  document.body.innerHTML = "<main></main>";
  focusOnceThere("main h1")();
  document.querySelector("main")?.insertAdjacentHTML("beforeend", "<h1>Bag</h1>");
  await later();
  expect(document.activeElement).toBe(document.body);
});
