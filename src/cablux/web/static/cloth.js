// The whole piece in relief on a canvas: tiles are painted once for each zoom and moved about afterwards,
// so that panning costs the same for a hundred thousand loops as for a hundred.
import { AGAIN, LOST, reached } from "./connection.js";
import { Loops } from "./loops.js";

const TILE = 256;
const FINEST = 5; // 32 pixels to a stitch
const COARSEST = -2;
const BUDGET = 7; // milliseconds of painting in a frame, which leaves time for the rest of it
const KEPT = 260; // tiles
const [KNIT, PURL, HOLE, KNOB, NEW, SLIPPED] = [0, 1, 2, 3, 4, 5];
const REACH = 1.4; // stitches from a loop's middle to the end of what is painted of it
const FRONT = 38; // stands-out of 0.3 in bytes
const RIDGE = 15;
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** @param {HTMLCanvasElement} canvas */
function penOf(canvas) {
  const pen = canvas.getContext("2d");
  if (!pen) throw new Error("This browser cannot draw on a canvas.");
  return pen;
}

// One loop painted once for each way it can look; stamped from then on.
class Stamps {
  constructor(paint) {
    this.paint = paint;
    this.made = new Map();
  }

  static bucket(loops, i) {
    return Math.max(-12, Math.min(12, Math.round(loops.lean[i] / 3)));
  }

  of(loops, i, scale, shadow) {
    const bucket = Stamps.bucket(loops, i);
    const level = Math.min(6, Math.floor((loops.tone[i] / 256) * 7));
    const ridge = loops.kind[i] === PURL && loops.stands[i] > RIDGE ? 1 : 0;
    const key = ((((loops.kind[i] * 2 + ridge) * 2 + shadow) * 32 + bucket + 16) * 8 + level) * 16 + Math.log2(scale) + 4;
    let stamp = this.made.get(key);
    if (!stamp) {
      stamp = document.createElement("canvas");
      stamp.width = stamp.height = Math.ceil(2 * REACH * scale);
      const pen = penOf(stamp);
      pen.translate(REACH * scale, REACH * scale);
      pen.scale(scale, scale);
      this.draw(pen, loops.kind[i], bucket * (3 / 32), level, ridge, shadow, loops.rowHeight, scale);
      this.made.set(key, stamp);
    }
    return stamp;
  }

  draw(pen, kind, lean, level, ridge, shadow, row, scale) {
    const { tones, bumps, edge, dark, shine, thick } = this.paint;
    pen.lineWidth = Math.max(0.05, 0.5 / scale);
    pen.strokeStyle = edge;
    if (kind === PURL) {
      const half = ridge ? 0.55 : 0.5;
      const down = ridge ? -0.1 : 0;
      pen.fillStyle = bumps[Math.min(bumps.length - 1, Math.floor((level / 7) * bumps.length))];
      pen.beginPath();
      pen.moveTo(-half, 0.16 + down);
      pen.quadraticCurveTo(0, -0.3 - 0.42 * thick + down, half, 0.16 + down);
      pen.quadraticCurveTo(0, 0.36 - 0.38 * thick + down, -half, 0.16 + down);
      pen.fill();
      pen.stroke();
      return;
    }
    if (kind === HOLE) {
      pen.fillStyle = dark;
      pen.beginPath();
      pen.ellipse(0, -0.1, 0.42, 0.46, 0, 0, 2 * Math.PI);
      pen.fill();
      pen.lineWidth = 0.24;
      pen.strokeStyle = tones[3];
      pen.beginPath();
      pen.moveTo(-0.5, 0.25);
      pen.quadraticCurveTo(0, -1.1, 0.5, 0.25);
      pen.stroke();
      return;
    }
    if (kind === KNOB) {
      for (const [x, y, r, colour] of [[0.09, 0.11, 0.62, dark], [0, 0, 0.58, tones[3]], [-0.11, -0.12, 0.36, tones[5]]]) {
        pen.fillStyle = colour;
        pen.beginPath();
        pen.arc(x, y, r, 0, 2 * Math.PI);
        pen.fill();
      }
      return;
    }
    const length = Math.hypot(lean, row);
    const along = [lean / length, -row / length];
    const across = [-along[1], along[0]];
    const half = 0.6 * Math.max(length, row);
    const low = kind === SLIPPED ? 3 * half : half;
    for (const hand of [-1, 1]) {
      const aside = 0.27 * hand;
      const foot = [-along[0] * low + across[0] * aside * 0.35, -along[1] * low + across[1] * aside * 0.35];
      const head = [along[0] * half + across[0] * aside * 1.45, along[1] * half + across[1] * aside * 1.45];
      // the leg that runs across the light is the brighter one
      const lit = Math.max(0, Math.min(6, level + (hand < 0 ? 0 : -1)));
      this.drop(pen, foot, head, thick, shadow);
      if (shadow) {
        pen.fillStyle = dark;
        pen.globalAlpha = 0.42;
        pen.fill();
        pen.globalAlpha = 1;
        continue;
      }
      pen.fillStyle = tones[lit];
      pen.fill();
      pen.stroke();
      if (lit > 1 && scale >= 8) this.shine(pen, foot, head, thick, shine);
    }
    if (kind === NEW && !shadow && scale >= 8) {
      pen.strokeStyle = dark;
      pen.lineWidth = 0.14;
      pen.beginPath();
      pen.moveTo(-0.28, 0.62);
      pen.lineTo(0.28, 0.3);
      pen.moveTo(-0.28, 0.3);
      pen.lineTo(0.28, 0.62);
      pen.stroke();
    }
  }

