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

  Alpine.data("composer", () => ({
    held: null,

    tool(name) {
      return document.querySelector("#tools").elements[name];
    },

    act(action, more) {
      const values = Object.fromEntries(new FormData(document.querySelector("#tools")));
      Object.assign(values, more || {}, action ? { action } : {});
      const way = values.way ? "/history" : "/do";
      return htmx.ajax("POST", this.$root.dataset.base + way, { target: "#composer", swap: "outerMorph", values });
    },

    cells() {
      return document.querySelector("#composer").dataset.cells.split("|");
    },

    go(row, cell) {
      const cells = this.cells();
      const at = Math.max(0, Math.min(row, cells.length - 1));
      this.tool("row").value = at;
      this.tool("cell").value = Math.max(1, Math.min(cell, cells[at].length));
      showCursor();
      document.querySelector("#cursor").scrollIntoView({ block: "nearest", inline: "nearest" });
    },

    enter(event) {
      if (event.target.id === "sheet") showCursor();
    },

    typed(event) {
      if (event.target.name === "row" || event.target.name === "cell") showCursor();
    },

    key(event) {
      if ((event.ctrlKey || event.metaKey) && !event.altKey) {
        const letter = event.key.toLowerCase();
        if (event.target.closest("input, select, textarea") || (letter !== "z" && letter !== "y")) return;
        event.preventDefault();
        const way = letter === "y" || event.shiftKey ? "redo" : "undo";
        inTurn(() => this.act("", { way }));
        return;
      }
      if (event.altKey || event.metaKey) return;
      if (event.target.name === "token" && event.key === "Enter") {
        event.preventDefault();
        inTurn(() => this.act("put"));
        return;
      }
      if (event.target.id !== "sheet") return;
      if (this.moved(event) || this.played(event.key)) event.preventDefault();
    },

    // arrows move the cursor; with Shift they take the strand along
    moved(event) {
      const row = Number(this.tool("row").value);
      const cell = Number(this.tool("cell").value);
      const steps = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, 1], ArrowRight: [0, -1] }[event.key];
      if (event.key === "Home") this.go(row, 1);
      else if (event.key === "End") this.go(row, 999);
      else if (steps && event.shiftKey && steps[1]) {
        const action = steps[1] > 0 ? "lead-left" : "lead-right";
        inTurn(() => this.act(action, { steps: 1 }));
      } else if (steps) this.go(row + steps[0], cell + steps[1]);
      else return false;
      return true;
    },

    played(key) {
      if (/^[1-8]$/.test(key)) {
        this.tool("over").value = key;
        this.tool("under").value = key;
        showCursor();
        return true;
      }
      const actions = {
        l: "cross-left", r: "cross-right", L: "twist-left", R: "twist-right", k: "knit", p: "purl", ".": "bump",
        "+": "rows-add", Delete: "lift", Backspace: "lift",
      };
      if (key === "b") inTurn(() => this.act("put", { token: "MB5" }));
      else if (key === "Enter") this.tool("token").focus();
      else if (actions[key]) inTurn(() => this.act(actions[key]));
      else return false;
      return true;
    },

    // where a pointer is on the chart, in rows from the foundation and stitches from the right
    spot(event) {
      const svg = document.querySelector("#sheet svg");
      const data = svg.dataset;
      const box = svg.getBoundingClientRect();
      const scale = box.width / svg.viewBox.baseVal.width;
      const x = (event.clientX - box.left) / scale - Number(data.margin);
      const y = (event.clientY - box.top) / scale - Number(data.head);
      const cell = Number(data.count) - Math.floor(x / Number(data.cell));
      const row = Number(data.rows) - 1 - Math.floor(y / Number(data.cell));
      return { row, cell, x: x + Number(data.margin), y: y + Number(data.head) };
    },

    press(event) {
      if (!event.target.closest("#sheet") || event.button !== 0) return;
      const spot = this.spot(event);
      const cells = this.cells();
      if (spot.row < 0 || spot.row >= cells.length || spot.cell < 1) return;
      this.go(spot.row, spot.cell);
      this.held = cells[spot.row][spot.cell - 1] === "k" ? spot : null;
    },

    lead(event) {
      if (!this.held) return;
      const spot = this.spot(event);
      const line = document.querySelector("#lead");
      if (line) line.setAttribute("d", "M" + this.held.x + " " + this.held.y + "L" + spot.x + " " + spot.y);
    },

    release(event) {
      const from = this.held;
      this.held = null;
      const line = document.querySelector("#lead");
      if (line) line.setAttribute("d", "");
      if (!from) return;
      const steps = this.spot(event).cell - from.cell;
      if (steps === 0) return;
      inTurn(() => this.act(steps > 0 ? "lead-left" : "lead-right", { steps: Math.abs(steps) }));
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

// The composer's cursor stands where its two numbers say, and is told in words.
const LOOKS = { k: "knit", p: "purl", x: "part of a crossing", o: "something else than knit or purl" };
function showCursor() {
  const cursor = document.querySelector("#cursor");
  const tools = document.querySelector("#tools");
  if (!cursor || !tools) return;
  const data = document.querySelector("#sheet svg").dataset;
  const row = Number(tools.elements.row.value);
  const cell = Number(tools.elements.cell.value);
  const size = Number(data.cell);
  cursor.setAttribute("x", Number(data.margin) + (Number(data.count) - cell) * size);
  cursor.setAttribute("y", Number(data.head) + (Number(data.rows) - 1 - row) * size);
  const cells = document.querySelector("#composer").dataset.cells.split("|")[row] || "";
  const where = row === 0 ? "Foundation" : "Row " + row + (row % 2 ? " (right side)" : " (wrong side)");
  const crossing = tools.elements.over.value + " over " + tools.elements.under.value;
  document.querySelector("#where").textContent =
    where + ", stitch " + cell + " of " + cells.length + ": " + (LOOKS[cells[cell - 1]] || "nothing") + ". Crossing at hand: " + crossing + ".";
}
document.addEventListener("DOMContentLoaded", () => {
  showCursor();
  const sheet = document.querySelector("#sheet");
  if (sheet) sheet.parentElement.scrollLeft = sheet.parentElement.scrollWidth;
});

// What the server says stands in a field, unless it is being typed in and has not been sent yet.
function freshFields() {
  for (const field of document.querySelectorAll("#composer input[value]")) {
    if (field === document.activeElement && field.sentValue !== field.value) continue;
    if (field.type !== "checkbox" && field.type !== "hidden") field.value = field.getAttribute("value");
  }
}
document.addEventListener("change", (event) => {
  if (event.target.closest("#composer")) event.target.sentValue = event.target.value;
});

// The strip of the drawer on the bench shows what has all the words that are looked for.
function sift() {
  for (const field of document.querySelectorAll("[data-sift]")) {
    const words = field.value.toLowerCase().split(/\s+/).filter(Boolean);
    for (const tile of document.querySelectorAll(field.dataset.sift + " [data-words]")) {
      tile.hidden = !words.every((word) => tile.dataset.words.includes(word));
    }
  }
}
document.addEventListener("input", (event) => {
  if (event.target.matches("[data-sift]")) sift();
});

// A chart begins at its right end.
function showStart() {
  for (const box of document.querySelectorAll("[data-from-right]")) box.scrollLeft = box.scrollWidth;
}
document.addEventListener("DOMContentLoaded", showStart);

// What has been unfolded stays so.
let unfolded = [];

// The parts of pages that are changed: once one has been swapped, a message about it is mended.
const WORK = ["#bench", "#caston", "#composer", "#gauge", "#swatch"];

// After a change on the bench the keyboard stays with the chosen segment.
function swapTarget(event) {
  const target = event.detail.ctx && event.detail.ctx.target;
  return target && target.id ? "#" + target.id : target;
}
document.addEventListener("htmx:before:swap", (event) => {
  const focus = document.activeElement;
  const onNeedle = swapTarget(event) === "#bench" && focus && focus.closest("[data-segment]");
  document.body.dataset.needle = onNeedle ? "yes" : "";
  unfolded = [...document.querySelectorAll("details[id][open]")].map((fold) => fold.id);
});
document.addEventListener("htmx:after:swap", (event) => {
  showStart();
  if (swapTarget(event) === "#composer") freshFields();
  for (const id of unfolded) document.querySelector("#" + id)?.setAttribute("open", "");
  showCursor();
  sift();
  if (WORK.includes(swapTarget(event))) document.querySelector("#messages").replaceChildren();
  if (document.body.dataset.needle !== "yes") return;
  document.body.dataset.needle = "";
  const chosen = chosenSegment();
  if (chosen) chosen.focus();
});
