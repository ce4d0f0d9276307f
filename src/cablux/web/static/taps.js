// Taps that are kept until they have arrived: whatever happens to the connection or the page, each is counted once.

const WAITING = "cablux taps waiting"; // taps that have not been counted yet, in their order
const LAST = "cablux last tap "; // by project, piece and copy: the one before the next

/** @typedef {{url: string, place: string, fields: Record<string, string>}} Tap */
/** @typedef {{status: number, ok: boolean, text: () => Promise<string>}} Answer */

/**
 * Where taps are kept: what was written under a name, or something else where nothing was.
 * @typedef {{read: (name: string, otherwise: any) => any, keep: (name: string, value: any) => void}} Store
 */

/**
 * What the page does about it: `lost` when there is no connection, or a fault that may pass; `shut` when a passphrase is
 * asked for; `answered` when a tap has been counted or refused.
 * @typedef {{lost: () => void, shut: () => void, answered: (tap: Tap, answer: Answer, text: string) => void}} Page
 */

/** @returns {string} a name that no other tap has */
export function newName() {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** The taps that wait, in their order. */
export class Taps {
  /**
   * @param {Store} store
   * @param {(tap: Tap) => Promise<Answer>} post sends one tap; rejects where there is no connection
   * @param {Page} page
   */
  constructor(store, post, page) {
    this.store = store;
    this.post = post;
    this.page = page;
    this.sending = false;
  }

  /** @returns {Tap[]} */
  get waiting() {
    return this.store.read(WAITING, []);
  }

  /**
   * @param {string} place project, piece and copy
   * @returns {string} the name of the last tap that was made there, empty where none was
   */
  last(place) {
    return this.store.read(LAST + place, "");
  }

  /**
   * Keeps a tap; it says which one it comes after.
   * @param {string} url
   * @param {string} place project, piece and copy
   * @param {Record<string, string>} fields
   */
  keep(url, place, fields) {
    const tap = newName();
    const after = this.last(place);
    this.store.keep(WAITING, [...this.waiting, { url, place, fields: { ...fields, tap, after } }]);
    this.store.keep(LAST + place, tap);
  }

  /**
   * Another window may be sending the same taps: each is found by its name, wherever it stands by now.
   * @param {Tap} tap
   * @param {Tap[]} into
   */
  change(tap, into) {
    this.store.keep(
      WAITING,
      this.waiting.flatMap((each) => (each.fields.tap === tap.fields.tap ? into : [each])),
    );
  }

  /** Sends what waits, one after the other, until none is left or one cannot arrive. */
  async send() {
    if (this.sending) return;
    this.sending = true;
    try {
      while (this.waiting.length) {
        const tap = this.waiting[0];
        const answer = await this.post(tap).catch(() => null);
        if (!answer || answer.status >= 500) return this.page.lost();
        if (answer.status === 401) return this.page.shut();
        if (answer.status === 409 && tap.fields.after) {
          // the one before is not known there any more, and nothing of ours is on its way: it stands by itself
          this.change(tap, [{ ...tap, fields: { ...tap.fields, after: "" } }]);
          continue;
        }
        const text = await answer.text().catch(() => null);
        if (text === null) return this.page.lost(); // it broke off: sent again under its name, it is counted once
        this.change(tap, []);
        this.page.answered(tap, answer, text);
      }
    } finally {
      this.sending = false;
    }
  }
}
