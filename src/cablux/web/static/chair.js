// At the chair: taps that are kept until they have arrived, sections ticked off, keys and swipes, a voice, a screen that
// stays awake, and a word when hands should rest.
import { AGAIN } from "./connection.js";
import { delegate } from "./delegate.js";
import { Taps } from "./taps.js";
import { press } from "./turns.js";

const PATIENCE = 20e3; // ms, our choice: a tap is answered at once, or in a bad network within some seconds
const LEAST_AHEAD = 8; // rows
const RESTED = 5 * 60e3; // ms: whoever has not tapped for so long has rested (common practice: five minutes)

const chair = () => document.querySelector("#chair");
const read = (name, otherwise) => JSON.parse(localStorage.getItem(name) || JSON.stringify(otherwise));
const keep = (name, value) => localStorage.setItem(name, JSON.stringify(value));

let away = false; // whether the last tap could not arrive
const taps = new Taps(
  { read, keep },
  (tap) =>
    fetch(tap.url, {
      method: "POST",
      body: new URLSearchParams(tap.fields),
      headers: { "HX-Request": "true" },
      signal: AbortSignal.timeout(PATIENCE), // what hangs is no answer: the tap is sent again under its name
    }),
  {
    lost: () => {
      away = true;
      setTimeout(send, AGAIN);
    },
    shut: () => location.assign("/enter?to=" + encodeURIComponent(location.pathname + location.search)),
    answered: show,
  },
);

async function send() {
  if (taps.sending) return;
  try {
    await taps.send();
  } finally {
    tell();
  }
}

/** The chair of a form's project and piece, and which copy it counts. */
const chairOf = (form) => [form.action.replace(/\/[a-z]+$/, ""), form.elements.which?.value || 1];
const placeOf = (form) => chairOf(form).join(" ");
const doneForm = () => document.querySelector("[data-done]").form;

// A page that was read anew while a tap was being counted shows the row before it: it is asked for again.
async function catchUp() {
  const last = taps.last(placeOf(doneForm()));
  if (!last || last === chair().dataset.lastTap || taps.waiting.length) return;
  const answer = await fetch(chairOf(doneForm()).join("?which="), { headers: { "HX-Request": "true" } }).catch(() => null);
  const text = answer?.ok ? await answer.text().catch(() => "") : "";
  if (text && !taps.waiting.length) htmx.swap({ text, target: chair(), swap: "outerMorph", sourceElement: chair() });
}

// A tap is kept first and then sent.
function tapped(form) {
  const fields = Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]));
  taps.keep(form.action, placeOf(form), fields);
  showAhead(form.matches("[data-undo-form]") ? Number(fields.row) - 1 : Number(fields.row));
  knitted();
  send();
}

// What is answered is shown where it is about the piece and the copy of this page, and nothing else is on its way.
function show(tap, answer, text) {
  away = false;
  if (tap.place !== placeOf(doneForm())) return;
  if (!answer.ok) htmx.swap({ text, target: document.querySelector("#messages"), swap: "innerHTML", sourceElement: chair() });
  else if (!taps.waiting.length) htmx.swap({ text, target: chair(), swap: "outerMorph", sourceElement: chair() });
}

// The rows to come are here already, so that the next one shows at once, with or without a connection.
function showAhead(done) {
  const kept = document.querySelector(`#ahead template[data-ahead="${done}"]`);
  if (kept) htmx.swap({ text: kept.innerHTML, target: chair(), swap: "outerMorph", sourceElement: chair() });
}

function tell() {
  const many = taps.waiting.length;
  const said = document.querySelector("[data-waiting]");
  if (said) said.textContent = many && away ? `${many} tap${many === 1 ? "" : "s"} kept, sent when the connection is back` : "";
}

let fetching = false;
async function lookAhead() {
  const box = document.querySelector("#ahead");
  if (!box || fetching) return;
  const done = Number(chair().dataset.rows);
  const there = [...box.querySelectorAll("template")].map((kept) => Number(kept.dataset.ahead));
  const last = Math.max(-1, ...there);
  if (there.includes(done) && (last - done >= LEAST_AHEAD || last >= Number(chair().dataset.total))) return;
  fetching = true;
  try {
    const answer = await fetch(box.dataset.from, { headers: { "HX-Request": "true" } });
    if (answer.ok) box.innerHTML = await answer.text();
  } catch {
    // without a connection there is nothing to fetch; what is kept stays
  } finally {
    fetching = false;
  }
}

delegate("submit", "[data-tap]", (form, event) => {
  event.preventDefault();
  tapped(form);
});
window.addEventListener("online", send);

