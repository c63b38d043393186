// What is wrong with the boxes of a generated page: what lies over another thing, what is cut off, what runs sideways out
// of the window, and what stands out of the header.
() => {
  const seen = (one) => {
    const { width, height } = one.getBoundingClientRect();
    return width > 1 && height > 1 && one.checkVisibility({ visibilityProperty: true }) && !one.closest(".b-visually-hidden, .b-skip");
  };
  const boxes = (one) => {
    const range = document.createRange();
    range.selectNodeContents(one);
    return one.matches("img") ? [one.getBoundingClientRect()] : [...range.getClientRects()];
  };
  const name = (one) => `${one.tagName.toLowerCase()} ${one.textContent.trim().slice(0, 24) || one.className}`;
  const found = [];
  const { scrollWidth, clientWidth } = document.documentElement;
  const out = [...document.querySelectorAll("body *")].find((one) => seen(one) && one.getBoundingClientRect().right > clientWidth + 1 && !one.closest(".b-table, pre"));
  if (scrollWidth > clientWidth + 1) found.push(`sideways: ${scrollWidth} of ${clientWidth} by ${out && name(out)}`);
  const words = ".b-utility a, .b-utility p, .b-name span, .b-name img, .b-tagline, .b-main a, .b-main button, .b-breadcrumbs a, .b-breadcrumbs span, .b-section a, main h1, main p";
  const leaves = [...document.querySelectorAll(words)].filter((one) => seen(one) && !one.closest(".b-main ul ul"));
  for (const [at, one] of leaves.entries()) {
    for (const other of leaves.slice(at + 1)) {
      if (one.contains(other) || other.contains(one)) continue;
      for (const a of boxes(one)) {
        for (const b of boxes(other)) {
          const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left);
          const high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top);
          if (wide > 2 && high > 3) found.push(`${name(one)} lies over ${name(other)}`);
        }
      }
    }
  }
  for (const one of document.querySelectorAll(".b-header *, .b-utility *, .b-breadcrumbs *, .b-footer *")) {
    if (!seen(one) || one.closest("svg") || getComputedStyle(one).overflow === "visible") continue;
    if (one.scrollHeight > one.clientHeight + 2 || one.scrollWidth > one.clientWidth + 2) found.push(`${name(one)} is cut off`);
  }
  return [...new Set(found)];
}
