// The bench by keys and by mouse: choosing, dragging, pulling; the zoom of the fan, the strip of the drawer.
import { sift, swapTarget } from "./swaps.js";
import { inTurn } from "./turns.js";

function chosenSegment() {
  return document.querySelector("[data-segment][aria-current]");
}

document.addEventListener("alpine:init", () => {
  Alpine.data("bench", () => ({
    held: null,
    pulled: null,
    digits: "",

    box() {
      return document.querySelector("#bench");
    },

    send(action, values) {
      const all = Object.assign({ band: this.box().dataset.band, at: this.box().dataset.selected }, values);
      return htmx.ajax("POST", this.$root.dataset.base + "/" + action, { target: "#bench", swap: "outerMorph", values: all });
    },

    choose(places) {
      const query = "?band=" + this.box().dataset.band + "&selected=" + places.join(",");
      return htmx.ajax("GET", this.$root.dataset.base + query, { target: "#bench", swap: "outerMorph" });
    },

    chosen() {
      return this.box().dataset.selected.split(",").map(Number);
    },

    // Ctrl with a click chooses one more, or one fewer
    click(event) {
      const zoom = event.target.closest("[data-zoom]");
      if (zoom) zoomFan(Number(zoom.dataset.zoom));
      const segment = event.target.closest("[data-segment]");
      if (!segment || !(event.ctrlKey || event.metaKey || event.shiftKey)) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      const at = Number(segment.dataset.segment);
      const now = this.chosen();
      const next = now.includes(at) ? now.filter((n) => n !== at) : [...now, at];
      if (next.length) inTurn(() => this.choose(next));
    },

    key(event) {
      const field = event.target.closest("input, select, textarea");
      if ((event.ctrlKey || event.metaKey) && !event.altKey) {
        const letter = event.key.toLowerCase();
        const onward = { ArrowLeft: 1, ArrowRight: -1 }[event.key];
        if (onward && event.target.closest("[data-segment]")) {
          event.preventDefault();
          inTurn(() => this.choose([...new Set([...this.chosen(), this.chosen().at(-1) + onward])].filter((n) => n >= 0)));
          return;
        }
        if (field || (letter !== "z" && letter !== "y")) return;
        event.preventDefault();
        const action = letter === "y" || event.shiftKey ? "redo" : "undo";
        inTurn(() => this.send(action, {}));
        return;
      }
      if (event.key === "/" && !field) {
        event.preventDefault();
        document.querySelector("[data-sift]").focus();
        return;
      }
      if (event.key === "Enter" && event.target.matches("[data-sift]")) {
        event.preventDefault();
        const first = document.querySelector("#strip .tile:not([hidden])");
        if (first) first.focus();
        return;
      }
      if (event.key === "Escape" && event.target.closest("[data-pattern], [data-sift]")) {
        chosenSegment().focus();
        return;
      }
      const known = ["ArrowLeft", "ArrowRight", "+", "=", "-", "m", "l", "h", "Delete", "Backspace"];
      if (!event.target.closest("[data-segment]")) return;
      if (/^[0-9]$/.test(event.key)) {
        event.preventDefault();
        this.digit(event.key, Number(event.target.closest("[data-segment]").dataset.segment));
        return;
      }
      if (!known.includes(event.key)) return;
      event.preventDefault();
      inTurn(() => this.onSegment(event.key === "=" ? "+" : event.key, event.shiftKey));
    },

    // digits are the stitches of the segment that has the focus, which is chosen first where it is not
    digit(key, at) {
      const type = () => {
        const count = document.querySelector("#stitches");
        count.value = this.digits;
        this.digits = "";
        count.focus();
      };
      this.digits += key;
      if (this.digits.length > 1) return;
      if (this.chosen().includes(at)) type();
      else inTurn(() => this.choose([at]).then(type));
    },

    // by the time its turn comes a key means the segments that are chosen then
    onSegment(key, shift) {
      const segment = document.activeElement?.closest("[data-segment]") || chosenSegment();
      const at = Number(segment.dataset.segment);
      const last = Number(this.box().dataset.count) - 1;
      const side = (n) => !this.box().dataset.round && (n <= 0 || n >= last);
      const places = this.chosen().includes(at) ? this.chosen().join(",") : String(at);
      if (key === "ArrowLeft" || key === "ArrowRight") {
        const to = at + (key === "ArrowLeft" ? 1 : -1);
        if (shift) return side(at) || side(to) || to < 0 || to > last ? null : this.send("move", { at, to });
        const next = document.querySelector("#segment-" + to);
        if (!next) return null;
        next.focus();
        return this.choose([to]);
      }
      if (key === "+") return this.send("step", { at: places, by: 1 });
      if (key === "-") return Number(segment.dataset.repeats) > 1 ? this.send("step", { at: places, by: -1 }) : null;
      if (key === "m") return this.send("toggle", { at: places, field: "mirrored" });
      if (side(at)) return null;
      if (key === "l") return this.send("toggle", { at: places, field: "locked" });
      if (key === "h") return this.send("toggle", { at: places, field: "placed" });
      return this.send("remove", { at: places });
    },

    // a foot of the fan is pulled in whole repeats; nothing is changed before it is let go
    grip(event) {
      const grip = event.target.closest("[data-grip]");
      if (!grip || event.button !== 0) return;
      event.preventDefault();
      const svg = grip.ownerSVGElement;
      const scale = svg.getBoundingClientRect().width / svg.viewBox.baseVal.width;
      const step = Number(svg.dataset.fan) * Number(grip.dataset.multiple) * scale;
      this.pulled = { grip, from: event.clientX, step, repeats: Number(grip.dataset.repeats), now: Number(grip.dataset.repeats) };
      grip.setPointerCapture(event.pointerId);
      grip.classList.add("fan-gripped");
    },

    pull(event) {
      const p = this.pulled;
      if (!p) return;
      p.now = Math.max(1, p.repeats + Math.round((p.from - event.clientX) / p.step));
      const data = p.grip.dataset;
      const stitches = Number(data.stitches) + (p.now - p.repeats) * Number(data.multiple);
      const says = document.querySelector("#fan-drag");
      says.setAttribute("x", p.grip.getAttribute("x"));
      says.textContent = stitches + " st";
    },

    letGo() {
      const p = this.pulled;
      this.pulled = null;
      if (!p) return;
      p.grip.classList.remove("fan-gripped");
      document.querySelector("#fan-drag").textContent = "";
      if (p.now !== p.repeats) inTurn(() => this.send("repeats", { at: p.grip.dataset.grip, repeats: p.now }));
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
});

// The fan is as wide as its box, or some times as wide.
let fanZoom = 1;
function zoomFan(by) {
  fanZoom = Math.max(1, Math.min(5, fanZoom + by));
  const fan = document.querySelector("#bench .fan");
  if (fan) fan.style.width = 100 * fanZoom + "%";
}

// On a phone the bench is for looking: its answers are told, and not to be taken.
const narrow = window.matchMedia("(width < 40rem)");
function onlyLooking() {
  for (const offer of document.querySelectorAll("#bench .offer")) offer.disabled = narrow.matches;
}
narrow.addEventListener("change", onlyLooking);
document.addEventListener("DOMContentLoaded", onlyLooking);

// After a change on the bench the keyboard stays with the chosen segment.
let onNeedle = false;
document.addEventListener("htmx:before:swap", (event) => {
  const focus = document.activeElement;
  onNeedle = swapTarget(event) === "#bench" && Boolean(focus && focus.closest("[data-segment]"));
});
document.addEventListener("htmx:after:swap", (event) => {
  onlyLooking();
  sift();
  if (swapTarget(event) === "#bench") zoomFan(0);
  if (!onNeedle) return;
  onNeedle = false;
  const chosen = chosenSegment();
  if (chosen) chosen.focus();
});
