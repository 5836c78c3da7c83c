import { useEffect, useState } from "react";

/** Keep the screen on while `wanted`: "on", or "no" where the browser does not let a page do so. */
export function useAwake(wanted: boolean): "on" | "off" | "no" {
  const [state, setState] = useState<"on" | "off" | "no">("off");
  useEffect(() => {
    if (!wanted) return;
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const take = async () => {
      if (!("wakeLock" in navigator)) {
        setState("no");
        return;
      }
      try {
        const got = await navigator.wakeLock.request("screen");
        if (gone) {
          await got.release();
          return;
        }
        lock = got;
        setState("on");
      } catch {
        setState("no");
      }
    };
    // A lock is lost when the page is hidden; it is taken again when it is seen.
    const seen = () => void (document.visibilityState === "visible" && take());
    void take();
    document.addEventListener("visibilitychange", seen);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", seen);
      void lock?.release();
      setState("off");
    };
  }, [wanted]);
  return state;
}
