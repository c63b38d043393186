// Forms and links that leave one where one is: what the server answers is morphed into the page that stands.
import Alpine from "@alpinejs/csp";
import { all, around, byId, isForBrowser, made, put } from "../shared/elements.ts";
import { isTicked } from "../shared/fields.ts";
import { withCode } from "../shared/messages.ts";
import { type Held, heldNow, isUnsaved, unsaved } from "./kept.ts";

const UNREACHED = "Basilica cannot be reached. What you typed is still here.";
const JOINT = ["standing", "state"]; // beside the main part, what each page brings by its id

const withoutAnchor = (address: string): string => address.split("#")[0];

let shown = location.href; // what the page shows, which the address is not any more when one goes back
let taken: Promise<string> = Promise.resolve("");
let underway = 0;

/** One after the other: what was asked for last is what is shown. Answers why nothing came of it, or nothing. */
function take(
  address: string,
  options: RequestInit,
  push: boolean,
  form: HTMLFormElement | null = null,
): Promise<string> {
  const sent = heldNow();
  underway += 1;
  taken = taken
    .catch(() => "")
    .then(() => takeNow(address, options, push, form, sent))
    .finally(() => {
      underway -= 1;
    });
  return taken;
}

/** What the server answers, as the page it is; without one, why. */
async function answerTo(address: string, options: RequestInit, main: HTMLElement) {
  const answer = await fetch(address, options).catch(() => null);
  const html = await answer?.text().catch(() => null); // null too where it is cut off
  const page = html ? new DOMParser().parseFromString(html, "text/html") : null;
  const fresh = page?.getElementById("content");
  // Another screen, or none: what this one was asked for did not come about.
  if (!answer || !page || !fresh || fresh.className !== main.className)
    return { problem: (fresh ?? page?.body)?.textContent.trim() || UNREACHED };
  return { answer, page, fresh };
}

async function takeNow(
  address: string,
  options: RequestInit,
  push: boolean,
  form: HTMLFormElement | null,
  sent: Held,
): Promise<string> {
  const main = byId("content");
  main.setAttribute("aria-busy", "true");
  const { problem, answer, page, fresh } = await answerTo(address, options, main);
  main.removeAttribute("aria-busy");
  if (problem !== undefined) return problem;
  const putBack = unsaved(main, form, sent);
  // The lines between panes are this page's own.
  const columns = main.style.gridTemplateColumns;
  const dividers = [...main.children].map((pane) => pane.querySelector(":scope > .divider"));
  for (const divider of dividers) divider?.remove();
  Alpine.morph(main, fresh.outerHTML, { updating: leadFrames });
  for (const [index, divider] of dividers.entries()) if (divider) main.children[index]?.append(divider);
  main.style.gridTemplateColumns = columns;
  for (const id of JOINT) {
    const [old, now] = [document.getElementById(id), page.getElementById(id)];
    if (!old || !now) continue;
    if (old instanceof HTMLScriptElement) old.textContent = now.textContent;
    else put(old, now.innerHTML);
  }
  if (answer.ok) {
    for (const field of all<HTMLInputElement | HTMLTextAreaElement>(main, "input:not([type=file]), textarea"))
      if (!isTicked(field)) field.value = field.defaultValue;
    for (const field of form ? all<HTMLInputElement>(form, "input[type=file]") : []) field.value = ""; // it is there
  }
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

/** A frame is led on, by whoever has it or here: a new `src` would be a step of the history. */
function leadFrames(element: Node, to: Node, _children: () => void, skip: () => void): void {
  if (!(element instanceof HTMLIFrameElement) || !(to instanceof Element) || to.tagName !== "IFRAME") return;
  if (!element.hasAttribute("x-ref")) element.contentWindow?.location.replace((to as HTMLIFrameElement).src);
  skip();
}

/** The place for a message where the page has none: before the form. */
function newAlert(form: HTMLFormElement): HTMLElement {
  const told = made("p", "", "notice wrong");
  told.setAttribute("role", "alert");
  form.before(told);
  return told;
}

export function staying(): void {
  addEventListener("beforeunload", (event) => {
    if (isUnsaved()) event.preventDefault();
  });
  document.addEventListener("submit", async (event) => {
    const form = event.target;
    if (!(form instanceof HTMLFormElement) || !form.matches("[data-stay]") || event.defaultPrevented) return;
    event.preventDefault();
    const body = new FormData(form, event.submitter);
    const problem = await take(form.action, { method: "POST", body }, false, form);
    if (!problem) return;
    const told = document.querySelector<HTMLElement>("#content [role=alert]") ?? newAlert(form);
    told.replaceChildren(...withCode(problem));
    told.hidden = false;
  });
  document.addEventListener("click", async (event) => {
    const link = around<HTMLAnchorElement>(event, "a[href]:not([target], [download])");
    if (!link || event.defaultPrevented || isForBrowser(event)) return;
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
