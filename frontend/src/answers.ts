// Made by `make docs` from the structures in basilica/web; edit those, not this.

/**
 * The state of the site: its text where that is another than the one asked from.
 */
export interface Changes {
  revision: number;
  text: string | null;
  saved: boolean;
  contents: string;
  files: string;
}

/**
 * The workspace as it is opened: where its pieces are, and what is asked for.
 */
export interface ChecksState {
  data: string;
  beside: string;
  page: string;
  check: string;
  words: string;
  findings_only: boolean;
  table: boolean;
}

/**
 * How many contents were copied.
 */
export interface CopiedContent {
  copied: number;
}

/**
 * What goes with a page: shown, with the edit that deletes it, and how many addresses would move.
 */
export interface Deletion {
  shown: string;
  edit: Record<string, unknown>;
  moving: number;
}

/**
 * A part of the page that differs from that of another, in words.
 */
export interface DifferingPart {
  part: string;
  selector: string;
  words: string[];
}

/**
 * It was done.
 */
export interface Done {
  done: boolean;
}

/**
 * The text of a map after an edit, in words for Undo; ``ended`` and ``redirected`` count addresses.
 */
export interface EditedText {
  text: string;
  words: string;
  chosen: string | null;
  moves: [string, string | null][];
  ended: number;
  redirected: number;
  files: [string, string, string][];
}

/**
 * What the script knows of the map. ``places`` are lines and columns with the page that is written from there on;
 * ``auto`` the numbers of entries that follow the pages, by menu.
 */
export interface Facts {
  good: boolean;
  findings: UnderlinedFinding[];
  places: [number, number, string | null][] | null;
  pages: KnownPage[];
  auto: Record<string, number[]>;
  names: KnownNames;
}

/**
 * A page that was looked for, with the labels of the pages ``above`` it.
 */
export interface FoundPage {
  key: string;
  label: string;
  path: string;
  above: string[];
  href: string;
}

/**
 * Where the header is at a moment, px from the top of the window.
 */
export interface HeaderMoment {
  shown: string;
  state: string;
  top: number;
  height: number;
}

/**
 * The workspace as it is opened; ``starts`` are the words and values of each starting point, ``query`` what is
 * asked for in the address.
 */
export interface HeaderState {
  token: string;
  root: string;
  path: string;
  window: [number, number];
  starts: Record<string, Record<string, string>>;
  query: Record<string, string>;
}

/**
 * What can be named in the map, for completion; ``colours`` by their names.
 */
export interface KnownNames {
  files: string[];
  facts: string[];
  parts: string[];
  menus: string[];
  layouts: string[];
  ends: string[];
  colours: Record<string, string>;
}

/**
 * A page as the editor and the plan need it: where it is written, its number in the main menu, and why it, or what
 * is below it, cannot be edited in the map, less by the acts of ``cells``.
 */
export interface KnownPage {
  key: string;
  title: string;
  path: string;
  line: number;
  column: number;
  main?: number | null;
  elsewhere?: string | null;
  below?: string | null;
  cells?: string[] | null;
}

/**
 * What a list makes of the map, shown before it is done.
 */
export interface ListedChanges {
  text: string;
  empty: boolean;
  moves: [string, string | null][];
  words: string;
  shown: string;
  files: [string, string, string][];
}

/**
 * The site that a list makes, shown before it is made.
 */
export interface ListedSite {
  empty: boolean;
  shown: string;
}

/**
 * The Map workspace as it is opened.
 */
export interface MapState extends Facts {
  slug: string;
  text: string;
  revision: number;
  contents: string;
  files: string;
  saved: boolean;
  chosen: string | null;
  folder: string | null;
  words: Record<string, SchemaSection>;
}

/**
 * Two texts put together, and both shown where they meet; ``clean`` where no line meets, and where the map has no
 * errors that neither text had.
 */
