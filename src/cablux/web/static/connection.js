// What the pages' scripts do about a lost connection: they say so, and ask again after a while.

export const AGAIN = 4000; // ms, our choice: how soon a lost connection is tried again

/** What is thrown where the server was not reached, or broke off its answer. */
export const LOST = new Error("no connection");

/**
 * An answer, or LOST; whatever else goes wrong is a fault of the page and stays one.
 * @template Answer
 * @param {Promise<Answer>} answer
 * @returns {Promise<Answer>}
 */
export const reached = (answer) => answer.catch(() => Promise.reject(LOST));
