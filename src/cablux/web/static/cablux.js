// Keys, dragging and swiping: everything here presses a button or sends a form that is on the page already.
"use strict";

function press(selector) {
  const button = document.querySelector(selector);
  if (button && !button.disabled) button.click();
}

function chosenSegment() {
  return document.querySelector("[data-segment][aria-current]");
}

// Changes are made one after the other: a key pressed while the last change is on its way waits for it.
let turn = Promise.resolve();
function inTurn(act) {
  turn = turn.then(act, act);
}

document.addEventListener("alpine:init", () => {
  Alpine.data("units", () => ({
    // lengths are converted when the unit changes; a gauge is read anew, over 4 in for 10 cm
    choose(event) {
      const unit = event.target.value;
      const form = event.target.form;
      const factor = unit === "in" ? 1 / 2.54 : 2.54;
      for (const field of form.querySelectorAll("[data-length]")) {
        const value = Number.parseFloat(field.value.replace(",", "."));
        if (Number.isFinite(value)) field.value = String(Math.round(value * factor * 100) / 100);
      }
      for (const label of form.querySelectorAll("[data-unit]")) label.textContent = unit;
      for (const label of form.querySelectorAll("[data-span]")) label.textContent = unit === "in" ? "4 in" : "10 cm";
    },
  }));

  Alpine.data("bench", () => ({
    held: null,

    send(action, values) {
      return htmx.ajax("POST", this.$root.dataset.base + "/" + action, { target: "#bench", swap: "outerMorph", values });
    },

    key(event) {
      if ((event.ctrlKey || event.metaKey) && !event.altKey) {
        const letter = event.key.toLowerCase();
        const field = event.target.closest("input, select, textarea");
        if (field || (letter !== "z" && letter !== "y")) return;
        event.preventDefault();
        const action = letter === "y" || event.shiftKey ? "redo" : "undo";
        inTurn(() => this.send(action, { selected: document.querySelector("#bench").dataset.selected }));
        return;
      }
      const known = ["ArrowLeft", "ArrowRight", "+", "=", "-", "m", "l", "Delete"];
      if (!event.target.closest("[data-segment]") || !known.includes(event.key)) return;
      event.preventDefault();
      inTurn(() => this.onSegment(event.key === "=" ? "+" : event.key, event.shiftKey));
    },

    // by the time its turn comes a key means the segment that is chosen then
    onSegment(key, shift) {
      const segment = document.activeElement.closest("[data-segment]") || chosenSegment();
      const at = Number(segment.dataset.segment);
      const last = Number(document.querySelector("#bench").dataset.count) - 1;
      const edge = at === 0 || at === last;
      if (key === "ArrowLeft" || key === "ArrowRight") {
        const to = at + (key === "ArrowLeft" ? 1 : -1);
        if (shift) return edge || to === 0 || to === last ? null : this.send("move", { at, to });
        const next = document.querySelector("#segment-" + to);
        if (!next) return null;
        next.focus();
        return htmx.ajax("GET", this.$root.dataset.base + "?selected=" + to, { target: "#bench", swap: "outerMorph" });
      }
      if (key === "+") return this.send("step", { at, by: 1 });
      if (key === "-") return Number(segment.dataset.repeats) > 1 ? this.send("step", { at, by: -1 }) : null;
      if (key === "m") return this.send("toggle", { at, field: "mirrored" });
      if (edge) return null;
      return key === "l" ? this.send("toggle", { at, field: "locked" }) : this.send("remove", { at });
    },

    drag(event) {
      const segment = event.target.closest("[data-segment]");
      const tile = event.target.closest("[data-pattern]");
      if (!segment && !tile) return;
      this.held = segment ? { at: Number(segment.dataset.segment) } : { pattern: tile.dataset.pattern };
      this.$root.dataset.dragging = "yes";
      event.dataTransfer.effectAllowed = "copyMove";
      event.dataTransfer.setData("text/plain", segment ? segment.dataset.segment : tile.dataset.pattern);
    },

    over(event) {
      const target = event.target.closest("[data-segment]");
      if (!target || !this.held) return;
      event.preventDefault();
      target.classList.add("drop-here");
    },

    leave(event) {
      const target = event.target.closest("[data-segment]");
      if (target) target.classList.remove("drop-here");
    },

    end() {
      this.held = null;
      delete this.$root.dataset.dragging;
    },

    drop(event) {
      const target = event.target.closest("[data-segment]");
      const held = this.held;
      this.end();
      if (!target || !held) return;
      event.preventDefault();
      target.classList.remove("drop-here");
      const to = Number(target.dataset.segment);
      if (held.pattern) inTurn(() => this.send("add", { pattern: held.pattern, at: to }));
      else if (held.at !== to) inTurn(() => this.send("move", { at: held.at, to }));
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

// A chart begins at its right end.
function showStart() {
  for (const box of document.querySelectorAll("[data-from-right]")) box.scrollLeft = box.scrollWidth;
}
document.addEventListener("DOMContentLoaded", showStart);

// After a change on the bench the keyboard stays with the chosen segment, and a message that is mended goes away.
function swapTarget(event) {
  const target = event.detail.ctx && event.detail.ctx.target;
  return target && target.id ? "#" + target.id : target;
}
document.addEventListener("htmx:before:swap", (event) => {
  const focus = document.activeElement;
  const onNeedle = swapTarget(event) === "#bench" && focus && focus.closest("[data-segment]");
  document.body.dataset.needle = onNeedle ? "yes" : "";
});
document.addEventListener("htmx:after:swap", (event) => {
  showStart();
  if (swapTarget(event) === "#bench") document.querySelector("#messages").replaceChildren();
  if (document.body.dataset.needle !== "yes") return;
  document.body.dataset.needle = "";
  const chosen = chosenSegment();
  if (chosen) chosen.focus();
});