  drop(pen, foot, head, thick, shadow) {
    const [dx, dy] = [head[0] - foot[0], head[1] - foot[1]];
    const length = Math.hypot(dx, dy) || 1;
    const wide = 0.3 * thick + (shadow ? 0.09 : 0);
    const [nx, ny] = [(-dy / length) * wide, (dx / length) * wide];
    const on = (part, out) => [foot[0] + part * dx + nx * out, foot[1] + part * dy + ny * out];
    pen.beginPath();
    pen.moveTo(foot[0], foot[1]);
    pen.bezierCurveTo(...on(0.15, 0.75), ...on(0.95, 1.05), head[0], head[1]);
    pen.bezierCurveTo(...on(0.95, -1.05), ...on(0.15, -0.75), foot[0], foot[1]);
  }

  shine(pen, foot, head, thick, colour) {
    const [dx, dy] = [head[0] - foot[0], head[1] - foot[1]];
    const length = Math.hypot(dx, dy) || 1;
    const [nx, ny] = [(dy / length) * 0.1 * thick, (-dx / length) * 0.1 * thick];
    pen.save();
    pen.globalAlpha = 0.4;
    pen.lineWidth = 0.09;
    pen.lineCap = "round";
    pen.strokeStyle = colour;
    pen.beginPath();
    pen.moveTo(foot[0] + 0.42 * dx + nx, foot[1] + 0.42 * dy + ny);
    pen.lineTo(foot[0] + 0.84 * dx + nx, foot[1] + 0.84 * dy + ny);
    pen.stroke();
    pen.restore();
  }
}

class Cloth {
  constructor(root, watched) {
    this.root = root;
    this.step = watched.step;
    this.canvas = root.querySelector("canvas");
    this.says = root.querySelector("[data-cloth-says]");
    this.lost = root.querySelector("[data-cloth-lost]");
    this.bar = root.querySelector("progress");
    this.behind = false;
    // at the chair, where rows are counted, only those knitted are there, and the last of them is marked
    this.upto = watched.rows === undefined ? 1e9 : Number(watched.rows);
    this.row = watched.rows === undefined ? -1 : this.upto;
    this.segment = -1;
    this.zoom = 0; // pixels to a stitch; none before the piece is there
    this.at = [0, 0]; // the middle of the picture, in stitches
    this.moved = 0; // pixels since a finger was put down
    this.tiles = new Map();
    this.fingers = new Map();
    this.asked = 0;
    this.listen();
    this.load();
  }

