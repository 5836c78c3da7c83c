import { useEffect, useRef, useState } from "react";

const EVERY_MS = 30_000;

/** Something that changes all the time, told to a screen reader now and then: politely, not each second. */
export function Said({ text }: { text: string }) {
  const [said, setSaid] = useState(text);
  const latest = useRef(text);
  useEffect(() => {
    latest.current = text;
  });
  useEffect(() => {
    const again = window.setInterval(() => setSaid(latest.current), EVERY_MS);
    return () => window.clearInterval(again);
  }, []);
  return (
    <p className="sr-only" aria-live="polite" data-testid="said">
      {said}
    </p>
  );
}
