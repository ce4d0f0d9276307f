// Keys, dragging and swiping: everything here presses a button or sends a form that is on the page already.
"use strict";

function press(selector) {
  const button = document.querySelector(selector);
  if (button && !button.disabled) button.click();
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
      htmx.ajax("POST", this.$root.dataset.base + "/" + action, { target: "#bench", swap: "outerMorph", values });
    },

    key(event) {
      if ((event.ctrlKey || event.metaKey) && !event.altKey) {
        const letter = event.key.toLowerCase();
        const field = event.target.closest("input, select, textarea");
        if (field || (letter !== "z" && letter !== "y")) return;
        event.preventDefault();
        const again = letter === "y" || event.shiftKey;
        const form = this.$root.querySelector("form[action$='" + (again ? "/redo" : "/undo") + "']");
        if (form) form.querySelector("button").click();
        return;
      }
      const segment = event.target.closest("[data-segment]");
      if (segment) this.keyOnSegment(event, segment);
    },

    keyOnSegment(event, segment) {
      const at = Number(segment.dataset.segment);
      const repeats = Number(segment.dataset.repeats);
      const count = Number(document.querySelector("#bench").dataset.count);
      const step = { ArrowLeft: 1, ArrowRight: -1 }[event.key];
      const edge = at === 0 || at === count - 1;
      if (step) {
        const to = at + step;
        if (to < 0 || to >= count) return;
        event.preventDefault();
        if (!event.shiftKey) {
          const next = document.querySelector("#segment-" + to);
          next.focus();
          next.click();
        } else if (!edge && to > 0 && to < count - 1) {
          this.send("move", { at, to });
        }
        return;
      }
      const acts = {
        "+": () => this.send("repeats", { at, repeats: repeats + 1 }),
        "-": () => repeats > 1 && this.send("repeats", { at, repeats: repeats - 1 }),
        m: () => this.send("toggle", { at, field: "mirrored" }),
        l: () => edge || this.send("toggle", { at, field: "locked" }),
        Delete: () => edge || this.send("remove", { at }),
      };
      const act = acts[event.key === "=" ? "+" : event.key];
      if (!act) return;
      event.preventDefault();
      act();
    },

    drag(event) {
      const segment = event.target.closest("[data-segment]");
      const tile = event.target.closest("[data-pattern]");
      if (!segment && !tile) return;
      this.held = segment ? { at: Number(segment.dataset.segment) } : { pattern: tile.dataset.pattern };
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

    drop(event) {
      const target = event.target.closest("[data-segment]");
      const held = this.held;
      this.held = null;
      if (!target || !held) return;
      event.preventDefault();
      target.classList.remove("drop-here");
      const to = Number(target.dataset.segment);
      if (held.pattern) this.send("add", { pattern: held.pattern, at: to });
      else if (held.at !== to) this.send("move", { at: held.at, to });
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
document.addEventListener("htmx:before:swap", () => {
  const focus = document.activeElement;
  document.body.dataset.needle = focus && focus.closest("[data-segment]") ? "yes" : "";
});
document.addEventListener("htmx:after:swap", (event) => {
  showStart();
  const target = event.detail.ctx && event.detail.ctx.target;
  const name = target && target.id ? "#" + target.id : target;
  if (name !== "#messages") document.querySelector("#messages").replaceChildren();
  if (document.body.dataset.needle !== "yes") return;
  document.body.dataset.needle = "";
  const chosen = document.querySelector("[data-segment][aria-current]");
  if (chosen) chosen.focus();
});
