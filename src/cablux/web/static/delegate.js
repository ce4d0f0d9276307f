// What is heard for every element of a kind, of those that come later too: a page's parts are swapped all the time.

/**
 * Hears an event on the elements that a selector means, and on what lies in them.
 * @param {string} name of the event
 * @param {string} selector
 * @param {(element: any, event: any) => void} act with the element that is meant
 */
export function delegate(name, selector, act) {
  document.addEventListener(name, (event) => {
    const element = event.target instanceof Element && event.target.closest(selector);
    if (element) act(element, event);
  });
}
