// Runs before first paint: the light chosen last time, else what the system prefers.
(function () {
  var found = document.cookie.match(/(?:^|; )jackstaff_light=(noon|dusk|red)/);
  var dark = window.matchMedia("(prefers-color-scheme: dark)").matches;
  var light = found ? found[1] : dark ? "dusk" : "noon";
  document.documentElement.dataset.light = light;
  document.documentElement.dataset.bsTheme = light === "noon" ? "light" : "dark";

  // A browser whose own database is slow to answer leaves nobody before an empty page.
  window.setTimeout(function () {
    var root = document.getElementById("root");
    if (root && !root.hasChildNodes()) root.textContent = "Opening what this browser keeps …";
  }, 700);
})();
