import { ChevronDown } from "lucide-react";
import type { ReactNode } from "react";

import { useFold } from "../lib/folds";

/** A card: a sheet of the pad with a firm outline. With `fold`, a name, a phone shows its title until it is opened. */
export function Sheet({
  title,
  aside,
  children,
  className = "",
  strong = false,
  fold,
}: {
  title?: ReactNode;
  aside?: ReactNode;
  children: ReactNode;
  className?: string;
  strong?: boolean;
  fold?: string;
}) {
  const { folds, open, turn } = useFold(fold);
  return (
    <section className={`sheet min-w-0 ${folds ? "px-4 py-1" : "p-4"} ${strong ? "border-[3px]" : ""} ${className}`}>
      {folds ? (
        <FoldHead title={title} aside={aside} open={open} onTurn={turn} />
      ) : (
        (title || aside) && (
          <header className="mb-3 flex items-baseline justify-between gap-3">
            {title && <h2 className="text-lead">{title}</h2>}
            {aside && <div className="text-soft">{aside}</div>}
          </header>
        )
      )}
      {open && (folds ? <div className="pb-3">{children}</div> : children)}
    </section>
  );
}

function FoldHead({ title, aside, open, onTurn }: { title: ReactNode; aside: ReactNode; open: boolean; onTurn: () => void }) {
  return (
    <h2 className="text-lead">
      <button type="button" aria-expanded={open} onClick={onTurn} className="flex min-h-12 w-full items-center justify-between gap-3 text-left">
        <span>{title}</span>
        <span className="flex items-center gap-2 text-base font-normal text-soft">
          {aside}
          <ChevronDown size={22} aria-hidden className={open ? "rotate-180" : ""} />
        </span>
      </button>
    </h2>
  );
}

/** What stands behind a named fold on a phone, and plainly on a larger screen. */
export function Folded({ name, title, children }: { name: string; title: ReactNode; children: ReactNode }) {
  const { folds, open, turn } = useFold(name);
  if (!folds) return <>{children}</>;
  return (
    <section className="sheet min-w-0 px-4 py-1">
      <FoldHead title={title} aside={null} open={open} onTurn={turn} />
      {open && <div className="pb-3">{children}</div>}
    </section>
  );
}

/** The usual cautions, each on a line of its own. */
export function Cautions({ words }: { words: string[] }) {
  return (
    <Sheet title="Cautions" fold="cautions">
      <ul className="list-none p-0">
        {words.map((c) => (
          <li key={c} className="mb-2 border-l-4 border-ochre pl-3">
            {c}
          </li>
        ))}
      </ul>
    </Sheet>
  );
}

/** A small word in a wash: state told by word and shape, not by colour alone. */
export function Tag({ tone, children }: { tone: "pass" | "caution" | "stop" | "plain"; children: ReactNode }) {
  const tones = {
    pass: "bg-green-wash text-green",
    caution: "bg-ochre-wash text-ochre",
    stop: "bg-stop-wash text-stop",
    plain: "bg-rule text-ink",
  };
  return <span className={`casual inline-block rounded-full px-3 whitespace-nowrap py-0.5 text-note font-bold ${tones[tone]}`}>{children}</span>;
}

/** A fault told plainly, with its places. */
export function Fault({ title, detail, faults = [] }: { title: string; detail: string; faults?: { place: string; message: string }[] }) {
  return (
    <div role="alert" className="rounded-[5px] border-2 border-stop bg-stop-wash p-3">
      <strong className="casual text-stop">{title}. </strong>
      {faults.length === 0 || faults.length > 1 ? detail : null}
      {faults.length > 0 && (
        <ul className="mt-1 max-h-56 list-none overflow-auto p-0">
          {faults.map((f, i) => (
            <li key={i}>
              <span className="figure font-bold">{f.place}</span>: {f.message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
