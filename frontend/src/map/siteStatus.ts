// How the site stands: saved or not, what was found, and what has changed since the latest version.
import type { Proof, VersionImpact } from "../answers.ts";
import { ask, questions } from "../shared/asking.ts";
import { byId, put } from "../shared/elements.ts";
import type { MapScreen } from "./screen.ts";

export class SiteStatus {
  private readonly askedForReach = questions();
  private waitForProof: ReturnType<typeof setTimeout> | undefined;
  private waitForReach: ReturnType<typeof setTimeout> | undefined;
  private reachWords = "";
  /** What became of pages since the latest version, by key. */
  marks: Record<string, string> = {};

  constructor(private readonly screen: MapScreen) {}

  /** Show what an answer says of the site, which is not yet of what was typed since. */
  show(html: string): void {
    put(byId("standing"), html);
    if (this.screen.isPast()) this.markTyping();
    this.showReachBar();
    this.screen.edits.showSteps();
  }
  markTyping(): void {
    const mark = document.getElementById("saved-mark");
    mark?.setAttribute("data-saved", "typing");
    const word = mark?.querySelector(".word");
    if (word) word.textContent = "Unsaved changes";
  }

  /** Once the person pauses, the built files are read again too; what is off there joins the list. */
  proveSoon(pause: number): void {
    clearTimeout(this.waitForProof);
    this.waitForProof = setTimeout(() => this.prove(), pause);
  }
  private async prove(): Promise<void> {
    const { screen } = this;
    const { changes } = screen.saving;
    if (screen.isPast()) return this.proveSoon(500);
    const { ok, status, data } = await ask<Proof>("GET", `${screen.base}/proof`);
    if (!ok) {
      if (status === 503) screen.saving.say(data.message ?? "");
      return;
    }
    if (data.revision !== screen.saving.revision || !screen.facts.good) return;
    if (changes !== screen.saving.changes || screen.isPast()) return this.proveSoon(200);
    if (status === 202) return this.proveSoon(1500);
    screen.editor.underline(data.findings);
    put(screen.refs.lists, data.lists);
    this.show(data.status);
  }

  /** What has changed since the latest version: on the bar, in full, and as flags on the plan. */
  reachSoon(pause: number): void {
    clearTimeout(this.waitForReach);
    this.waitForReach = setTimeout(async () => {
      const isLast = this.askedForReach();
      const { ok, data } = await ask<VersionImpact>("GET", `${this.screen.base}/reach`);
      if (!ok || !isLast()) return;
      put(this.screen.refs.reach, data.full);
      this.reachWords = data.same ? "" : data.bar;
      this.marks = data.marks;
      this.showReachBar();
      this.screen.plan.decorate();
    }, pause);
  }
  private showReachBar(): void {
    const bar = document.getElementById("reach-bar");
    if (!bar) return;
    bar.textContent = this.reachWords;
    bar.hidden = !this.reachWords;
  }
}
