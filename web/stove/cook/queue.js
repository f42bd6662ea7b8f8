// @ts-check
// What is tapped is sent once each and in order, and kept on the device, by id, while the server
// cannot be reached. All tabs share what is kept; one of them sends.

import { openDB } from "/static/vendor/idb.js";

/** @typedef {{order?: number, id: string, path: string, body: string, at: number, words: string}} Waiting */
/** @typedef {Waiting & {reason: string}} Refused */

const retryEvery = 3000; // ms
const soonAfter = 5000; // ms: an answer that comes within is shown where it was tapped

/** @type {Promise<import("/static/vendor/idb.js").IDBPDatabase>} */
const kept = openDB("kirdu", 1, {
  upgrade(db) {
    db.createObjectStore("waiting", { keyPath: "order", autoIncrement: true }).createIndex("id", "id", { unique: true });
    db.createObjectStore("refused", { keyPath: "id" });
  },
});

/** @returns {Promise<Waiting[]>} what is kept on this device, oldest first */
export async function waiting() {
  return (await kept).getAll("waiting");
}

/** @returns {Promise<Refused[]>} what the server did not take, with its reason */
export async function refused() {
  return (await kept).getAll("refused");
}

/** Lets go of what the server did not take. @param {string} id */
export async function drop(id) {
  await (await kept).delete("refused", id);
}

/** @returns {string} a random identifier; randomUUID is missing on plain http */
function newID() {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = (b[6] & 0x0f) | 0x40;
  b[8] = (b[8] & 0x3f) | 0x80;
  const hex = [...b].map((x) => x.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

/** @param {string} html a page with a fault on it @returns {string} the fault */
function reasonOf(html) {
  const page = new DOMParser().parseFromString(html, "text/html");
  const fault = page.querySelector(".fault") ?? page.querySelector("h1");
  return fault?.textContent?.trim() || "The kitchen did not take it.";
}

/**
 * One tab at a time: the others find nothing left. Over plain http there is no lock; then an event
 * may be sent twice, and the server keeps it once.
 * @param {() => Promise<void>} work
 */
async function alone(work) {
  if (navigator.locks) {
    await navigator.locks.request("kirdu-sends", { ifAvailable: true }, async (lock) => {
      if (lock) await work();
    });
    return;
  }
  await work();
}

/**
 * A queue of what is told, which sends by itself.
 * @param {() => void} changed says that what waits, or was refused, is another
 * @param {(html: string, address: string) => void} answered takes the answer to the last of
 *   what was told of this page
 */
export function queue(changed, answered) {
  let sending = false;

  /** Sends what waits, oldest first. */
  async function send() {
    if (sending) return;
    sending = true;
    try {
      await alone(async () => {
        for (let list = await waiting(); list.length > 0; list = await waiting()) {
          if (!(await sendOne(list[0], list.length === 1))) break;
        }
      });
    } catch {
      changed(); // it is tried again
    } finally {
      sending = false;
    }
  }

  /**
   * @param {Waiting} first @param {boolean} last whether nothing waits behind it
   * @returns {Promise<boolean>} whether to go on
   */
  async function sendOne(first, last) {
    const body = new URLSearchParams(first.body);
    const age = Math.max(0, Date.now() - first.at);
    body.set("age_ms", String(age));
    const response = await fetch(first.path, { method: "POST", body });
    if (response.status >= 500) return false;
    if (response.status === 401 || new URL(response.url).pathname === "/login") {
      // Locked meanwhile: what waits is kept until the kitchen is open again.
      location.href = "/login";
      return false;
    }
    const html = await response.text();
    const here = first.path === location.pathname && last;
    const db = await kept;
    const change = db.transaction(["waiting", "refused"], "readwrite");
    if (!response.ok && !(here && age < soonAfter)) {
      await change.objectStore("refused").put({ ...first, reason: reasonOf(html) });
    }
    if (first.order !== undefined) await change.objectStore("waiting").delete(first.order);
    await change.done;
    changed();
    if (here) answered(html, response.url);
    return true;
  }

  /** @param {URLSearchParams} body what is told @param {string} words how the button says it */
  async function tell(body, words) {
    const id = newID();
    body.set("id", id);
    await (await kept).add("waiting", { id, path: location.pathname, body: body.toString(), at: Date.now(), words });
    await send();
  }

  setInterval(send, retryEvery);
  return { send, tell };
}
