// Copies the libraries and fonts that ship with the application, each with its licence.
import { copyFileSync, existsSync, mkdirSync, writeFileSync, readFileSync } from "node:fs";

const out = "../src/cablux/web/static";
const files = [
  ["htmx.org", "dist/htmx.min.js", "vendor/htmx.min.js"],
  ["@alpinejs/csp", "dist/cdn.min.js", "vendor/alpine-csp.min.js"],
];
const font = "@fontsource-variable/";
for (const part of ["latin", "latin-ext"]) {
  files.push([`${font}atkinson-hyperlegible-next`, `files/atkinson-hyperlegible-next-${part}-wght-normal.woff2`, `fonts/atkinson-${part}.woff2`]);
}
files.push([`${font}fraunces`, "files/fraunces-latin-opsz-normal.woff2", "fonts/fraunces-latin.woff2"]);

mkdirSync(`${out}/vendor`, { recursive: true });
mkdirSync(`${out}/fonts`, { recursive: true });
const licences = new Set();
for (const [pkg, from, to] of files) {
  // a source map beside the file is not shipped, so the pointer to it would only be a failed request
  if (to.endsWith(".js")) {
    const text = readFileSync(`node_modules/${pkg}/${from}`, "utf8").replace(/\n?\/\/# sourceMappingURL=.*\s*$/, "\n");
    writeFileSync(`${out}/${to}`, text);
  } else {
    copyFileSync(`node_modules/${pkg}/${from}`, `${out}/${to}`);
  }
  const folder = to.split("/")[0];
  const licence = ["LICENSE", "LICENSE.md", "LICENSE.txt"].find((name) => existsSync(`node_modules/${pkg}/${name}`));
  if (licence && !licences.has(pkg)) {
    licences.add(pkg);
    copyFileSync(`node_modules/${pkg}/${licence}`, `${out}/${folder}/LICENSE-${pkg.replace(/^@/, "").replace("/", "-")}.txt`);
  }
}
// this package carries no licence file of its own
copyFileSync("licences/LICENSE-alpinejs-csp.txt", `${out}/vendor/LICENSE-alpinejs-csp.txt`);
