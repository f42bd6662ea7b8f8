// @ts-check
// What is tapped is sent once each and in order, and kept on the device while the
// server cannot be reached.

/** @typedef {{path: string, body: string, at: number}} Waiting */

const key = "kirdu-waiting";
const retryEvery = 3000; // ms

/** @returns {Waiting[]} what is kept on this device */
export function waiting() {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "[]");
  } catch {
    return [];
  }
}

/** @param {Waiting[]} list */
function keep(list) {
  localStorage.setItem(key, JSON.stringify(list));
}

/** @returns {string} a random identifier; randomUUID is missing on plain http */
function newID() {
  const b = crypto.getRandomValues(new Uint8Array(16));
  b[6] = (b[6] & 0x0f) | 0x40;
  b[8] = (b[8] & 0x3f) | 0x80;
  const hex = [...b].map((x) => x.toString(16).padStart(2, "0")).join("");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

/**
 * A queue of what is told, which sends by itself.
 * @param {(count: number) => void} show says how many wait
 * @param {(html: string, address: string) => void} answered takes the answer to the last of
 *   what was told of this page
 */
export function queue(show, answered) {
  let sending = false;

  /** Sends what waits, oldest first. */
  async function send() {
    if (sending) return;
    sending = true;
    try {
      for (let list = waiting(); list.length > 0; list = waiting()) {
        const first = list[0];
        const body = new URLSearchParams(first.body);
        body.set("age_ms", String(Math.max(0, Date.now() - first.at)));
        const response = await fetch(first.path, { method: "POST", body });
        if (response.status >= 500) break;
        if (response.status === 401) {
          // Locked meanwhile: what waits is kept until the kitchen is open again.
          location.href = "/login";
          break;
        }
        keep(waiting().slice(1));
        show(waiting().length);
        if (first.path === location.pathname) {
          const html = await response.text();
          if (list.length === 1) answered(html, response.url);
        }
      }
    } catch {
      show(waiting().length);
    } finally {
      sending = false;
    }
  }

  /** @param {URLSearchParams} body what is told */
  function tell(body) {
    body.set("id", newID());
    keep([...waiting(), { path: location.pathname, body: body.toString(), at: Date.now() }]);
    show(0); // shown only once sending has failed
    send();
  }

  setInterval(() => {
    if (waiting().length > 0) send();
  }, retryEvery);
  return { send, tell };
}
