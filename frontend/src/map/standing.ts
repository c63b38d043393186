// How the site stands: saved or not, what was found, and what has changed since the latest version.
import type { Proof, VersionImpact } from "../answers.ts";
import { ask, questions } from "../shared/asking.ts";
import { byId, put } from "../shared/elements.ts";
import type { Desk } from "./desk.ts";

export class Standing {
  private readonly askedForReach = questions();
  private waitForProof: ReturnType<typeof setTimeout> | undefined;
  private waitForReach: ReturnType<typeof setTimeout> | undefined;
  private reachWords = "";
  /** What became of pages since the latest version, by key. */
  marks: Record<string, string> = {};

  constructor(private readonly desk: Desk) {}

  /** Show what an answer says of the site, which is not yet of what was typed since. */
  show(html: string): void {
    put(byId("standing"), html);
    if (this.desk.isPast()) this.markTyping();
    this.showReachBar();
    this.desk.edits.showSteps();
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
    const { desk } = this;
    const { changes } = desk.saving;
    if (desk.isPast()) return this.proveSoon(500);
    const { ok, status, data } = await ask<Proof>("GET", `${desk.base}/proof`);
    if (!ok) {
      if (status === 503) desk.saving.say(data.message ?? "");
      return;
    }
    if (data.revision !== desk.saving.revision || !desk.facts.good) return;
    if (changes !== desk.saving.changes || desk.isPast()) return this.proveSoon(200);
    if (status === 202) return this.proveSoon(1500);
    desk.editor.underline(data.findings);
    put(desk.refs.lists, data.lists);
    this.show(data.status);
  }

  /** What has changed since the latest version: on the bar, in full, and as flags on the plan. */
  reachSoon(pause: number): void {
    clearTimeout(this.waitForReach);
    this.waitForReach = setTimeout(async () => {
      const isLast = this.askedForReach();
      const { ok, data } = await ask<VersionImpact>("GET", `${this.desk.base}/reach`);
      if (!ok || !isLast()) return;
      put(this.desk.refs.reach, data.full);
      this.reachWords = data.same ? "" : data.bar;
      this.marks = data.marks;
      this.showReachBar();
      this.desk.plan.decorate();
    }, pause);
  }
  private showReachBar(): void {
    const bar = document.getElementById("reach-bar");
    if (!bar) return;
    bar.textContent = this.reachWords;
    bar.hidden = !this.reachWords;
  }
}
