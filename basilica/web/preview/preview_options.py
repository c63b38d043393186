"""In what guise a preview shows its pages: which frame it is, of which state, and what is put on or taken off.

It is part of the preview's address, behind the token, so that links within the pages keep it: ``token.2sr`` is frame 2,
without style, right to left. The pages themselves are those of a build; what a guise changes is changed on the way out.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

SWITCHES = {
    "s": ("style", "No style"),
    "a": ("asleep", "Links asleep"),
    "m": ("motion", "Less motion"),
    "r": ("rtl", "Right to left"),
    "c": ("colours", "Forced colours"),
}
"""By the letter in the address: the name of each switch, and what it is called."""

_ADDRESS = re.compile(r"([0-9])([samrc]*)(?:k([0-9]{1,9}))?")
_HTML = re.compile(rb"<html([^>]*)>")
_DIRECTION = re.compile(rb' dir="[a-z]+"')
_SHEET = re.compile(rb"<link rel=\"stylesheet\"[^>]*>\n?|<style\b.*?</style>", re.DOTALL)

_ASLEEP = b"<style>a, area { cursor: default !important }</style>"
_ASLEEP_WITHOUT_SCRIPT = b"<noscript><style>a, area { pointer-events: none !important }</style></noscript>"
_COLOURS = (
    b"<style>*, *::before, *::after { background-color: #000 !important; color: #fff !important; border-color: #fff"
    b" !important; box-shadow: none !important } a, a * { color: #ff0 !important } button { border: 1px solid #0ff"
    b" !important } svg { forced-color-adjust: auto }</style>"
)
_SCRIPT = b"""<script>(function () {
  var told = 0;
  function send(message) { parent.postMessage(Object.assign({ basilica: "preview" }, message), "*"); }
  var root = document.documentElement, asked = false, playing = 0, page = root.scrollHeight;
  function box(name) {
    var found = document.querySelector(name);
    return found ? found.getBoundingClientRect() : { top: 0, bottom: 0, height: 0 };
  }
  function tell() {
    asked = false;
    var bar = box(".b-header"), reach = box(".b-reach");
    send({ at: {
      time: performance.now(), depth: scrollY, page: page, window: innerHeight, row: box(".b-utility").height,
      reach: reach.height ? reach.bottom + scrollY : 0, state: root.dataset.bState || "rest", top: bar.top,
      height: bar.height
    } });
  }
  function soon() {
    if (!asked) asked = requestAnimationFrame(function () { requestAnimationFrame(tell); });
  }
  function play(trace) {
    var mine = ++playing, start = performance.now(), step = 0;
    requestAnimationFrame(function next() {
      if (mine !== playing) return;
      while (step < trace.length && trace[step][0] - trace[0][0] <= performance.now() - start) step++;
      scrollTo({ top: trace[Math.max(step - 1, 0)][1], behavior: "instant" });
      if (step < trace.length) requestAnimationFrame(next);
      else send({ played: true });
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
  addEventListener("message", function (event) {
    var data = event.data || {};
    if (event.source !== parent || data.basilica !== "workspace") return;
    if (typeof data.scroll === "number") {
      told = Date.now();
      scrollTo(0, data.scroll * (document.documentElement.scrollHeight - innerHeight));
    }
    if (typeof data.depth === "number") {
      playing++;
      scrollTo({ top: data.depth, behavior: "instant" });
    }
    if (Array.isArray(data.play)) play(data.play);
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
  });
  addEventListener("keydown", function (event) {
    if (!event.target.closest("input, textarea, select") && /^[.,]$/.test(event.key)) send({ key: event.key });
  });
  if (ASLEEP) document.addEventListener("click", function (event) {
    var link = event.target.closest("a[href]");
    if (!link) return;
    event.preventDefault();
    send({ chosen: link.textContent.trim().slice(0, 200), href: link.getAttribute("href").slice(0, 500) });
    link.style.outline = "3px solid #2a46a8";
  }, true);
  send({ ready: true });
})();</script>"""


@dataclass(frozen=True, slots=True)
class PreviewOptions:
    """``state`` is the number of a kept state; None is the site as it stands."""

    frame: int = 0
    on: frozenset[str] = frozenset()
    state: int | None = None

    @classmethod
    def parse(cls, text: str) -> PreviewOptions | None:
        """The guise that stands behind a token; None for what is none."""
        if not text:
            return cls()
        found = _ADDRESS.fullmatch(text)
        if not found:
            return None
        on = frozenset(SWITCHES[letter][0] for letter in found[2])
        return cls(int(found[1]), on, int(found[3]) if found[3] else None)

    def display(self, file: str, data: bytes) -> bytes:
        """A file as it is shown in this guise."""
        if file.endswith(".css"):
            if "motion" in self.on:
                data = data.replace(b"(prefers-reduced-motion: reduce)", b"all")
            return data.replace(b"(forced-colors: active)", b"all") if "colours" in self.on else data
        if not file.endswith(".html"):
            return data
        if "style" in self.on:
            data = _SHEET.sub(b"", data)
        if "rtl" in self.on:
            data = _HTML.sub(lambda match: b"<html" + _DIRECTION.sub(b"", match[1]) + b' dir="rtl">', data, count=1)
        extra = _COLOURS if "colours" in self.on else b""
        if "asleep" in self.on:
            extra += _ASLEEP + _ASLEEP_WITHOUT_SCRIPT
        extra += _SCRIPT.replace(b"ASLEEP", b"true" if "asleep" in self.on else b"false")
        return data.replace(b"</head>", extra + b"</head>", 1)
