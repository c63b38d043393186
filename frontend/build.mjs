// Builds the application's scripts, styles, fonts and icons into the folder named as the first argument, and the icons
// that menu entries may have into the file named as the second.
import { execFileSync } from "node:child_process";
import { copyFileSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

const here = dirname(fileURLToPath(import.meta.url));
const out = resolve(process.argv[2]);
const entryIcons = resolve(process.argv[3]);
const modules = join(here, "node_modules");

const FONTS = {
  "schibsted-grotesk": ["latin-400-normal", "latin-600-normal", "latin-ext-400-normal", "latin-ext-600-normal"],
  "sometype-mono": ["latin-400-normal", "latin-600-normal", "latin-ext-400-normal"],
  marcellus: ["latin-400-normal"],
};
const PAGE_FONTS = ["figtree", "source-serif-4", "archivo", "atkinson-hyperlegible-next"]; // of generated pages: core/shared/fonts.py
const ICONS = readFileSync(join(here, "icons.txt"), "utf8").trim().split(/\s+/);

for (const folder of ["fonts", "page-fonts", "icons", "scripts"]) {
  rmSync(join(out, folder), { recursive: true, force: true });
  mkdirSync(join(out, folder), { recursive: true });
}
for (const [family, cuts] of Object.entries(FONTS)) {
  for (const cut of cuts) {
    const name = `${family}-${cut}.woff2`;
    copyFileSync(join(modules, "@fontsource", family, "files", name), join(out, "fonts", name));
  }
}
for (const family of PAGE_FONTS) {
  for (const part of ["latin", "latin-ext"]) {
    const file = join(modules, "@fontsource-variable", family, "files", `${family}-${part}-wght-normal.woff2`);
    copyFileSync(file, join(out, "page-fonts", `${family}-${part}.woff2`));
  }
}
for (const icon of ICONS) {
  const svg = readFileSync(join(modules, "lucide-static/icons", `${icon}.svg`), "utf8")
    .replace(/<!--.*?-->\s*/gs, "")
    .replace(/\s+/g, " ")
    .replace(/ class="[^"]*"/, ' class="icon" aria-hidden="true" focusable="false"')
    .replace('width="24" height="24"', 'width="16" height="16"')
    .trim();
  writeFileSync(join(out, "icons", `${icon}.svg`), svg);
}
const shapes = JSON.parse(readFileSync(join(modules, "lucide-static/icon-nodes.json"), "utf8"));
const drawn = ([tag, attributes]) =>
  `<${tag}${Object.entries(attributes)
    .map(([name, value]) => ` ${name}="${value}"`)
    .join("")}/>`;
const lines = Object.entries(shapes).map(([name, nodes]) => `${name}\t${nodes.map(drawn).join("")}\n`);
mkdirSync(dirname(entryIcons), { recursive: true });
writeFileSync(entryIcons, lines.sort().join(""));
copyFileSync(join(here, "src/icon.svg"), join(out, "icon.svg"));
// A script for each screen; what several have in common, such as Alpine, is loaded once. The names of these shared pieces
// change with their text, so that a page never has one of another version.
const { metafile } = await build({
  metafile: true,
  absWorkingDir: here,
  entryPoints: readdirSync(join(here, "src/entries")).map((name) => `src/entries/${name}`),
  outdir: join(out, "scripts"),
  chunkNames: "shared-[hash]",
  bundle: true,
  splitting: true,
  minify: true,
  target: "es2022",
  format: "esm",
  legalComments: "none",
});
execFileSync(
  process.execPath,
  [
    join(modules, "@tailwindcss/cli/dist/index.mjs"),
    "-i",
    join(here, "src/app.css"),
    "-o",
    join(out, "app.css"),
    "--minify",
  ],
  { stdio: ["ignore", "ignore", "inherit"], cwd: here },
);

// The notices of everything that ships in these files: what was bundled, the fonts, the icons, the ground of the styles.
const bundled = Object.keys(metafile.inputs).map((path) => path.match(/^node_modules\/((?:@[^/]+\/)?[^/]+)/)?.[1]);
const shipped = new Set([
  ...bundled.filter(Boolean),
  ...Object.keys(FONTS).map((family) => `@fontsource/${family}`),
  ...PAGE_FONTS.map((family) => `@fontsource-variable/${family}`),
  "lucide-static",
  "tailwindcss",
  "@vue/reactivity",
  "@vue/shared",
]);
const OWN_NOTICES = { "@alpinejs/csp": "alpinejs.txt", "@alpinejs/morph": "alpinejs.txt" }; // of packages that have no file with their licence; the last two above are within it
const SAID_IN_FILES = {
  "@fontsource-variable/source-serif-4":
    "Copyright © 2014 - 2021 Adobe Systems Incorporated (http://www.adobe.com/), with Reserved Font Name 'Source'.",
}; // by whom a font is, where its file alone says it
const notices = [...shipped].sort().map((name) => {
  const folder = join(modules, name);
  const { version, license } = JSON.parse(readFileSync(join(folder, "package.json"), "utf8"));
  const file = readdirSync(folder).find((entry) => /^licen[cs]e(\.|$)/i.test(entry));
  const text = readFileSync(file ? join(folder, file) : join(here, "notices", OWN_NOTICES[name]), "utf8").trim();
  const whose = SAID_IN_FILES[name] ? `${SAID_IN_FILES[name]}\n\n` : "";
  return `${name} ${version} (${license})\n\n${whose}${text}\n`;
});
writeFileSync(
  join(out, "NOTICES.txt"),
  `What ships with Basilica and is not its own, with the notices of those who made it.\n\n${notices.join(`\n${"-".repeat(80)}\n\n`)}`,
);
