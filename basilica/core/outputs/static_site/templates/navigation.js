(() => {
{% if follows %}
  // The page is shorter while the header is small: who comes back finds the place where they were, and nothing moves.
  try {
    const root = document.documentElement, place = "b-place " + location.pathname;
    const back = performance.getEntriesByType("navigation")[0]?.type !== "navigate" && sessionStorage.getItem(place);
    addEventListener("pagehide", () => sessionStorage.setItem(place, scrollY));
    if (back) {
      root.dataset.bBack = "";
      // The header becomes small in the frame after the browser has scrolled; then the page has its length.
      const settled = (what) => requestAnimationFrame(() => requestAnimationFrame(what));
      addEventListener("load", () => settled(() => {
        scrollTo({ top: back, behavior: "instant" });
        settled(() => delete root.dataset.bBack);
      }));
    }
  } catch {} // A reader may keep pages from remembering anything.
{% endif %}
{% if scripted %}
{{ header_script }}
{% endif %}
{% if until %}
  // The header sticks until this comes, which then pushes it out of the window, as the end of its box would.
  (() => {
    const room = document.querySelector(".b-header-space");
    // A part may stand in the row above as well: the header does not end with what it has itself.
    const end = [...document.querySelectorAll({{ until|join(", ")|tojson }})].find((one) => !one.closest(".b-header, .b-utility"));
    if (!end || !room) return;
    end.setAttribute("data-b-end", "");
    // What sticks, and what is drawn in it.
    const pairs = [[room, room.querySelector(".b-header")]];
    for (const row of document.querySelectorAll(".b-utility")) pairs.push([row, row]);
    let waiting;
    const push = () => {
      waiting = 0;
      for (const [box, drawn] of pairs) {
        const moved = box === drawn ? drawn.pushed || 0 : 0;
        let over = end.getBoundingClientRect().top - box.getBoundingClientRect().bottom + moved;
        over = getComputedStyle(box).position === "sticky" ? Math.min(0, over) : 0;
        drawn.style.translate = over ? `0 ${over}px` : "";
        drawn.pushed = over;
      }
    };
    const soon = () => { waiting ||= requestAnimationFrame(push); };
    addEventListener("scroll", soon, { passive: true });
    addEventListener("resize", soon, { passive: true });
    push();
  })();
{% endif %}
{% if speculation %}
  // What is pointed at is fetched before it is asked for, but not for readers who save data.
  if (HTMLScriptElement.supports?.("speculationrules") && !navigator.connection?.saveData && !matchMedia("(prefers-reduced-data: reduce)").matches) {
    const ahead = document.createElement("script");
    ahead.type = "speculationrules";
    ahead.textContent = JSON.stringify({{ speculation|tojson }});
    document.head.append(ahead);
  }
{% endif %}
{% if tool %}
  // A part in the bar is closed by Escape, which returns to what opened it, and by a click elsewhere.
  for (const tool of document.querySelectorAll(".b-bar-part")) {
    tool.addEventListener("keydown", ({ key }) => {
      if (key !== "Escape") return;
      tool.open = false;
      tool.firstElementChild.focus();
    });
    document.addEventListener("click", ({ target }) => { tool.open &&= tool.contains(target); });
  }
{% endif %}
{% if opens or fold %}
  // Submenus: a button opens the list after it; Escape closes it and returns to the button.
  for (const nav of document.querySelectorAll(".b-main, .b-utility-menu")) {
    const all = (selector) => [...nav.querySelectorAll(selector)];
    const opened = () => all('[aria-expanded="true"]');
    const set = (button, open) => button.setAttribute("aria-expanded", open);
    const close = (button) => set(button, false);
    const closeAll = () => opened().forEach(close);
    const isOpen = (button) => button.getAttribute("aria-expanded") === "true";
    const fold = nav.querySelector(".b-menu-button");
    const folded = () => fold?.offsetWidth > 0;
    const open = (button) => {
      // What leads to the page is open already.
      if (button === fold) all("li[data-path] > .b-submenu-button").forEach((other) => set(other, true));
      else if (!folded()) opened().forEach((other) => other.parentNode.contains(button) || close(other));
      set(button, true);
      // What was opened ends where the window does, and moves in from its edges.
      const list = document.getElementById(button.getAttribute("aria-controls"));
      list.style.setProperty("--b-shift", "0px");
      const box = list.getBoundingClientRect();
      const over = Math.min(0, document.documentElement.clientWidth - box.right - 8) || Math.max(0, 8 - box.left);
      list.style.setProperty("--b-shift", (folded() ? 0 : over) + "px");
      list.style.setProperty("--b-free", Math.max(160, innerHeight - box.top) + "px");
    };
    nav.addEventListener("click", ({ target }) => {
      const button = target.closest("button[aria-controls]");
      if (target.closest("a")) closeAll(); // It may jump within the page.
      if (!button) return;
      if (!isOpen(button)) return open(button);
      // What the mouse has just opened by being there is not closed by its click.
      if (button.hovered) return (button.hovered = false);
      close(button);
      if (button === fold) closeAll();
    });
    nav.addEventListener("keydown", (event) => {
      const key = event.key, at = document.activeElement;
      if (key === "Escape") {
        const inner = opened().filter((button) => button.parentNode.contains(at)).pop();
        if (!inner) return closeAll();
        close(inner);
        return inner.focus();
      }
      // Arrows go along everything that is in view: sideways in one list, down and up through all of them.
      if (event.altKey || event.ctrlKey || event.metaKey || event.shiftKey) return;
      const right = getComputedStyle(nav).direction === "rtl" ? -1 : 1, list = at.closest("ul");
      const step = { ArrowDown: 1, ArrowUp: -1, ArrowRight: right, ArrowLeft: -right }[key];
      const ways = all("a, button").filter((one) => one.offsetWidth && (!/[hf]t$|^[HE]/.test(key) || one.closest("ul") === list));
      const to = key === "Home" ? ways[0] : key === "End" ? ways.pop() : step && ways[ways.indexOf(at) + step];
      if (to) {
        to.focus();
        event.preventDefault();
      }
    });
    nav.addEventListener("focusout", ({ relatedTarget }) => {
      if (relatedTarget && !nav.contains(relatedTarget)) closeAll();
    });
    document.addEventListener("click", ({ target }) => nav.contains(target) || closeAll());
    let narrow = folded();
    addEventListener("resize", () => {
      if (folded() !== narrow) closeAll();
      narrow = folded();
    });
{% if hovers %}
    // Under a mouse, a submenu opens as well: it stays while the mouse is on it, and Escape closes it (WCAG 1.4.13).
    if (!nav.hasAttribute("data-hover")) continue;
    for (const button of all(":scope > ul > li > .b-submenu-button")) {
      const li = button.parentNode;
      let wait;
      li.addEventListener("pointerenter", ({ pointerType }) => {
        clearTimeout(wait);
        if (pointerType !== "mouse" || folded() || isOpen(button)) return;
        open(button);
        button.hovered = true;
      });
      li.addEventListener("pointerleave", ({ pointerType }) => {
        button.hovered = false;
        if (pointerType !== "mouse" || folded()) return;
        wait = setTimeout(() => li.contains(document.activeElement) || close(button), 300);
      });
    }
    document.addEventListener("keydown", ({ key, target }) => key === "Escape" && !nav.contains(target) && closeAll());
{% endif %}
  }
{% endif %}
})();
