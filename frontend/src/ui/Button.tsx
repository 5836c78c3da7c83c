import type { AnchorHTMLAttributes, ButtonHTMLAttributes } from "react";

type Kind = "solid" | "line" | "quiet" | "stop";

const KINDS: Record<Kind, string> = {
  solid: "bg-ink text-on-ink border-2 border-ink",
  line: "bg-sheet text-ink border-2 border-ink hover:bg-green-wash",
  quiet: "bg-transparent text-ink border-2 border-transparent hover:border-strong",
  stop: "bg-sheet text-stop border-2 border-stop hover:bg-stop-wash",
};
const SHAPE = "casual min-h-12 rounded-[5px] px-4 font-bold disabled:cursor-not-allowed disabled:opacity-50";

/** A button of touch size. */
export function Button({ kind = "line", className = "", type = "button", ...rest }: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return <button type={type} className={`${SHAPE} ${KINDS[kind]} ${className}`} {...rest} />;
}

/** A file to keep, as a button. */
export function FileLink({ className = "", children, ...rest }: AnchorHTMLAttributes<HTMLAnchorElement>) {
  return (
    <a download className={`${SHAPE} ${KINDS.line} inline-flex items-center justify-center gap-2 ${className}`} {...rest}>
      {children}
    </a>
  );
}
