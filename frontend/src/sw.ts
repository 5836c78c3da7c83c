import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute, type PrecacheEntry } from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

import { ready } from "./lib/kept";
import { SYNC } from "./lib/line";
import { workOff } from "./lib/workOff";

/** The worker: keeps the pages on the device, and sends what waits when there is signal again though no page is open. */

interface Waking extends Event {
  waitUntil(work: Promise<unknown>): void;
}
interface Syncing extends Waking {
  tag: string;
}
interface Pressed extends Waking {
  notification: { close(): void; data: { path: string } };
}
interface Page {
  focus(): Promise<Page>;
  navigate(path: string): Promise<unknown>;
}
const worker = self as unknown as {
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void>; matchAll(of: { type: "window" }): Promise<Page[]>; openWindow(path: string): Promise<unknown> };
  addEventListener(name: "install" | "activate", act: (e: Waking) => void): void;
  addEventListener(name: "notificationclick", act: (e: Pressed) => void): void;
  addEventListener(name: "sync", act: (e: Syncing) => void): void;
};

cleanupOutdatedCaches();
precacheAndRoute((self as unknown as { __WB_MANIFEST: PrecacheEntry[] }).__WB_MANIFEST);
// What the server says is never kept by the worker: it would be old, or somebody else's.
registerRoute(new NavigationRoute(createHandlerBoundToURL("/index.html"), { denylist: [/^\/api\//] }));

worker.addEventListener("install", (e) => e.waitUntil(worker.skipWaiting()));
worker.addEventListener("activate", (e) => e.waitUntil(worker.clients.claim()));
worker.addEventListener("notificationclick", (e) => {
  e.notification.close();
  const { path } = e.notification.data;
  e.waitUntil(
    worker.clients.matchAll({ type: "window" }).then(async ([page]) => {
      if (page) await (await page.focus()).navigate(path);
      else await worker.clients.openWindow(path);
    }),
  );
});
worker.addEventListener("sync", (e) => {
  if (e.tag === SYNC) e.waitUntil(ready.then(workOff));
});