  async load() {
    const turn = ++this.asked;
    this.bar.hidden = false;
    while (turn === this.asked && this.root.isConnected) {
      try {
        if (await this.fetched(turn)) return;
        await pause(250);
      } catch (lost) {
        if (lost !== LOST) throw lost;
        if (turn === this.asked) this.lost.textContent = "No connection. The piece will be drawn when the connection is back.";
        await pause(AGAIN);
      }
    }
  }

  // Fetches the piece and draws it, and says whether there is no more to ask for.
  async fetched(turn) {
    const base = this.root.dataset.cloth;
    const which = this.root.dataset.which ? "&which=" + this.root.dataset.which : "";
    const answer = await reached(fetch(base + "/geometry?behind=" + this.behind + which));
    if (turn !== this.asked || !this.root.isConnected) return true;
    this.lost.textContent = "";
    if (answer.status === 202) {
      this.bar.value = (await answer.json()).part;
      return false;
    }
    this.bar.hidden = true;
    if (!answer.ok) {
      this.says.textContent = "The piece could not be laid out: change it, or try again.";
      return true;
    }
    const buffer = await reached(answer.arrayBuffer());
    const paint = await (await reached(fetch(base + "/paint"))).json();
    if (turn !== this.asked) return true;
    this.laid = { loops: new Loops(buffer), stamps: new Stamps(paint) };
    this.tiles.clear();
    if (!this.zoom) this.fit(); // before anything is waited for: what is there can be drawn, moved and resized
    this.root.dataset.ready = String(this.loops.count);
    this.draw();
    const words = document.querySelector("[data-cloth-behaviour]");
    if (words) words.innerHTML = await (await reached(fetch(base + "/behaviour"))).text();
    return true;
  }

  // Nothing is drawn, moved or chosen before the piece is laid.
  get piece() {
    if (!this.laid) throw new Error("The piece has not been laid out yet.");
    return this.laid;
  }

  get loops() {
    return this.piece.loops;
  }

  size() {
    const ratio = Math.min(2, window.devicePixelRatio || 1);
    const [w, h] = [Math.round(this.canvas.clientWidth * ratio), Math.round(this.canvas.clientHeight * ratio)];
    if (this.canvas.width !== w || this.canvas.height !== h) [this.canvas.width, this.canvas.height] = [w, h];
    return [w, h, ratio];
  }

  last() {
    return Math.min(this.upto, this.loops.rows - 1);
  }

  fit() {
    const [w, h] = this.size();
    const l = this.loops;
    const [wide, tall] = [l.right - l.left + 3, l.levels[this.last()] + 3];
    if (this.root.dataset.look === "row") {
      // at the chair: across the whole width, with the row under the hands near the top
      this.zoom = Math.max(w / wide, 5);
      this.at = [l.left + w / this.zoom / 2 - 1, l.levels[this.last()] + 2 - h / this.zoom / 2];
      if (this.upto % 2 === 0) this.at[0] = l.right + 1 - w / this.zoom / 2; // the next row begins at the right
      if (this.zoom <= w / wide + 1e-6) this.at[0] = (l.left + l.right) / 2;
      return;
    }
    this.zoom = Math.min(w / wide, h / tall);
    this.at = [(l.left + l.right) / 2, l.levels[this.last()] / 2];
  }

  // where a point of the canvas lies in the cloth
  under(event) {
    const box = this.canvas.getBoundingClientRect();
    const [w, h, ratio] = this.size();
    const [px, py] = [(event.clientX - box.left) * ratio, (event.clientY - box.top) * ratio];
    return [this.at[0] + (px - w / 2) / this.zoom, this.at[1] - (py - h / 2) / this.zoom, px, py];
  }

  draw() {
    this.complete = false; // until a frame has found every tile that it shows
    if (this.due) return;
    this.due = true;
    requestAnimationFrame(() => {
      this.due = false;
      if (this.laid && this.root.isConnected) this.frame();
    });
  }

