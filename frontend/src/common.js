// @ts-check
// What the workspaces share: the state that came with the page, and asking the server.

export function pageState() {
  return JSON.parse(document.getElementById("state").textContent);
}

const meta = (name) => document.querySelector(`meta[name="${name}"]`)?.content ?? "";
export const nonce = () => meta("nonce");

/** Ask the server; answers `{ ok, status, data }`, with status 0 where it cannot be reached. */
export async function ask(method, address, body) {
  try {
    const response = await fetch(address, {
      method,
      headers: {
        Accept: "application/json",
        "X-CSRFToken": meta("token"),
        ...(body ? { "Content-Type": "application/json" } : {}),
      },
      body: body ? JSON.stringify(body) : undefined,
    });
    const data = await response.json().catch(() => ({}));
    return { ok: response.ok, status: response.status, data };
  } catch {
    return { ok: false, status: 0, data: {} };
  }
}

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
