// Put into each page that `basilica watch` serves, and into no built file: reloads it once the site was built again.
(function () {
  var version = null, box = null;
  // What stops the build, on top of the page that is still up.
  function show(findings) {
    if (box) box.remove();
    box = null;
    if (!findings.length) return;
    box = document.createElement("div");
    box.setAttribute("role", "alert");
    box.style.cssText = "position:fixed;inset:0 0 auto 0;z-index:99999;max-height:40vh;overflow:auto;" +
      "padding:12px 20px;background:#7b1e3a;color:#fff;font:14px/1.5 system-ui,sans-serif;text-align:start";
    findings.forEach(function (text) {
      box.appendChild(document.createElement("p")).textContent = text;
    });
    document.documentElement.appendChild(box);
  }
  // Asks until the version is another; while the server is away, less often.
  function look() {
    fetch("/.basilica/state").then(function (answer) { return answer.json(); }).then(function (state) {
      if (version !== null && state.version !== version) return location.reload();
      version = state.version;
      show(state.findings);
      setTimeout(look, 400);
    }, function () { setTimeout(look, 1500); });
  }
  look();
})();
