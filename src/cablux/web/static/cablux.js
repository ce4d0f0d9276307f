// What pages share: turns, forms, what stays open. Everything here and beside it presses a button or sends a form
// that is on the page already.

import { delegate } from "./delegate.js";
import { sift, swapTarget } from "./swaps.js";

document.addEventListener("alpine:init", () => {
  Alpine.data("units", () => ({
    // lengths are converted when the unit changes, and so are counts: 4 in are 10.16 cm. What a field showed exactly
    // is kept beside it, so that going to and fro between the units changes nothing.
    choose(event) {
      const unit = event.target.value;
      const form = event.target.form;
      const inches = unit === "in";
      const convert = (field, factor) => {
        const kept = field.dataset.shown === field.value ? Number(field.dataset.exact) : Number.NaN;
        const value = (Number.isFinite(kept) ? kept : Number.parseFloat(field.value.replace(",", "."))) * factor;
        if (!Number.isFinite(value)) return;
        field.value = String(Math.round(value * 100) / 100);
        field.dataset.exact = String(value);
        field.dataset.shown = field.value;
      };
      for (const field of form.querySelectorAll("[data-length]")) convert(field, inches ? 1 / 2.54 : 2.54);
      for (const field of form.querySelectorAll("[data-gauge]")) convert(field, inches ? 1.016 : 1 / 1.016);
      for (const label of form.querySelectorAll("[data-unit]")) label.textContent = unit;
      for (const label of form.querySelectorAll("[data-span]")) label.textContent = unit === "in" ? "4 in" : "10 cm";
    },
  }));

  // a weight and a length have an amount, a note has none
  Alpine.data("noting", () => ({
    kind: "note",
    get weighed() {
      return this.kind === "weighed";
    },
    get measured() {
      return this.kind === "measured";
    },
    get counted() {
      return this.weighed || this.measured;
    },
  }));

  // which fields a reading needs follows from what was measured
  Alpine.data("reading", () => ({
    kind: "stitches",
    get counted() {
      return this.kind === "stitches" || this.kind === "rows";
    },
    get onePattern() {
      return this.counted || this.kind === "across";
    },
    get label() {
      const unit = this.kind === "rows" ? "Rows counted" : "Stitches counted";
      return this.counted ? unit + ", in several places" : "Length measured, in several places";
    },
  }));
});

// What the server says stands in a field, also after something was refused, unless it is being typed in and has not
// been sent yet. Only where every field is sent as soon as it is changed.
const PROMPT = ["#bench", "#caston", "#composer"];
function freshFields(box) {
  if (!PROMPT.includes(box)) return;
  for (const field of document.querySelectorAll(box + " input[value]")) {
    if (field.closest("[hx-morph-skip-children]")) continue;
    if (field === document.activeElement && field.sentValue !== field.value) continue;
    if (field.type !== "checkbox" && field.type !== "hidden") field.value = field.getAttribute("value");
  }
  if (box === "#composer") return; // what is chosen there are tools, which the server does not keep
  for (const option of document.querySelectorAll(box + " select option")) {
    if (!option.closest("[hx-morph-skip-children]")) option.selected = option.defaultSelected;
  }
  for (const tick of document.querySelectorAll(box + " input[type=checkbox]")) {
    if (!tick.closest("[hx-morph-skip-children]")) tick.checked = tick.defaultChecked;
  }
}
delegate("change", PROMPT.join(), (box, event) => {
  event.target.sentValue = event.target.value;
});

delegate("input", "[data-sift]", sift);

