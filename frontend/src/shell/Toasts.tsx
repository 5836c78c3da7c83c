import { Toast } from "radix-ui";

import { dismiss, useToasts } from "../lib/toasts";

const LASTS_MS = 6000;

/** Slim bars under the alarms on a phone, in the corner of a desk: they take no press but on their own buttons. */
export function Toasts() {
  const shown = useToasts();
  return (
    <Toast.Provider duration={LASTS_MS} swipeDirection="right" label="Done just now">
      {shown.map((t) => (
        <Toast.Root key={t.id} onOpenChange={(open) => !open && dismiss(t.id)} className="pointer-events-auto flex min-h-12 items-center gap-2 rounded-[6px] border-2 border-ink bg-ink py-0.5 pr-1 pl-3 text-on-ink">
          <Toast.Title className="min-w-0 flex-1 truncate">{t.words}</Toast.Title>
          {t.undo && (
            <Toast.Action altText="Take it back in the log of steps" asChild>
              <button type="button" className="min-h-11 rounded-[4px] px-3 font-bold underline" onClick={t.undo}>
                Undo
              </button>
            </Toast.Action>
          )}
        </Toast.Root>
      ))}
      <Toast.Viewport className="pointer-events-none fixed top-[66px] right-2 left-2 z-40 m-0 grid list-none gap-2 p-0 outline-none md:top-auto md:right-4 md:bottom-4 md:left-auto md:w-[420px]" />
    </Toast.Provider>
  );
}
