(function () {
{% if header.table %}
  // The header: [state, guard, depth, next]. One look a frame, and only at the depth.
  var header = document.querySelector(".b-header"), state = "rest", waiting = false;
  var table = [{% for t in header.table %}["{{ t.state }}", "{{ t.guard }}", {{ t.depth }}, "{{ t.next }}"]{{ ", " if not loop.last }}{% endfor %}];
  function look() {
    waiting = false;
    var row = table.find(function (t) {
      return t[0] === state && (t[1] === ">" ? scrollY > t[2] : scrollY <= t[2]);
    });
    if (row) header.dataset.state = state = row[3];
  }
  addEventListener("scroll", function () {
    if (!waiting) waiting = requestAnimationFrame(look);
  }, { passive: true });
  look();
{% endif %}
{% if folds %}
  // Submenus: a button opens the list after it; Escape closes it and returns to the button.
  var nav = document.querySelector(".b-main");
  function opened() {
    return Array.from(nav.querySelectorAll('button[aria-expanded="true"]'));
  }
  function close(button) {
    button.setAttribute("aria-expanded", "false");
  }
  nav.addEventListener("click", function (event) {
    var button = event.target.closest("button[aria-controls]");
    if (!button) return;
    var open = button.getAttribute("aria-expanded") === "true";
    opened().forEach(function (other) {
      if (!other.parentNode.contains(button)) close(other);
    });
    button.setAttribute("aria-expanded", String(!open));
  });
  nav.addEventListener("keydown", function (event) {
    if (event.key !== "Escape") return;
    var inner = opened().filter(function (button) {
      return button.parentNode.contains(event.target);
    }).pop();
    if (inner) {
      close(inner);
      inner.focus();
    }
  });
  nav.addEventListener("focusout", function (event) {
    if (event.relatedTarget && !nav.contains(event.relatedTarget)) opened().forEach(close);
  });
  document.addEventListener("click", function (event) {
    if (!nav.contains(event.target)) opened().forEach(close);
  });
{% endif %}
})();