// A chart begins at its right end; the overview below it goes to the place that was pressed, and other rows stay there.
/** @type {number | null} */
let chartPlace = null;
function showStart() {
  for (const box of document.querySelectorAll("[data-from-right]")) {
    const from = box.id === "chart-box" ? chartPlace : null;
    box.scrollLeft = from === null ? box.scrollWidth : from * box.scrollWidth - box.clientWidth / 2;
  }
}
delegate("click", "[data-map]", (map, event) => {
  if (event.clientX) chartPlace = (event.clientX - map.getBoundingClientRect().left) / map.getBoundingClientRect().width;
});
document.addEventListener(
  "scroll",
  (event) => {
    const box = event.target;
    if (box instanceof Element && box.id === "chart-box") chartPlace = (box.scrollLeft + box.clientWidth / 2) / box.scrollWidth;
  },
  true,
);
// The whole chart grows and shrinks, all of its bands together, and begins at the row under the hands.
function wholeCharts() {
  return [...document.querySelectorAll("[data-whole-chart]")];
}
function toTheRow() {
  for (const box of wholeCharts()) {
    const now = box.querySelector(".chart-now");
    box.scrollLeft = box.scrollWidth;
    if (!now) continue;
    const row = now.getBoundingClientRect();
    box.scrollTop += row.top - box.getBoundingClientRect().top - box.clientHeight / 2;
  }
}
document.addEventListener("DOMContentLoaded", toTheRow);
delegate("click", "[data-chart-zoom]", (press) => {
  for (const box of wholeCharts()) {
    const picture = box.querySelector("svg");
    const [, , wide, tall] = picture.getAttribute("viewBox").split(" ").map(Number);
    const now = Number(picture.getAttribute("width"));
    const wanted = press.dataset.chartZoom === "fit" ? box.clientWidth - 4 : now * Number(press.dataset.chartZoom);
    const width = Math.min(4 * wide, Math.max(120, wanted));
    picture.setAttribute("width", String(width));
    picture.setAttribute("height", String((width * tall) / wide));
  }
  toTheRow();
});
// On paper everything that is folded away on the screen is there.
window.addEventListener("beforeprint", () => {
  for (const fold of document.querySelectorAll("details:not(.no-print, .menu)")) fold.open = true;
});
document.addEventListener("DOMContentLoaded", showStart);

// What has been unfolded stays so.
let unfolded = [];

// The parts of pages that are changed: once one has been swapped, a message about it is mended.
const WORK = ["#bench", "#caston", "#composer", "#gauge", "#journal", "#laid-out", "#swatch"];

delegate("click", "[data-read]", () => document.querySelector("#messages").replaceChildren());

// What is wrong with a field is said beside it. A form without names for its problems has one field that was typed in.
/** @type {any} */
let typedIn = null;
document.addEventListener("change", (event) => {
  typedIn = event.target;
});
function placeProblems(source) {
  const notice = document.querySelector("#messages .notice");
  const form = source && source.closest("form");
  if (!notice || !form) return;
  const fields = [...form.elements].filter((field) => field.name && field.type !== "hidden" && field.offsetParent && field.matches("input, select, textarea"));
  let said = Object.entries(JSON.parse(notice.dataset.fields || "{}"));
  const one = fields.includes(typedIn) ? typedIn : fields.length === 1 ? fields[0] : null;
  if (!said.length && one) said = [[one.name, notice.dataset.sentence]];
  const placed = said.map(([name, sentence]) => sayBeside(fields.find((field) => field.name === name), sentence));
  if (!placed.length || !placed.every(Boolean)) return;
  document.querySelector("#messages").replaceChildren();
  placed[0].focus();
  document.getElementById(placed[0].getAttribute("aria-describedby"))?.scrollIntoView({ block: "nearest" });
}
function sayBeside(field, sentence) {
  if (!field) return null;
  const box = field.closest(".field");
  const said = document.createElement("p");
  said.className = "field-problem";
  said.id = (field.id || field.name) + "-problem";
  said.setAttribute("role", "alert");
  said.textContent = sentence;
  document.getElementById(said.id)?.remove();
  if (box) box.append(said);
  else (field.closest("label") || field).after(said);
  field.setAttribute("aria-invalid", "true");
  field.setAttribute("aria-describedby", said.id);
  return field;
}

// What comes late, above the field that is being typed in, does not push it away.
let held = null;
function holdField() {
  const field = document.activeElement;
  const top = field ? field.getBoundingClientRect().top : -1;
  held = field && field.matches("input, select, textarea") && top >= 0 && top < window.innerHeight ? { field, top } : null;
}
function keepField() {
  if (!held || document.activeElement !== held.field) return;
  const pushed = held.field.getBoundingClientRect().top - held.top;
  if (pushed) window.scrollBy({ top: pushed, behavior: "instant" });
}

document.addEventListener("htmx:before:swap", () => {
  holdField();
  unfolded = [...document.querySelectorAll("details[id][open]")].map((fold) => fold.id);
});
document.addEventListener("htmx:after:swap", (/** @type {any} */ event) => {
  showStart();
  freshFields(swapTarget(event));
  for (const id of unfolded) document.querySelector("#" + id)?.setAttribute("open", "");
  if (swapTarget(event) === "#messages") placeProblems(event.detail.ctx.sourceElement);
  else keepField();
  const box = document.querySelector("#why");
  if (swapTarget(event) === "#why-derivation" && !box.open) box.showModal();
  if (WORK.includes(swapTarget(event))) document.querySelector("#messages").replaceChildren();
});
