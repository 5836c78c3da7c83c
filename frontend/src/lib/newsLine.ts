/**
 * One stream of news for a whole browser. The tab that holds the lock keeps it open and passes on what it hears; the
 * others say which jobs they watch. Where there are no locks (not a secure page), each tab has a stream of its own.
 */

export interface Line {
  /** The jobs whose readings this tab wants as they come. */
  watch: (jobs: string[]) => void;
  close: () => void;
}

const NAME = "rough-draw-news";
const AGAIN_MS = 5000;
/** A tab that went without a word is watched for no longer than this. */
const FORGET_MS = 90_000;
const REMIND_MS = 30_000;

type Told<M> = { heard: M; fell: boolean } | { who: true } | { tab: string; jobs: string[] };

/** Open the line. `hear` gets each message, and whether something may have been missed before it; `lost`: it broke off. */
export function openLine<M>(href: (jobs: string[]) => string, tab: string, hear: (message: M, fell: boolean) => void, lost: () => void = () => undefined): Line {
  const locks = typeof BroadcastChannel === "undefined" ? undefined : navigator.locks;
  const channel = locks ? new BroadcastChannel(NAME) : null;
  const wanted = new Map<string, { jobs: string[]; at: number }>();
  let mine: string[] = [];
  let source: EventSource | null = null;
  let opened: string | null = null;
  let fell = false;
  let closed = false;
  let again: number | undefined;
  let letGo: () => void = () => undefined;

  const say = (m: Told<M>) => channel?.postMessage(m);
  const leads = () => opened !== null;

  function open(): void {
    window.clearTimeout(again);
    if (closed) return;
    const old = Date.now() - FORGET_MS;
    const jobs = [...new Set([...mine, ...[...wanted.values()].filter((w) => w.at > old).flatMap((w) => w.jobs)])].sort();
    const url = href(jobs);
    if (source && source.readyState !== EventSource.CLOSED && url === opened) return;
    source?.close();
    opened = url;
    const here = (source = new EventSource(url));
    here.onmessage = (e: MessageEvent<string>) => {
      const heard = JSON.parse(e.data) as M;
      hear(heard, fell);
      say({ heard, fell });
      fell = false;
    };
    here.onerror = () => {
      fell = true;
      lost();
      // The browser comes again by itself, but not after an answer that refused.
      if (here.readyState === EventSource.CLOSED) again = window.setTimeout(open, AGAIN_MS);
    };
  }

  const remind = window.setInterval(() => !leads() && mine.length > 0 && say({ tab, jobs: mine }), REMIND_MS);
  if (channel)
    channel.onmessage = (e: MessageEvent<Told<M>>) => {
      const m = e.data;
      if ("heard" in m) hear(m.heard, m.fell);
      else if ("who" in m) say({ tab, jobs: mine });
      else if (leads()) {
        wanted.set(m.tab, { jobs: m.jobs, at: Date.now() });
        open();
      }
    };
  if (locks)
    void locks
      .request(NAME, () => {
        if (closed) return undefined;
        open();
        say({ who: true });
        return new Promise<void>((go) => (letGo = go));
      })
      .catch(open);
  else open();

  return {
    watch: (jobs) => {
      mine = jobs;
      if (leads()) open();
      else say({ tab, jobs });
    },
    close: () => {
      if (closed) return;
      closed = true;
      window.clearInterval(remind);
      window.clearTimeout(again);
      source?.close();
      say({ tab, jobs: [] });
      channel?.close();
      letGo();
    },
  };
}
