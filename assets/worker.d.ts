// What the server puts before the service worker.
declare const version: string;
declare const files: string[];
