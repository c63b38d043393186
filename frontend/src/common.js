// @ts-check
// What the workspaces share: the state that came with the page, and asking the server.

export function pageState() {
  return JSON.parse(document.getElementById("state").textContent);
}

const meta = (name) => document.querySelector(`meta[name="${name}"]`)?.content ?? "";
export const nonce = () => meta("nonce");

const UNREACHED = { ok: false, status: 0, data: {} };

/** Ask the server; answers `{ ok, status, data }`, with status 0 where it cannot be reached. */
export function ask(method, address, body) {
  const headers = body ? { "Content-Type": "application/json" } : {};
  return answered(method, address, body ? JSON.stringify(body) : undefined, headers);
}

/** Send a form, such as one with files; answers as `ask` does. */
export const send = (address, form) => answered("POST", address, form, {});

async function answered(method, address, body, headers) {
  try {
    const response = await fetch(address, {
      method,
      headers: { Accept: "application/json", "X-CSRFToken": meta("token"), ...headers },
      body,
    });
    const data = await response.json().catch(() => null);
    // Yes, and then nothing more: the server was gone before it had said all.
    if (response.ok && data === null) return UNREACHED;
    return { ok: response.ok, status: response.status, data: data ?? {} };
  } catch {
    return UNREACHED;
  }
}

/**
 * Questions of one kind, of which only the last one's answer counts: answers may come in another order than they were
 * asked for. Call it when asking; what it gives says, once the answer is there, whether it is the last one's.
 */
export function questions() {
  let last = 0;
  return () => {
    const mine = ++last;
    return () => mine === last;
  };
}

/** The names of the icons that there are; asked for once, and again where there was no answer. */
export function iconNames(base) {
  let names = null;
  return async () => {
    names ??= ask("GET", `${base}/icons`);
    const { ok, data } = await names;
    if (!ok) names = null;
    return ok ? data : [];
  };
}

/** Whether a field is one that is ticked. */
export const isTicked = (field) => ["checkbox", "radio"].includes(field.type);

/** Whether a field holds something else than it came with. */
export function isChanged(field) {
  if (isTicked(field)) return field.checked !== field.defaultChecked;
  if (field.tagName !== "SELECT") return field.value !== field.defaultValue;
  const options = [...field.options];
  return (options.find((option) => option.defaultSelected) ?? options[0])?.selected === false;
}

/** A message in pieces, of which every second one is code: it stands between backticks. A single one of these stays. */
export function codePieces(text) {
  const pieces = text.split("`");
  return pieces.length % 2 ? pieces : [text];
}

/** A message as it is shown, for `replaceChildren`. */
export const withCode = (text) =>
  codePieces(text ?? "").map((piece, at) =>
    at % 2 ? Object.assign(document.createElement("code"), { textContent: piece }) : piece,
  );

/** A button beside a message. */
export function choice(label, act) {
  const button = Object.assign(document.createElement("button"), { type: "button", textContent: label });
  button.className = "button small";
  button.addEventListener("click", act);
  return button;
}

/** How lists move their rows while one is dragged: not at all for those who ask for less motion. */
export const sortingTime = () => (matchMedia("(prefers-reduced-motion: reduce)").matches ? 0 : 120);

/** A piece of a page from the server, or null. */
export async function piece(address) {
  try {
    const response = await fetch(address);
    return response.ok ? await response.text() : null;
  } catch {
    return null;
  }
}

/** Put the chosen page into the address of this page and of the links to the other workspaces. */
export function rememberPage(key) {
  const here = new URL(location.href);
  here.searchParams.set("page", key);
  here.searchParams.delete("line");
  here.searchParams.delete("column");
  history.replaceState(null, "", here);
  for (const link of document.querySelectorAll(".workspaces a")) {
    if (!/\/(map|pages|header|settings|preview|checks)$/.test(new URL(link.href).pathname)) continue;
    const there = new URL(link.href);
    there.searchParams.set("page", key);
    link.href = there.href;
  }
}