export interface MergedTexts {
  text: string;
  theirs: string;
  revision: number;
  shown: string;
  clean: boolean;
}

/**
 * The tiles: columns as name, short title, title and whether it is a part; rows as name, label, depth and one
 * letter for each column; what each letter means, and the letters by gravity.
 */
export interface MosaicTiles {
  columns: [string, string, string, boolean][];
  rows: [string, string, number, string][];
  words: Record<string, string>;
  order: string;
}

/**
 * The workspace as it is opened: widths in px by name, and the address of each page by its id.
 */
export interface PreviewState {
  token: string;
  root: string;
  widths: [string, number][];
  pages: [string, string][];
  chosen: string | null;
}

/**
 * What the built files say; all but the revision is empty while they are being built.
 */
export interface Proof {
  revision: number;
  findings: UnderlinedFinding[];
  lists: string;
  status: string;
}

/**
 * Why something was not done. ``asks`` names what the person must agree to first; the other values belong to a
 * conflict: the ``text`` and ``revision`` as they are now, ``merged`` what both made, ``lost`` lines of theirs that
 * this would replace, ``file`` the file in conflict.
 */
export interface Refusal {
  message: string;
  asks?: string | null;
  text?: string | null;
  revision?: number | null;
  merged?: string | null;
  lost?: string[];
  file?: string | null;
}

/**
 * The text was saved; ``folder`` is what is the matter with the site's folder, ``drawing`` the plan where the map
 * has no errors.
 */
export interface SavedText extends Facts {
  revision: number;
  saved: boolean;
  folder: string;
  lists: string;
  status: string;
  drawing: string | null;
}

/**
 * A version was saved.
 */
export interface SavedVersion {
  revision: number;
  saved: boolean;
  status: string;
}

/**
 * The words of a section, and the section of the ``items`` of its list.
 */
export interface SchemaSection {
  words: SchemaWord[];
  items?: string | null;
}

/**
 * A word of the map language, with the section ``below`` it; ``named`` where people's own names come first.
 */
export interface SchemaWord {
  name: string;
  meaning: string;
  type: string;
  values: string[];
  below?: string | null;
  named?: boolean;
  of?: string | null;
}

/**
 * The pages that a preview served last, by id (none for an address without a page), and the number of the last.
 */
export interface ServedPages {
  keys: (string | null)[];
  serial: number;
}

/**
 * The workspace as it is opened: the preview, and the path of the page in it.
 */
export interface SettingsState {
  token: string;
  root: string;
  path: string;
}

/**
 * A header that is tried: why it cannot be (``message``), its trace, and what is shown of it.
 */
export interface TriedHeader {
  message: string;
  tried: boolean;
  trace: number[][];
  elevation: string;
  facts: string;
  fields: string;
}

/**
 * Settings that are tried: how many are changed, and what is shown of them.
 */
export interface TriedSettings {
  message: string;
  changed: number;
  path: string;
  beside: string;
}

/**
 * A finding as the editor underlines it.
 */
export interface UnderlinedFinding {
  line: number;
  column: number;
  level: string;
  message: string;
  remedy: string;
  fix: [[number, number], [number, number], string] | null;
}

/**
 * What was taken back, in words.
 */
export interface Undone {
  words: string;
}

/**
 * An icon is a file of the site; ``added`` is its text where it was not there before.
 */
export interface UploadedIcon {
  name: string;
  added: string | null;
}

/**
 * What has changed since the latest version: in a line, in full, and as marks for the plan.
 */
export interface VersionImpact {
  bar: string;
  full: string;
  marks: Record<string, string>;
  same: boolean;
}

/**
 * The text of a version.
 */
export interface VersionText {
  text: string;
}

/**
 * The content of a page was saved; ``merged`` is the text with somebody else's words, ``redraw`` whether the plan
 * says something else now.
 */
export interface WrittenContent {
  saved: boolean;
  status: string;
  folder: string;
  redraw: boolean;
  merged: string | null;
}
