// Builds web/static/vendor from the packages of package.json: Bulma's parts,
// two fonts, one sprite of icons, the morphing of pages, and axe-core for the browser tests.
import { copyFileSync, mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { compile } from "sass";

const out = "../web/static/vendor";
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });

const bulma = compile("bulma.scss", { loadPaths: ["node_modules"], style: "compressed", quietDeps: true });
writeFileSync(`${out}/bulma.css`, bulma.css);

const fonts = [
  ["atkinson-hyperlegible-next", "Atkinson Hyperlegible Next", 400],
  ["atkinson-hyperlegible-next", "Atkinson Hyperlegible Next", 600],
  ["fraunces", "Fraunces", 600],
];
let faces = "";
for (const [name, family, weight] of fonts) {
  const file = `${name}-latin-${weight}-normal.woff2`;
  copyFileSync(`node_modules/@fontsource/${name}/files/${file}`, `${out}/${file}`);
  faces += `@font-face{font-family:"${family}";font-style:normal;font-weight:${weight};font-display:swap;src:url("${file}") format("woff2")}\n`;
  copyFileSync(`node_modules/@fontsource/${name}/LICENSE`, `${out}/${name}-LICENSE.txt`);
}
writeFileSync(`${out}/fonts.css`, faces);

const icons = ["undo-2", "redo-2", "flame", "bell", "bell-off", "scale", "ruler", "arrow-left", "arrow-right", "plus", "minus", "trash-2", "circle-help", "check", "triangle-alert", "wifi-off", "printer", "house", "cooking-pot", "life-buoy", "notebook-pen", "ellipsis"];
let sprite = `<svg xmlns="http://www.w3.org/2000/svg">`;
for (const icon of icons) {
  const source = readFileSync(`node_modules/lucide-static/icons/${icon}.svg`, "utf8");
  const inner = source.replace(/<!--[\s\S]*?-->/g, "").replace(/^[\s\S]*?<svg[\s\S]*?>/, "").replace("</svg>", "").replace(/\s*\n\s*/g, "");
  sprite += `<symbol id="${icon}" viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="2" stroke-linecap="round" stroke-linejoin="round">${inner}</symbol>`;
}
writeFileSync(`${out}/icons.svg`, `${sprite}</svg>\n`);
copyFileSync("node_modules/lucide-static/LICENSE", `${out}/lucide-LICENSE.txt`);
copyFileSync("node_modules/bulma/LICENSE", `${out}/bulma-LICENSE.txt`);

// The library gives a global; our modules import it.
const morph = readFileSync("node_modules/idiomorph/dist/idiomorph.min.js", "utf8");
writeFileSync(`${out}/idiomorph.js`, `${morph.trim()}export{Idiomorph};\n`);
copyFileSync("node_modules/idiomorph/dist/idiomorph.d.ts", `${out}/idiomorph.d.ts`);
copyFileSync("node_modules/idiomorph/LICENSE", `${out}/idiomorph-LICENSE.txt`);

// The queue of the Stove lives in the browser's database.
copyFileSync("node_modules/idb/build/index.js", `${out}/idb.js`);
for (const types of ["entry.d.ts", "database-extras.d.ts", "async-iterators.d.ts", "wrap-idb-value.d.ts"]) {
  copyFileSync(`node_modules/idb/build/${types}`, `${out}/${types}`);
}
copyFileSync("node_modules/idb/build/index.d.ts", `${out}/idb.d.ts`);
copyFileSync("node_modules/idb/LICENSE", `${out}/idb-LICENSE.txt`);

mkdirSync("../e2e/testdata", { recursive: true });
copyFileSync("node_modules/axe-core/axe.min.js", "../e2e/testdata/axe.min.js");
