// The frames of the preview.
import type { Known } from "./loads.ts";

/** A frame that there is to be: its width in px, the version that it shows (empty for the current site), and its page
    where that is one of its own. */
export type Wanted = { width: number; state: string; page?: string | null };
export type Frame = Wanted & { frame: HTMLIFrameElement; token: string; root: string; loads: number; known: Known };
