import { useRef, useState } from "react";

import { Button } from "../ui/Button";

const [W, H] = [600, 160];

/** A place to sign by hand: strokes are kept as lines, and drawn the same on paper. */
export function SignPad({ value, onChange, locked }: { value: string; onChange: (path: string) => void; locked: boolean }) {
  const box = useRef<SVGSVGElement>(null);
  const [stroke, setStroke] = useState("");
  const at = (e: React.PointerEvent) => {
    const r = box.current!.getBoundingClientRect();
    return `${((W * (e.clientX - r.left)) / r.width).toFixed(1)} ${((H * (e.clientY - r.top)) / r.height).toFixed(1)}`;
  };
  const end = () => {
    if (stroke.includes("L")) onChange(`${value} ${stroke}`.trim().slice(0, 20_000));
    setStroke("");
  };
  return (
    <div>
      <span className="mb-1 block text-soft" id="sign-here">
        Sign here, or leave it at the name
      </span>
      <svg
        ref={box}
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-labelledby="sign-here"
        className={`w-full touch-none rounded-[5px] border-2 border-strong bg-sheet ${locked ? "" : "cursor-crosshair"}`}
        onPointerDown={(e) => {
          if (locked) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          setStroke(`M${at(e)}`);
        }}
        onPointerMove={(e) => stroke && setStroke(`${stroke} L${at(e)}`)}
        onPointerUp={end}
        onPointerCancel={end}
      >
        <line x1="20" x2={W - 20} y1={H - 30} y2={H - 30} stroke="var(--strong-rule)" strokeWidth="2" />
        <path d={`${value} ${stroke}`} fill="none" stroke="var(--measure)" strokeWidth="3" strokeLinecap="round" strokeLinejoin="round" />
      </svg>
      {value && !locked && (
        <Button kind="quiet" onClick={() => onChange("")}>
          Clear
        </Button>
      )}
    </div>
  );
}
