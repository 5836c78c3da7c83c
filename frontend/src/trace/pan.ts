import { useEffect, useRef } from "react";
import type uPlot from "uplot";

import type { TraceProps } from "./Trace";

const LEAST_S = 30;
const MOST_S = 7 * 86_400;

/** Drag moves the time axis, the wheel and two fingers draw it together or apart: one call a frame at the most. */
export function usePan(plot: React.RefObject<uPlot | null>, props: TraceProps) {
  const fingers = useRef(new Map<number, number>());
  const frame = useRef(0);
  const latest = useRef(props);
  useEffect(() => {
    latest.current = props;
  });

  const show = (from: number, to: number) => {
    const span = Math.min(MOST_S, Math.max(LEAST_S, to - from));
    const mid = (from + to) / 2;
    cancelAnimationFrame(frame.current);
    frame.current = requestAnimationFrame(() => latest.current.onView?.(mid - span / 2, mid + span / 2));
  };
  const x = (clientX: number) => {
    const p = plot.current;
    return p ? p.posToVal(clientX - p.over.getBoundingClientRect().left, "x") : 0;
  };

  useEffect(() => {
    const host = plot.current?.root.parentElement;
    if (!host || !props.onView) return;
    const wheel = (e: WheelEvent) => {
      // A bare wheel scrolls the page; with Ctrl (and a pinch on a touchpad) it draws time together.
      if (!e.ctrlKey) return;
      e.preventDefault();
      const { from, to } = latest.current;
      const at = x(e.clientX);
      const k = Math.exp(e.deltaY * 0.002);
      show(at - (at - from) * k, at + (to - at) * k);
    };
    host.addEventListener("wheel", wheel, { passive: false });
    return () => host.removeEventListener("wheel", wheel);
  });

  return {
    down: (e: React.PointerEvent) => {
      (e.currentTarget as HTMLElement).setPointerCapture(e.pointerId);
      fingers.current.set(e.pointerId, e.clientX);
    },
    move: (e: React.PointerEvent) => {
      const before = fingers.current.get(e.pointerId);
      if (before === undefined) return;
      const { from, to } = latest.current;
      const others = [...fingers.current].filter(([id]) => id !== e.pointerId).map(([, px]) => px);
      if (others.length === 0) {
        const shift = x(before) - x(e.clientX);
        if (shift !== 0) show(from + shift, to + shift);
      } else {
        const still = others[0]!;
        const k = Math.max(12, Math.abs(before - still)) / Math.max(12, Math.abs(e.clientX - still));
        const at = x(still);
        show(at - (at - from) * k, at + (to - at) * k);
      }
      fingers.current.set(e.pointerId, e.clientX);
    },
    up: (e: React.PointerEvent) => {
      fingers.current.delete(e.pointerId);
    },
  };
}
