// @ts-check
// Forms and links that leave one where one is: what the server answers is morphed into the page that stands.
import Alpine from "@alpinejs/csp";
import { isChanged, isTicked, withCode } from "./common.js";

const UNREACHED = "Basilica cannot be reached. What you typed is still here.";
const JOINT = ["standing", "state"]; // beside the main part, what each page brings by its id

const SAVED_BY_HAND = "form[data-stay]";

const fieldsOf = (part) =>
  [...part.querySelectorAll("input:not([type=file], [type=hidden]), textarea:not([hidden]), select")].filter(
    (field) => field.name && field.form?.matches(SAVED_BY_HAND),
  );
const held = (field) => (isTicked(field) ? field.checked : field.value);

/** What a form is about, such as a page of a language: where it is sent, and what it says without being asked. */
function subjectOf(form) {
  const said = [...form.querySelectorAll("input[type=hidden]")]
    .filter((field) => !["csrf_token", "revision", "seen", "was"].includes(field.name))
    .map((field) => `${field.name}=${field.value}`);
  return [form.getAttribute("action"), ...said].join();
}

/** A field by what its form is about, for what stands in its place is another element once the page was morphed. */
function placeOf(field) {
  const alike = [...field.form.elements].filter((one) => one.name === field.name);
  return { about: subjectOf(field.form), name: field.name, index: alike.indexOf(field) };
}
function fieldAt({ about, name, index }) {
  const form = [...document.querySelectorAll(SAVED_BY_HAND)].find((one) => subjectOf(one) === about);
  return form && [...form.elements].filter((one) => one.name === name)[index];
}

/**
 * What stays as it is while `form` is saved: what was changed in other forms, with what that was written over
 * (`was`, `seen`), and what was typed into this one after it was sent. A function that puts it back, where it is still asked.
 */
function unsaved(main, form, sent) {
  const changed = fieldsOf(main).filter((field) =>
    field.form === form ? held(field) !== sent.get(field) : isChanged(field),
  );
  const others = new Set(changed.map((field) => field.form).filter((other) => other !== form));
  const was = [...others]
    .flatMap((other) => ["was", "seen"].map((name) => other.elements.namedItem(name)))
    .filter(Boolean);
  const kept = [...changed, ...was].map((field) => ({ ...placeOf(field), value: held(field) }));
  const active = fieldsOf(main).find((field) => field === document.activeElement);
  const focus = active && { ...placeOf(active), from: active.selectionStart, to: active.selectionEnd };
  return () => {
    for (const one of kept) {
      const field = fieldAt(one);
      if (field) field[isTicked(field) ? "checked" : "value"] = one.value;
    }
    const field = focus && fieldAt(focus);
    if (!field || field === document.activeElement) return;
    field.focus({ preventScroll: true });
    if (focus.from !== null && focus.from !== undefined) field.setSelectionRange(focus.from, focus.to);
  };
}

const withoutAnchor = (address) => address.split("#")[0];

let shown = location.href; // what the page shows, which the address is not any more when one goes back
let taken = Promise.resolve("");
let underway = 0;

/** One after the other: what was asked for last is what is shown. Answers why nothing came of it, or nothing. */
function take(address, options, push, form = null) {
  const sent = new Map(fieldsOf(document).map((field) => [field, held(field)]));
  underway += 1;
  taken = taken
    .catch(() => {})
    .then(() => takeNow(address, options, push, form, sent))
    .finally(() => {
      underway -= 1;
    });
  return taken;
}

async function takeNow(address, options, push, form, sent) {
  const main = document.getElementById("content");
  main.setAttribute("aria-busy", "true");
  const answer = await fetch(address, options).catch(() => null);
  const html = answer && (await answer.text().catch(() => null)); // null too where it is cut off
  const page = html && new DOMParser().parseFromString(html, "text/html");
  const fresh = page?.getElementById("content");
  main.removeAttribute("aria-busy");
  // Another screen, or none: what this one was asked for did not come about.
  if (!html || fresh?.className !== main.className) return (fresh ?? page?.body)?.textContent.trim() || UNREACHED;
  const putBack = unsaved(main, form, sent);
  // The lines between panes are this page's own.
  const columns = main.style.gridTemplateColumns;
  const dividers = [...main.children].map((pane) => pane.querySelector(":scope > .divider"));
  for (const divider of dividers) divider?.remove();
  Alpine.morph(main, fresh.outerHTML, {
    // A frame is led on, by whoever has it or here: a new `src` would be a step of the history.
    updating(element, to, _children, skip) {
      if (element.tagName !== "IFRAME" || to.tagName !== "IFRAME") return;
      if (!element.hasAttribute("x-ref")) element.contentWindow?.location.replace(to.src);
      skip();
    },
  });
  for (const [index, divider] of dividers.entries()) if (divider) main.children[index]?.append(divider);
  main.style.gridTemplateColumns = columns;
  for (const id of JOINT) {
    const [old, now] = [document.getElementById(id), page.getElementById(id)];
    if (old && now) old.innerHTML = now.innerHTML;
  }
  for (const field of main.querySelectorAll("input:not([type=file]), textarea"))
    if (answer.ok && !isTicked(field)) field.value = field.defaultValue;
  for (const field of form?.querySelectorAll("input[type=file]") ?? []) if (answer.ok) field.value = ""; // it is there
  putBack();
  document.title = page.title;
  // A refusal has the address of what was refused, where nothing is to be shown again.
  if (answer.ok) {
    history[push ? "pushState" : "replaceState"](null, "", answer.url);
    shown = answer.url;
  }
  document.dispatchEvent(new CustomEvent("stayed"));
  return "";
}

const isUnsaved = () => fieldsOf(document).some(isChanged);

export function staying() {
  addEventListener("beforeunload", (event) => {
    if (isUnsaved()) event.preventDefault();
  });
  document.addEventListener("submit", async (event) => {
    const form = /** @type {HTMLFormElement} */ (event.target);
    if (!form.matches("[data-stay]") || event.defaultPrevented) return;
    event.preventDefault();
    const body = new FormData(form, event.submitter);
    const problem = await take(form.action, { method: "POST", body }, false, form);
    const told = document.querySelector("#content [role=alert]");
    if (!problem || !told) return;
    told.replaceChildren(...withCode(problem));
    told.hidden = false;
  });
  document.addEventListener("click", async (event) => {
    const link = event.target.closest("a[href]:not([target], [download])");
    if (!link || event.defaultPrevented || event.ctrlKey || event.metaKey || event.shiftKey) return;
    const stays = link.matches("[data-stay]");
    if (!underway && (!stays || isUnsaved())) return; // the browser asks whether what is not saved may go
    event.preventDefault();
    await taken; // what is being saved is not left before it is
    if (!stays || isUnsaved() || (await take(link.href, {}, true))) location.assign(link.href);
  });
  addEventListener("popstate", async () => {
    const asked = location.href;
    if (!document.querySelector("a[data-stay]") || withoutAnchor(asked) === withoutAnchor(shown)) return;
    if (isUnsaved()) {
      history.pushState(null, "", shown); // as it was, while the browser asks
      location.assign(asked);
    } else if (await take(asked, {}, false)) location.reload();
  });
}
