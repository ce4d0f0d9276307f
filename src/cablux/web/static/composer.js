// The composer's chart by keys and by mouse, and its cursor.
import { inTurn } from "./turns.js";

document.addEventListener("alpine:init", () => {
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
document.addEventListener("htmx:after:swap", showCursor);
