// How the code looks: its colours, and how deep a new line stands.
import { HighlightStyle, indentService, syntaxHighlighting } from "@codemirror/language";
import { type Extension, StateEffect, StateField } from "@codemirror/state";
import { Decoration, type DecorationSet, EditorView, ViewPlugin, type ViewUpdate, WidgetType } from "@codemirror/view";
import { tags } from "@lezer/highlight";
import { made } from "../shared/elements.ts";
import { coloursIn } from "./tree.ts";

const colours = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: "var(--color-lapis)", fontWeight: "600" },
  { tag: tags.comment, color: "var(--color-basalt)" },
  { tag: [tags.string, tags.special(tags.string)], color: "var(--color-malachite)" },
  { tag: [tags.content, tags.attributeValue], color: "var(--color-ink)" },
  { tag: [tags.separator, tags.punctuation, tags.squareBracket, tags.brace], color: "var(--color-basalt)" },
]);

/** A new line stands as deep as the one before it, and one step deeper after a colon. */
const depth = indentService.of((context, at) => {
  const { text } = context.lineAt(at, -1);
  const lead = text.length - text.replace(/^ +/, "").length;
  if (!/:\s*(#.*)?$/.test(text)) return lead;
  return lead + (/^ *- /.test(text) ? 4 : 2);
});

/** A square of a colour. */
export function swatch(colour: string): HTMLElement {
  const dom = made("span", "", "cm-swatch");
  dom.style.backgroundColor = colour;
  return dom;
}
class Swatch extends WidgetType {
  constructor(private readonly colour: string) {
    super();
  }
  override eq(other: Swatch): boolean {
    return other.colour === this.colour;
  }
  override toDOM(): HTMLElement {
    return swatch(this.colour);
  }
}
/** A square of each colour before it. */
function coloursOf(view: EditorView): DecorationSet {
  const found = view.visibleRanges.flatMap(({ from, to }) =>
    coloursIn(view.state.sliceDoc(from, to)).map((one) =>
      Decoration.widget({ widget: new Swatch(one.colour), side: -1 }).range(from + one.from),
    ),
  );
  return Decoration.set(found, true);
}
const swatches = ViewPlugin.define(
  (view) => ({
    decorations: coloursOf(view),
    update(change: ViewUpdate) {
      if (change.docChanged || change.viewportChanged) this.decorations = coloursOf(change.view);
    },
  }),
  { decorations: (plugin) => plugin.decorations },
);

/** Lines that somebody else changed, by where they begin; they are marked until others arrive, or none. */
export const arrived = StateEffect.define<number[]>();
const arrivedLine = Decoration.line({ class: "cm-arrived" });
export const arrivedLines = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(marks, { changes, effects }) {
    const now = effects.find((effect) => effect.is(arrived));
    return now ? Decoration.set(now.value.map((at) => arrivedLine.range(at))) : marks.map(changes);
  },
  provide: (field) => EditorView.decorations.from(field),
});

/** The looks of the code, as one extension. */
export const codeLooks: Extension = [depth, syntaxHighlighting(colours), swatches];