// The strip begins where the row does, and follows the section under the hands.
function follow(part) {
  const strip = document.querySelector("[data-strip]");
  if (!strip) return;
  const wide = strip.scrollWidth - 2 * 34; // the numbers at its sides
  const fromLeft = strip.dataset.strip === "left";
  const place = part ? Number(part.dataset.place) : fromLeft ? 0 : 1;
  const share = part ? Number(part.dataset.share) : 0;
  const edge = fromLeft ? place * wide : (place + share) * wide + 2 * 34 - strip.clientWidth;
  strip.scrollLeft = edge;
}

// A voice, where the device has one, reads the section that is next; a tick lets it go on.
let reading = false;
function say(part) {
  if (!part || !window.speechSynthesis) return;
  speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(part.dataset.say);
  words.lang = "en";
  words.rate = 0.9;
  speechSynthesis.speak(words);
}

// A screen that goes dark in mid row is a nuisance; where the device can, it stays awake while the page is seen.
let lock = null;
async function wake() {
  if (!chair()?.dataset.awake || lock || document.hidden || !navigator.wakeLock) return;
  try {
    lock = await navigator.wakeLock.request("screen");
    lock.addEventListener("release", () => (lock = null));
  } catch {
    lock = null; // the device saves its battery
  }
}
document.addEventListener("visibilitychange", wake);

// Hands rest: the time since knitting began, or went on after a rest.
const HANDS = "cablux at the needles";
function knitted() {
  const now = Date.now();
  const kept = read(HANDS, { since: now, last: now });
  keep(HANDS, { since: now - kept.last > RESTED ? now : kept.since, last: now });
}
function askForRest() {
  const kept = read(HANDS, null);
  const minutes = Number(chair()?.dataset.rest || 0);
  const note = document.querySelector("[data-rest-note]");
  if (note) note.hidden = !minutes || !kept || Date.now() - kept.last > RESTED || kept.last - kept.since < minutes * 60e3;
}
delegate("click", "[data-rested]", () => {
  const now = Date.now();
  keep(HANDS, { since: now, last: now });
  askForRest();
});

document.addEventListener("alpine:init", () => {
  Alpine.data("chair", () => ({
    from: null,

    key(event) {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      if (event.target.closest("input, select, textarea")) return; // what is typed there is no row
      if (event.target.closest("a, button, summary") && event.key !== "Backspace") return;
      if (event.key === " " || event.key === "Enter") {
        event.preventDefault();
        press("[data-done]");
      } else if (event.key === "Backspace") {
        event.preventDefault();
        press("[data-undo]");
      } else if (event.key === "r") {
        press("[data-read-row]");
      }
    },

    // tapped sections stay ticked while the row lasts, in this browser alone
    place() {
      return "chair " + chair().dataset.project + " " + chair().dataset.rows + " " + chair().dataset.step;
    },

    init() {
      this.show();
      document.addEventListener("htmx:after:swap", () => this.show());
      tell();
      wake();
      send().then(catchUp);
    },

    show() {
      if (!chair()) return;
      const kept = JSON.parse(sessionStorage.getItem(this.place()) || "[]");
      const parts = [...document.querySelectorAll("[data-part]")];
      for (const part of parts) part.setAttribute("aria-pressed", String(kept.includes(part.dataset.part)));
      const next = parts.find((part) => part.getAttribute("aria-pressed") !== "true");
      for (const part of parts) part.classList.toggle("part-next", part === next && kept.length > 0);
      follow(kept.length ? next : null);
      tell();
      askForRest();
      const voice = document.querySelector("[data-read-row]");
      if (voice) voice.hidden = !window.speechSynthesis;
      lookAhead();
      return next;
    },

    read() {
      reading = !reading;
      if (reading) say(this.show());
      else window.speechSynthesis?.cancel();
      document.querySelector("[data-read-row]")?.setAttribute("aria-pressed", String(reading));
    },

    tick(event) {
      if (event.target.closest("[data-read-row]")) return this.read();
      const part = event.target.closest("[data-part]");
      if (!part) return;
      const kept = new Set(JSON.parse(sessionStorage.getItem(this.place()) || "[]"));
      if (!kept.delete(part.dataset.part)) kept.add(part.dataset.part);
      sessionStorage.setItem(this.place(), JSON.stringify([...kept]));
      const next = this.show();
      if (next) next.scrollIntoView({ block: "nearest" });
      if (reading) say(next);
    },

    touch(event) {
      const finger = event.changedTouches[0];
      this.from = event.target.closest("[data-strip]") ? null : { x: finger.clientX, y: finger.clientY };
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
