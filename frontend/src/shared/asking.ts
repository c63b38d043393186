// The state that came with the page, and asking the server.
import type { Refusal } from "../answers.ts";
import { byId } from "./elements.ts";

/** The state that came with the page, which is of the kind that its workspace is given. */
export const pageState = <State>(): State => JSON.parse(byId("state").textContent) as State;

const meta = (name: string): string => document.querySelector<HTMLMetaElement>(`meta[name="${name}"]`)?.content ?? "";
export const nonce = (): string => meta("nonce");

/** An answer of the kind that was asked for, or why there is none; its status is 0 where the server was not reached. */
export type Answered<Kind> =
  | { ok: true; status: number; data: Kind }
  | { ok: false; status: number; data: Partial<Refusal> };

const UNREACHED = { ok: false, status: 0, data: {} } as const;

/** Ask the server. */
export function ask<Kind>(method: string, address: string | URL, body?: unknown): Promise<Answered<Kind>> {
  const headers: Record<string, string> = body ? { "Content-Type": "application/json" } : {};
  return answered(method, address, body ? JSON.stringify(body) : undefined, headers);
}

/** Send a form, such as one with files; answers as `ask` does. */
export const send = <Kind>(address: string, form: FormData): Promise<Answered<Kind>> =>
  answered("POST", address, form, {});

async function answered<Kind>(
  method: string,
  address: string | URL,
  body: BodyInit | undefined,
  headers: Record<string, string>,
): Promise<Answered<Kind>> {
  try {
    const response = await fetch(address, {
      method,
      headers: { Accept: "application/json", "X-CSRFToken": meta("token"), ...headers },
      body,
    });
    const data: unknown = await response.json().catch(() => null);
    const { ok, status } = response;
    if (!ok) return { ok, status, data: isRefusal(data) ? data : {} };
    // Yes, and then nothing more: the server was gone before it had said all.
    return typeof data === "object" && data !== null ? { ok, status, data: data as Kind } : UNREACHED;
  } catch {
    return UNREACHED;
  }
}

const isRefusal = (data: unknown): data is Refusal =>
  typeof data === "object" && data !== null && "message" in data && typeof data.message === "string";

/**
 * Questions of one kind, of which only the last one's answer counts: answers may come in another order than they were
 * asked for. Call it when asking; what it gives says, once the answer is there, whether it is the last one's.
 */
export function questions(): () => () => boolean {
  let last = 0;
  return () => {
    const mine = ++last;
    return () => mine === last;
  };
}

/** The names of the icons that there are; asked for once, and again where there was no answer. */
export function iconNames(base: string): () => Promise<string[]> {
  let names: Promise<Answered<string[]>> | null = null;
  return async () => {
    names ??= ask<string[]>("GET", `${base}/icons`);
    const { ok, data } = await names;
    if (!ok) names = null;
    return ok ? data : [];
  };
}

/** A piece of a page from the server, or null. */
export async function piece(address: string): Promise<string | null> {
  try {
    const response = await fetch(address);
    return response.ok ? await response.text() : null;
  } catch {
    return null;
  }
}
