// What the libraries that ship with the pages put into the window, and elements as our pages have them.
declare const Alpine: { data(name: string, make: () => Record<string, any> & ThisType<any>): void };
declare const htmx: {
  ajax(verb: string, path: string, context: object): Promise<void>;
  swap(context: object): Promise<void>;
};
interface Window {
  clothOf(root: Element): unknown;
}
// an element that is looked for is the one that the page has there: its kind is known by its name alone
interface ParentNode {
  querySelector(selectors: string): any;
  querySelectorAll(selectors: string): NodeListOf<any>;
}
interface EventTarget extends Record<string, any> {}
interface Element {
  closest(selectors: string): any;
}
