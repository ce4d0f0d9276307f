// What pages share: turns, forms, what stays open. Everything here and beside it presses a button or sends a form
// that is on the page already.
"use strict";

function press(selector) {
  const button = document.querySelector(selector);
  if (button && !button.disabled) button.click();
}

// Changes are made one after the other: a key pressed while the last change is on its way waits for it.
let turn = Promise.resolve();
function inTurn(act) {
  turn = turn.then(act, act);
}

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

  Alpine.data("chair", () => ({
    from: null,

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (event.target.closest("a, button, input, select, textarea, summary") && event.key !== "Backspace") return;
      if (event.key === " " || event.key === "Enter") {
        event.preventDefault();
        press("[data-done]");
      } else if (event.key === "Backspace") {
        event.preventDefault();
        press("[data-undo]");
      }
    },

    touch(event) {
      const finger = event.changedTouches[0];
      this.from = { x: finger.clientX, y: finger.clientY };
    },

    release(event) {
      const from = this.from;
      this.from = null;
      if (!from) return;
      const finger = event.changedTouches[0];
      const dx = finger.clientX - from.x;
      const dy = finger.clientY - from.y;
      // a swipe is longer than a thumb's width and clearly sideways, so that scrolling never counts
      if (Math.abs(dx) < 60 || Math.abs(dx) < 2 * Math.abs(dy)) return;
      press(dx < 0 ? "[data-done]" : "[data-undo]");
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
document.addEventListener("change", (event) => {
  if (PROMPT.some((box) => event.target.closest(box))) event.target.sentValue = event.target.value;
});

// A chart begins at its right end.
function showStart() {
  for (const box of document.querySelectorAll("[data-from-right]")) box.scrollLeft = box.scrollWidth;
}
document.addEventListener("DOMContentLoaded", showStart);

// What has been unfolded stays so.
let unfolded = [];

// The parts of pages that are changed: once one has been swapped, a message about it is mended.
const WORK = ["#bench", "#caston", "#composer", "#gauge", "#laid-out", "#swatch"];

document.addEventListener("click", (event) => {
  if (event.target.closest("[data-read]")) document.querySelector("#messages").replaceChildren();
});

function swapTarget(event) {
  const target = event.detail.ctx && event.detail.ctx.target;
  return target && target.id ? "#" + target.id : target;
}
document.addEventListener("htmx:before:swap", () => {
  unfolded = [...document.querySelectorAll("details[id][open]")].map((fold) => fold.id);
});
document.addEventListener("htmx:after:swap", (event) => {
  showStart();
  freshFields(swapTarget(event));
  for (const id of unfolded) document.querySelector("#" + id)?.setAttribute("open", "");
  const box = document.querySelector("#why");
  if (swapTarget(event) === "#why-derivation" && !box.open) box.showModal();
  if (WORK.includes(swapTarget(event))) document.querySelector("#messages").replaceChildren();
});
