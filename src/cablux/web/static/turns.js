// Turns: acts that wait for each other, and buttons that are pressed for the knitter.

/** Acts made one after the other: each waits for the one before, whether that went well or not. */
export class Turns {
  constructor() {
    /** @type {Promise<unknown>} */
    this.last = Promise.resolve();
  }

  /**
   * Makes an act once all those before it are done.
   * @param {() => unknown} act
   * @returns {Promise<unknown>} what the act gives
   */
  take(act) {
    this.last = this.last.then(act, act);
    return this.last;
  }
}

const changes = new Turns();

/**
 * Changes are made one after the other: a key pressed while the last change is on its way waits for it.
 * @param {() => unknown} act
 */
export function inTurn(act) {
  changes.take(act);
}

/**
 * Presses a button of the page, where it is there and can be pressed.
 * @param {string} selector
 */
export function press(selector) {
  const button = document.querySelector(selector);
  if (button instanceof HTMLElement && !button.matches(":disabled")) button.click();
}
