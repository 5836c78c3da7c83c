import { type AnchorHTMLAttributes, type ButtonHTMLAttributes, type MouseEvent, useRef, useState } from "react";

type Kind = "solid" | "line" | "quiet" | "stop";

const KINDS: Record<Kind, string> = {
  solid: "bg-ink text-on-ink border-2 border-ink",
  line: "bg-sheet text-ink border-2 border-ink hover:bg-green-wash",
  quiet: "bg-transparent text-ink border-2 border-transparent hover:border-strong",
  stop: "bg-sheet text-stop border-2 border-stop hover:bg-stop-wash",
};
const SHAPE = "casual min-h-12 rounded-[5px] px-4 font-bold disabled:cursor-not-allowed disabled:opacity-50";

/** What a press sets going: where it is a promise, the press stands until that is settled. */
export type Press = (e: MouseEvent<HTMLButtonElement>) => void | Promise<unknown>;

/** A press handler that takes no second press while the first is under way; with whether it is.

Gloves press twice, and a server that is far answers late: what a press asks for is asked for once. The button keeps the focus meanwhile. */
function useOnce(press: Press | undefined): [boolean, (e: MouseEvent<HTMLButtonElement>) => void] {
  const [underWay, setUnderWay] = useState(false);
  const at = useRef(false);
  const turn = (on: boolean) => {
    at.current = on;
    setUnderWay(on);
  };
  return [
    underWay,
    (e) => {
      if (at.current) return;
      const made = press?.(e);
      if (!(made instanceof Promise)) return;
      turn(true);
      void made.finally(() => turn(false));
    },
  ];
}

/** A button of touch size. */
export function Button({ kind = "line", className = "", type = "button", onClick, ...rest }: Omit<ButtonHTMLAttributes<HTMLButtonElement>, "onClick"> & { kind?: Kind; onClick?: Press }) {
  const [underWay, press] = useOnce(onClick);
  return <button type={type} className={`${SHAPE} ${KINDS[kind]} ${className}`} aria-busy={underWay || undefined} onClick={press} {...rest} />;
}

/** A file to keep, as a button. */
export function FileLink({ className = "", children, ...rest }: AnchorHTMLAttributes<HTMLAnchorElement>) {
  return (
    <a download className={`${SHAPE} ${KINDS.line} inline-flex items-center justify-center gap-2 ${className}`} {...rest}>
      {children}
    </a>
  );
}
