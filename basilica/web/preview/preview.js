// Put into each page of a preview: the page says where it is scrolled to and how high its header stands, and does what
// the workspace around it asks. It runs in a sandboxed frame of its own origin; messages are all that passes.
/* global LINKS_DISABLED */
(function () {
  // When the workspace last scrolled this page, so that the page does not answer its own scrolling.
  var told = 0;
  function send(message) { parent.postMessage(Object.assign({ basilica: "preview" }, message), "*"); }
  var root = document.documentElement, asked = false, playing = 0, page = root.scrollHeight;
  function box(name) {
    var found = document.querySelector(name);
    return found ? found.getBoundingClientRect() : { top: 0, bottom: 0, height: 0 };
  }
  // Where the page and its header are, for the drawing beside it.
  function report() {
    asked = false;
    var bar = box(".b-header"), reach = box(".b-header-range"), end = box("[data-b-end]");
    send({ at: {
      time: performance.now(), depth: scrollY, page: page, window: innerHeight, row: box(".b-utility").height,
      reach: end.height ? end.top + scrollY : reach.height ? reach.bottom + scrollY : 0, state: root.dataset.bState || "rest", top: bar.top,
      height: bar.height
    } });
  }
  // With the next frame; where the browser draws none for a while, without it.
  function next(act) {
    var did = false;
    function once() {
      if (!did) act();
      did = true;
    }
    requestAnimationFrame(once);
    setTimeout(once, 150);
  }
  // One report a frame, after the style of the new state was applied.
  function soon() {
    if (asked) return;
    asked = true;
    next(function () { next(report); });
  }
  // Says that what the workspace asked was done, by its number.
  function done(turn) { send({ done: turn }); }
  // Scrolls along a trace of times (ms) and depths (px); a later one ends it.
  function play(trace, turn) {
    var mine = ++playing, start = performance.now(), step = 0;
    next(function on() {
      if (mine !== playing) return;
      while (step < trace.length && trace[step][0] - trace[0][0] <= performance.now() - start) step++;
      scrollTo({ top: trace[Math.max(step - 1, 0)][1], behavior: "instant" });
      if (step < trace.length) next(on);
      else done(turn);
    });
  }
  addEventListener("load", function () {
    page = root.scrollHeight;
    soon();
  });
  addEventListener("transitionend", soon);
  addEventListener("scroll", soon, { passive: true });
  addEventListener("scroll", function () {
    if (Date.now() - told < 120) return;
    send({ scroll: scrollY / Math.max(1, document.documentElement.scrollHeight - innerHeight) });
  }, { passive: true });
  // Acts when the whole page was read: what is asked before that would be looked for in a part of it.
  function whenRead(act) {
    if (document.readyState === "loading") document.addEventListener("DOMContentLoaded", act);
    else act();
  }
  // What the workspace asks: scroll along, go to a depth, play a trace, outline what differs or a place.
  addEventListener("message", function (event) {
    if (event.source === parent && event.data && event.data.basilica === "workspace")
      whenRead(function () { obey(event.data); });
  });
  function obey(data) {
    soon();
    if (typeof data.scroll === "number") {
      told = Date.now();
      scrollTo(0, data.scroll * (document.documentElement.scrollHeight - innerHeight));
    }
    if (typeof data.depth === "number") {
      playing++;
      scrollTo({ top: data.depth, behavior: "instant" });
    }
    if (Array.isArray(data.play)) play(data.play, data.turn);
    else done(data.turn);
    (data.mark || []).forEach(function (selector) {
      document.querySelectorAll(selector).forEach(function (node) {
        node.style.outline = "3px dashed #7b1e3a";
        node.style.outlineOffset = "-3px";
      });
    });
    if (Array.isArray(data.spot)) {
      var found = document.querySelectorAll(String(data.spot[0]))[data.spot[1]];
      if (!found) return;
      found.style.outline = "4px solid #7b1e3a";
      found.style.outlineOffset = "2px";
      // Only this page is scrolled, and not the one that holds it.
      var box = found.getBoundingClientRect();
      scrollTo({ top: box.top + scrollY - Math.max(20, (innerHeight - box.height) / 2), behavior: "instant" });
    }
  }
  // Links that are disabled say where they would lead.
  if (LINKS_DISABLED) document.addEventListener("click", function (event) {
    var link = event.target.closest("a[href]");
    if (!link) return;
    event.preventDefault();
    send({ chosen: link.host === location.host ? link.pathname.slice(0, 500) : "elsewhere" });
    link.style.outline = "3px solid #2a46a8";
  }, true);
  whenRead(function () { send({ ready: true }); });
})();
