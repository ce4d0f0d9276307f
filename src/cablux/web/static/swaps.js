// What several pages ask around a swap: which part it was, and which tiles of a list are looked for.

/**
 * The part of the page that a swap is about, as a selector where it has a name.
 * @param {any} event of htmx
 */
export function swapTarget(event) {
  const target = event.detail.ctx && event.detail.ctx.target;
  return target && target.id ? "#" + target.id : target;
}

// A list is sifted by the words that are looked for: each of them must be there.
export function sift() {
  for (const field of document.querySelectorAll("[data-sift]")) {
    const words = field.value.toLowerCase().split(/\s+/).filter(Boolean);
    for (const tile of document.querySelectorAll(field.dataset.sift + " [data-words]")) {
      tile.hidden = !words.every((word) => tile.dataset.words.includes(word));
    }
  }
}
