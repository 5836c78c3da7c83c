import { QueryClient } from "@tanstack/react-query";
import { PersistQueryClientProvider } from "@tanstack/react-query-persist-client";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import "./index.css";
import { allowSound } from "./lib/sound";
import { commands } from "./api/commands";
import { again, againAfter } from "./api/options";
import { takeSession } from "./api/session";
import { anyDrafts, sendDrafts } from "./lib/drafts";
import { BUILD, KEEP_MS, keepInMemory, keepsQuery, persister } from "./lib/keep";
import { ready } from "./lib/kept";
import { initTheme } from "./lib/theme";
import { BrokenPage, BrokenShell } from "./shell/Broken";
import { Shell } from "./shell/Shell";

initTheme();
allowSound();

// Without signal requests are made all the same: they tell whether it is back.
const client = new QueryClient({ defaultOptions: { queries: { retry: again, retryDelay: againAfter, refetchOnWindowFocus: false, networkMode: "always" }, mutations: { networkMode: "always" } } });
keepInMemory(client);

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <BrokenShell />,
    hydrateFallbackElement: <p className="p-6">Opening…</p>,
    children: [{ errorElement: <BrokenPage />, children: [
      { index: true, lazy: async () => ({ Component: (await import("./pages/Yard")).Yard }) },
      { path: "new", lazy: async () => ({ Component: (await import("./pages/NewJob")).NewJob }) },
      { path: "day", lazy: async () => ({ Component: (await import("./pages/Day")).Day }) },
      { path: "quick", lazy: async () => ({ Component: (await import("./pages/Quick")).Quick }) },
      { path: "history", lazy: async () => ({ Component: (await import("./pages/History")).History }) },
      { path: "kit", lazy: async () => ({ Component: (await import("./pages/Kit")).Kit }) },
      { path: "practice", lazy: async () => ({ Component: (await import("./pages/Practice")).Practice }) },
      { path: "practice/class", lazy: async () => ({ Component: (await import("./pages/PracticeClass")).PracticeClass }) },
      { path: "practice/sandbox", lazy: async () => ({ Component: (await import("./pages/PracticeSandbox")).PracticeSandbox }) },
      { path: "practice/race", lazy: async () => ({ Component: (await import("./pages/PracticeRace")).PracticeRace }) },
      { path: "practice/:runKey", lazy: async () => ({ Component: (await import("./pages/PracticeRun")).PracticeRun }) },
      { path: "practice/:runKey/debrief", lazy: async () => ({ Component: (await import("./pages/PracticeDebrief")).PracticeDebrief }) },
      { path: "notes", lazy: async () => ({ Component: (await import("./pages/Notes")).Notes }) },
      { path: "notes/:note", lazy: async () => ({ Component: (await import("./pages/Notes")).Notes }) },
      { path: "people", lazy: async () => ({ Component: (await import("./pages/People")).People }) },
      { path: "jobs/:jobKey", element: <Navigate to="scope" replace /> },
      { path: "jobs/:jobKey/:stage", lazy: async () => ({ Component: (await import("./pages/JobPage")).JobPage }) },
      { path: "*", lazy: async () => ({ Component: (await import("./pages/Lost")).Lost }) },
    ] }],
  },
]);

await ready;
// An edit that an earlier page left goes before anything is asked for; where there is none, nothing waits.
if (anyDrafts()) {
  const sent = commands.session().then((s) => (takeSession(s).inside ? sendDrafts() : undefined));
  await Promise.race([sent.catch(() => undefined), new Promise((go) => window.setTimeout(go, 3000))]);
}

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    {/* What was kept on the device is shown at once, and asked for again at once: it is what was known, not what is. */}
    <PersistQueryClientProvider client={client} onSuccess={() => void client.invalidateQueries()} persistOptions={{ persister, maxAge: KEEP_MS, buster: BUILD, dehydrateOptions: { shouldDehydrateQuery: keepsQuery } }}>
      <RouterProvider router={router} />
    </PersistQueryClientProvider>
  </StrictMode>,
);
