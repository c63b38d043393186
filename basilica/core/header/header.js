// Runs the tables of a site's headers in the browser. HEADERS is put in as data; the reason for each line stands behind
// it, is shown beside it in the application, and is left out of what is built.
/* global HEADERS */
(function () {
  var root = document.documentElement, state = "rest", down = true, waiting = false, last, turn, cell, letters; // Where the header is in its table, which way the page goes, and where it last turned.
  var headers = HEADERS; // For each header its kinds of windows, and for each of these a table.
  function broken(most, high) { // Whether the menu is higher than one line or stands below the name, or the name is too high.
    var name = document.querySelector(".b-bar > *"), words = document.querySelector(".b-bar .b-name > span"), menu = document.querySelector(".b-main"); // All may be missing from a page.
    return words && words.offsetHeight > high || menu && (menu.offsetHeight > most || menu.offsetTop >= name.offsetTop + name.offsetHeight); // As they are drawn, whatever the reader does to letters.
  }
  function look() { // One look at the page: one measurement, and as many steps through the table as fit.
    var now = (headers[root.dataset.bHeader || ""] || []).find(function (one) { return one[0].matches; }); // The table of this page's header, for a window of this size.
    letters = parseFloat(getComputedStyle(root).fontSize) / 16; // Lengths grow with the reader's letters, as the header does.
    if (now && now[2] && broken(now[2] * letters, now[3] * letters)) now = 0; // What has broken over lines has no room in a small header: it stays as it is.
    var depth = Math.max(0, Math.min(scrollY, root.scrollHeight - innerHeight)), row; // How far the page is scrolled; a rubber band pulls past neither end.
    if (last === undefined) last = turn = depth; // A page may open scrolled; nothing has moved yet.
    if (depth !== last && depth > last !== down) { // It goes the other way now:
      down = !down; // so it is remembered
      turn = last; // where it turned.
    }
    last = depth; // For the next look.
    waiting = false; // The next scroll asks for another look.
    if (now !== cell) state = "rest"; // The window has another size: its own table begins at rest.
    cell = now;
    function fits(line) { // Whether a line of the table leads on from here:
      return line[0] === state && line.slice(2).every(function (guard) { // from this state, every guard
        return ([depth, down ? depth - turn : 0, down ? 0 : turn - depth][guard[0]] > guard[2] * letters) === !!guard[1]; // on depth, fall or rise: more than so many pixels, or at most that.
      });
    }
    while (cell && (row = cell[1].find(fits))) state = row[1]; // To the next state, until no line fits.
    if (root.dataset.bState !== state) root.dataset.bState = state; // The state as an attribute; the style does the rest.
  }
  function soon() { // However often the page is scrolled,
    if (!waiting) waiting = requestAnimationFrame(look); // there is one look a frame.
  }
  addEventListener("scroll", soon, { passive: true }); // It never holds the scrolling up.
  addEventListener("resize", soon, { passive: true }); // Another size may have another table.
  look(); // The page may have opened scrolled.
})();