  frame() {
    const begin = performance.now();
    const [w, h] = this.size();
    const pen = penOf(this.canvas);
    pen.setTransform(1, 0, 0, 1, 0, 0);
    pen.clearRect(0, 0, w, h);
    const level = Math.max(COARSEST, Math.min(FINEST, Math.ceil(Math.log2(this.zoom) - 0.3)));
    const step = TILE / 2 ** level; // stitches across a tile
    const [left, top] = [this.at[0] - w / 2 / this.zoom, this.at[1] + h / 2 / this.zoom];
    const [i0, i1] = [Math.floor(left / step), Math.floor((left + w / this.zoom) / step)];
    const [j0, j1] = [Math.floor(-top / step), Math.floor((-top + h / this.zoom) / step)];
    let missing = false;
    for (let i = i0; i <= i1; i++) {
      for (let j = j0; j <= j1; j++) {
        const [x, y] = [(i * step - left) * this.zoom, (j * step + top) * this.zoom];
        const size = step * this.zoom;
        const late = performance.now() - begin > BUDGET;
        const tile = this.tile(level, i, j, !late) || this.coarser(level, i, j);
        if (!this.tiles.has(level + "/" + i + "/" + j)) missing = true;
        if (tile) pen.drawImage(tile.canvas, tile.x, tile.y, tile.w, tile.w, x, y, size + 0.6, size + 0.6);
      }
    }
    this.marks(pen, w, h);
    this.spent = performance.now() - begin;
    this.complete = !missing;
    if (missing) this.draw();
  }

  tile(level, i, j, paint) {
    const key = level + "/" + i + "/" + j;
    let canvas = this.tiles.get(key);
    if (canvas) {
      this.tiles.delete(key); // to the end: the last used are kept
      this.tiles.set(key, canvas);
    } else if (paint) {
      canvas = this.painted(2 ** level, i, j);
      this.tiles.set(key, canvas);
      if (this.tiles.size > KEPT) this.tiles.delete(this.tiles.keys().next().value);
    }
    return canvas && { canvas, x: 0, y: 0, w: TILE };
  }

  // the part of a coarser tile that lies there, until the finer one is painted
  coarser(level, i, j) {
    for (let up = 1; up <= 4; up++) {
      const by = 2 ** up;
      const [ci, cj] = [Math.floor(i / by), Math.floor(j / by)];
      const canvas = this.tiles.get(level - up + "/" + ci + "/" + cj);
      if (canvas) return { canvas, x: ((i - ci * by) * TILE) / by, y: ((j - cj * by) * TILE) / by, w: TILE / by };
    }
    return null;
  }

  painted(scale, i, j) {
    const canvas = document.createElement("canvas");
    canvas.width = canvas.height = TILE;
    const pen = penOf(canvas);
    const { loops: l, stamps } = this.piece;
    const step = TILE / scale;
    const [left, top] = [i * step, -j * step];
    const [a, b] = l.between(top - step, top);
    /** @type {number[][]} */
    const layers = [[], [], [], [], [], []]; // ground bumps, back, plain, ridges and openings, front, bobbles
    const inside = [];
    const ends = new Set(); // the first loop of each row
    for (let r = a; r < Math.min(b, this.last() + 1); r++) {
      ends.add(l.start[r]);
      for (let n = l.start[r]; n < l.start[r + 1]; n++) {
        const [x, y] = [(l.x[n] - left) * scale, (top - l.y[n]) * scale];
        if (x < -2 * scale || y < -2 * scale || x > TILE + 2 * scale || y > TILE + 2 * scale) continue;
        inside.push(n);
        const [kind, out] = [l.kind[n], l.stands[n]];
        const layer = kind === PURL ? (out > RIDGE ? 3 : 0) : kind === HOLE ? 3 : kind === KNOB ? 5 : out > FRONT ? 4 : out < -FRONT ? 1 : 2;
        layers[layer].push(n);
      }
    }
    /** @returns {[number, number]} */
    const at = (n) => [(l.x[n] - left) * scale, (top - l.y[n]) * scale];
    // the ground between the strands
    pen.strokeStyle = stamps.paint.ground;
    pen.lineWidth = 2 * l.rowHeight * scale;
    pen.lineJoin = "round";
    pen.lineCap = "square";
    for (let n = 0; n < inside.length; n++) {
      if (n === 0 || inside[n] !== inside[n - 1] + 1 || ends.has(inside[n])) {
        if (n > 0) pen.stroke();
        pen.beginPath();
        pen.moveTo(...at(inside[n]));
      }
      pen.lineTo(...at(inside[n]));
    }
    if (inside.length) pen.stroke();
    if (scale < 4) {
      const { tones, bumps } = stamps.paint;
      const [dw, dh] = [Math.max(1, 0.92 * scale), Math.max(1, l.rowHeight * scale)];
      for (const layer of layers) {
        for (const n of layer) {
          const [x, y] = at(n);
          const tone = l.tone[n] / 256;
          pen.fillStyle = l.kind[n] === PURL ? bumps[Math.floor(tone * bumps.length)] : tones[Math.floor(tone * 7)];
          if (l.kind[n] === HOLE) pen.fillStyle = stamps.paint.dark;
          pen.fillRect(x - dw / 2, y - dh / 2, dw, dh);
        }
      }
      return canvas;
    }
    layers.forEach((layer, index) => {
      if (index === 4) {
        for (const n of layer) {
          const [x, y] = at(n);
          pen.drawImage(stamps.of(l, n, scale, 1), x + (0.18 - REACH) * scale, y + (0.22 - REACH) * scale);
        }
      }
      for (const n of layer) {
        const [x, y] = at(n);
        pen.drawImage(stamps.of(l, n, scale, 0), x - REACH * scale, y - REACH * scale);
      }
    });
    return canvas;
  }

