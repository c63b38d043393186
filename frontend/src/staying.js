// @ts-check
// Forms and links that leave one where one is: what the server answers is morphed into the page that stands.
import Alpine from "@alpinejs/csp";

const UNREACHED = "Basilica cannot be reached. What you typed is still here.";
const JOINT = ["standing", "state"]; // beside the main part, what each page brings by its id

async function take(address, options, push) {
  const main = document.getElementById("content");
  main.setAttribute("aria-busy", "true");
  const answer = await fetch(address, options).catch(() => null);
  const page = answer && new DOMParser().parseFromString(await answer.text(), "text/html");
  const fresh = page?.getElementById("content");
  main.removeAttribute("aria-busy");
  // Another screen, or none: what this one was asked for did not come about.
  if (!answer || fresh?.className !== main.className) return (fresh ?? page?.body)?.textContent.trim() || UNREACHED;
  const columns = main.style.gridTemplateColumns;
  Alpine.morph(main, fresh.outerHTML, {
    // Where one is scrolled to, and the lines between panes, are this page's own.
    // A frame is led on by whoever has it: a new address here would be a step of the history.
    updating(element, _to, _children, skip) {
      if (element.classList?.contains("divider") || element.tagName === "IFRAME") skip();
    },
    removing(element, skip) {
      if (element.classList?.contains("divider")) skip();
    },
  });
  main.style.gridTemplateColumns = columns;
  for (const id of JOINT) {
    const [old, now] = [document.getElementById(id), page.getElementById(id)];
    if (old && now) old.innerHTML = now.innerHTML;
  }
  for (const field of main.querySelectorAll("input:not([type=file]), textarea"))
    if (answer.ok && !["checkbox", "radio"].includes(field.type)) field.value = field.defaultValue;
  document.title = page.title;
  // A refusal has the address of what was refused, where nothing is to be shown again.
  if (answer.ok) history[push ? "pushState" : "replaceState"](null, "", answer.url);
  document.dispatchEvent(new CustomEvent("stayed"));
  return "";
}

export function staying() {
  document.addEventListener("submit", async (event) => {
    const form = /** @type {HTMLFormElement} */ (event.target);
    if (!form.matches("[data-stay]") || event.defaultPrevented) return;
    event.preventDefault();
    const body = new FormData(form, event.submitter);
    const problem = await take(form.action, { method: "POST", body }, false);
    const told = document.querySelector("#content [role=alert]");
    if (!problem || !told) return;
    told.textContent = problem;
    told.hidden = false;
  });
  document.addEventListener("click", async (event) => {
    const link = event.target.closest("a[data-stay]");
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey) return;
    event.preventDefault();
    if (await take(link.href, {}, true)) location.assign(link.href);
  });
  addEventListener("popstate", () => {
    if (document.querySelector("a[data-stay]")) take(location.href, {}, false);
  });
}
