(function () {
{% if scripted %}
{{ header_script }}
{% endif %}
{% if opens or fold %}
  // Submenus: a button opens the list after it; Escape closes it and returns to the button.
  document.querySelectorAll(".b-main, .b-utility").forEach(function (nav) {
    function all(selector, within) {
      return Array.from((within || nav).querySelectorAll(selector));
    }
    function opened() {
      return all('button[aria-expanded="true"]');
    }
    function set(button, open) {
      button.setAttribute("aria-expanded", String(open));
    }
    function close(button) {
      set(button, false);
    }
    function folded() {
      var fold = nav.querySelector(".b-fold");
      return fold && getComputedStyle(fold).display !== "none";
    }
    function open(button) {
      if (button.matches(".b-fold")) {
        // What leads to the page is open already.
        all("li[data-path] > .b-opens").forEach(function (other) { set(other, true); });
      } else if (!folded()) {
        opened().forEach(function (other) {
          if (!other.parentNode.contains(button)) close(other);
        });
      }
      set(button, true);
    }
    nav.addEventListener("click", function (event) {
      var button = event.target.closest("button[aria-controls]");
      if (!button) return;
      if (button.getAttribute("aria-expanded") !== "true") return open(button);
      close(button);
      if (button.matches(".b-fold")) opened().forEach(close);
    });
    nav.addEventListener("keydown", function (event) {
      var key = event.key, at = document.activeElement;
      if (key === "Escape") {
        var inner = opened().filter(function (button) {
          return button.parentNode.contains(at);
        }).pop();
        if (inner) {
          close(inner);
          inner.focus();
        } else opened().forEach(close);
        return;
      }
      // Arrows go along the controls of one list, and from a button into what it has opened.
      var list = at.closest("ul");
      if (event.altKey || event.ctrlKey || event.metaKey || event.shiftKey || !list || !/^(Arrow|Home|End)/.test(key)) return;
      var ways = all(":scope > li > a, :scope > li > button", list).filter(function (one) { return one.offsetWidth; });
      var down = key === "ArrowDown" && at.getAttribute("aria-expanded") === "true" && at.parentNode.querySelector(":scope > ul > li > a, :scope > ul > li > button");
      var step = { ArrowDown: 1, ArrowRight: getComputedStyle(nav).direction === "rtl" ? -1 : 1, ArrowUp: -1 }[key];
      if (key === "ArrowLeft") step = getComputedStyle(nav).direction === "rtl" ? 1 : -1;
      var to = down || (key === "Home" ? ways[0] : key === "End" ? ways[ways.length - 1] : ways[ways.indexOf(at) + step]);
      if (to) {
        to.focus();
        event.preventDefault();
      }
    });
    nav.addEventListener("focusout", function (event) {
      if (event.relatedTarget && !nav.contains(event.relatedTarget)) opened().forEach(close);
    });
    document.addEventListener("click", function (event) {
      if (!nav.contains(event.target)) opened().forEach(close);
    });
{% if hovers %}
    // Under a mouse, a submenu opens as well: it stays while the mouse is on it, and Escape closes it (WCAG 1.4.13).
    if (!nav.hasAttribute("data-hover")) return;
    all(":scope > ul > li").forEach(function (li) {
      var button = li.querySelector(":scope > .b-opens"), wait;
      if (!button) return;
      li.addEventListener("pointerenter", function (event) {
        clearTimeout(wait);
        if (event.pointerType === "mouse" && !folded()) open(button);
      });
      li.addEventListener("pointerleave", function (event) {
        if (event.pointerType !== "mouse" || folded()) return;
        wait = setTimeout(function () {
          if (!li.contains(document.activeElement)) close(button);
        }, 300);
      });
    });
    document.addEventListener("keydown", function (event) {
      if (event.key === "Escape" && !nav.contains(event.target)) opened().forEach(close);
    });
{% endif %}
  });
{% endif %}
})();