  // the row under the hands, the row and the segment that were chosen
  marks(pen, w, h) {
    const l = this.loops;
    const to = (n) => [(l.x[n] - this.at[0]) * this.zoom + w / 2, (this.at[1] - l.y[n]) * this.zoom + h / 2];
    if (this.row >= 0 && this.row < l.rows) {
      pen.beginPath();
      for (let n = l.start[this.row]; n < l.start[this.row + 1]; n++) pen.lineTo(...to(n));
      pen.strokeStyle = "rgba(242, 194, 48, 0.5)";
      pen.lineWidth = Math.max(3, l.rowHeight * this.zoom);
      pen.lineJoin = "round";
      pen.stroke();
    }
    if (this.segment >= 0) {
      /** @type {number[][][]} */
      const sides = [[], []];
      for (let r = 0; r <= this.last(); r++) {
        let first = -1;
        let last = -1;
        for (let n = l.start[r]; n < l.start[r + 1]; n++) {
          if (l.segment[n] !== this.segment) continue;
          if (first < 0) first = n;
          last = n;
        }
        if (first < 0) continue;
        sides[0].push(to(first));
        sides[1].push(to(last));
      }
      pen.beginPath();
      for (const point of [...sides[0], ...sides[1].reverse()]) pen.lineTo(...point);
      pen.closePath();
      pen.strokeStyle = "rgba(172, 58, 52, 0.9)";
      pen.lineWidth = 2.5;
      pen.stroke();
    }
  }

  zoomBy(factor, px, py) {
    const [w, h] = this.size();
    const [cx, cy] = [px === undefined ? w / 2 : px, py === undefined ? h / 2 : py];
    const held = [this.at[0] + (cx - w / 2) / this.zoom, this.at[1] - (cy - h / 2) / this.zoom];
    this.zoom = Math.max(0.4, Math.min(48, this.zoom * factor));
    this.at = [held[0] - (cx - w / 2) / this.zoom, held[1] + (cy - h / 2) / this.zoom];
    this.draw();
  }

  async choose(event) {
    const [x, y] = this.under(event);
    const hit = this.loops.nearest(x, y, this.last());
    if (!hit) {
      this.row = this.upto < this.loops.rows ? this.upto : -1;
      this.segment = -1;
      this.says.textContent = "";
      this.draw();
      return;
    }
    this.row = hit.row;
    this.segment = this.loops.segment[hit.loop];
    this.draw();
    try {
      const answer = await reached(fetch(this.root.dataset.cloth + "/at?row=" + hit.row + "&place=" + hit.place));
      if (answer.ok) this.says.innerHTML = await answer.text();
    } catch (lost) {
      if (lost !== LOST) throw lost;
      this.says.textContent = "No connection. Tap the stitch again when the connection is back.";
    }
  }

