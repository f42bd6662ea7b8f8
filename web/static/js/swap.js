// @ts-check
// Brings a part of this page to what the server drew anew. What is the same stays the
// same element, so that focus, a selection and what is being typed are kept.

import { Idiomorph } from "/static/vendor/idiomorph.js";

const kept = "details[data-keep]";

/**
 * @param {ParentNode} root
 * @returns {Set<string>} what is folded open
 */
export function opened(root) {
  return new Set([...root.querySelectorAll(`${kept}[open]`)].map((d) => d.getAttribute("data-keep") ?? ""));
}

/**
 * @param {Element} now a part of this page
 * @param {Element} next the same as the server has it
 * @param {{whole?: boolean, open?: Set<string>}} [how] whole: the field that is typed in
 *   is taken over, too; open: what shall be folded open, besides what the server opens
 */
export function swap(now, next, { whole = false, open = opened(now) } = {}) {
  const active = document.activeElement;
  const place = active && now.contains(active) ? nameOf(active) : "";
  Idiomorph.morph(now, next.cloneNode(true), { morphStyle: "outerHTML", ignoreActiveValue: !whole });
  for (const details of now.querySelectorAll(kept)) {
    if (open.has(details.getAttribute("data-keep") ?? "")) details.setAttribute("open", "");
  }
  const after = document.activeElement;
  if (place && (!after || nameOf(after) !== place)) find(now, place)?.focus();
}

/**
 * Swaps each part of a page that is marked with data-live and is in both.
 * @param {ParentNode} root of this page
 * @param {ParentNode} page as the server has it
 * @param {{whole?: boolean, open?: Set<string>}} [how] as for swap
 */
export function swapLive(root, page, how) {
  for (const part of root.querySelectorAll("[data-live]")) {
    const next = page.querySelector(`[data-live="${part.getAttribute("data-live")}"]`);
    if (next) swap(part, next, how);
  }
}

/**
 * @param {string} html a page
 * @returns {Document}
 */
export function read(html) {
  return new DOMParser().parseFromString(html, "text/html");
}

/**
 * @param {Element} element
 * @returns {string} by what a field or a button is found again, "" for nothing
 */
function nameOf(element) {
  if (element instanceof HTMLButtonElement) return element.name ? `${element.name}=${element.value}` : "";
  return element.getAttribute("name") ?? "";
}

/**
 * @param {ParentNode} root
 * @param {string} name as nameOf gives it
 * @returns {HTMLElement | undefined}
 */
export function find(root, name) {
  const all = /** @type {NodeListOf<HTMLElement>} */ (root.querySelectorAll("button, input, select, textarea"));
  return [...all].find((element) => nameOf(element) === name);
}