  listen() {
    const on = (name, act, options) => this.canvas.addEventListener(name, act, options);
    on("wheel", (event) => {
      if (!this.laid) return;
      event.preventDefault();
      const [, , px, py] = this.under(event);
      this.zoomBy(2 ** (-event.deltaY / 400), px, py);
    }, { passive: false });
    on("pointerdown", (event) => {
      if (!this.laid) return;
      this.canvas.setPointerCapture(event.pointerId);
      this.fingers.set(event.pointerId, [event.clientX, event.clientY]);
      this.moved = 0;
    });
    on("pointermove", (event) => this.move(event));
    const up = (event) => {
      const tapped = this.fingers.delete(event.pointerId) && this.moved < 5 && event.type === "pointerup";
      if (tapped && this.fingers.size === 0) this.choose(event);
    };
    on("pointerup", up);
    on("pointercancel", up);
    this.canvas.addEventListener("keydown", (event) => this.key(event));
    this.root.addEventListener("click", (event) => {
      const button = event.target.closest("[data-cloth-do]");
      if (button && this.laid) this.act(button.dataset.clothDo, button);
    });
    new ResizeObserver(() => this.draw()).observe(this.canvas);
  }

  move(event) {
    const before = this.fingers.get(event.pointerId);
    if (!before || !this.laid) return;
    const ratio = this.size()[2];
    const far = (points) => Math.hypot(points[0][0] - points[1][0], points[0][1] - points[1][1]);
    const spread = this.fingers.size === 2 ? far([...this.fingers.values()]) : 0;
    this.fingers.set(event.pointerId, [event.clientX, event.clientY]);
    const [dx, dy] = [event.clientX - before[0], event.clientY - before[1]];
    this.moved += Math.abs(dx) + Math.abs(dy);
    const share = ratio / this.fingers.size / this.zoom;
    this.at = [this.at[0] - dx * share, this.at[1] + dy * share];
    if (spread > 0) this.zoomBy(far([...this.fingers.values()]) / spread);
    this.draw();
  }

  key(event) {
    const ways = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
    const way = ways[event.key];
    const acts = { "+": "closer", "=": "closer", "-": "further", 0: "whole" };
    if (!this.laid || (!way && !acts[event.key])) return;
    event.preventDefault();
    if (!way) return this.act(acts[event.key]);
    this.at = [this.at[0] + (way[0] * 80) / this.zoom, this.at[1] + (way[1] * 80) / this.zoom];
    this.draw();
  }

  act(what, button) {
    if (what === "closer") this.zoomBy(1.5);
    if (what === "further") this.zoomBy(1 / 1.5);
    if (what === "whole") {
      this.fit();
      this.draw();
    }
    if (what === "turn") {
      this.behind = !this.behind;
      button.setAttribute("aria-pressed", String(this.behind));
      button.textContent = this.behind ? "Wrong side" : "Right side";
      this.load();
    }
  }

  // what is watched has changed: another layout is laid out anew, more rows are shown, the last of them marked
  follow(now) {
    if (now.step !== this.step) {
      this.step = now.step;
      this.load();
    }
    const rows = Number(now.rows);
    if (now.rows === undefined || rows === this.upto) return;
    this.upto = this.row = rows;
    if (!this.laid) return;
    this.tiles.clear();
    this.fit();
    this.draw();
  }
}

const shown = new WeakMap();

function look() {
  for (const root of document.querySelectorAll("[data-cloth]")) {
    const within = root.closest("details");
    const watched = root.dataset.watch ? document.querySelector(root.dataset.watch) : null;
    const cloth = shown.get(root);
    if (cloth && watched) cloth.follow(watched.dataset);
    if (cloth) continue;
    if (!within || within.open) shown.set(root, new Cloth(root, watched ? watched.dataset : {}));
    else if (!root.dataset.waits) {
      root.dataset.waits = "yes";
      within.addEventListener("toggle", look, { once: true });
    }
  }
}

window.clothOf = (root) => shown.get(root);
document.addEventListener("DOMContentLoaded", look);
document.addEventListener("htmx:after:swap", look);
