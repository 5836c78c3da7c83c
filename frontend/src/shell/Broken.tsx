import { RotateCw } from "lucide-react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { Link, useLocation, useRouteError } from "react-router";

import { Button } from "../ui/Button";

/** A part of the page that was not fetched: the signal went, or the server has another build by now. */
const NOT_FETCHED = /dynamically imported module|module script|load failed|failed to fetch|preload/i;

export const wasNotFetched = (error: unknown): boolean => error instanceof Error && NOT_FETCHED.test(`${error.name} ${error.message}`);

/** What stands in place of a page, or a part of it, that came to grief. The words are for whoever works with it; the rest is in the console. */
export function Broken({ error, again, what = "page" }: { error: unknown; again?: () => void; what?: string }) {
  const missing = wasNotFetched(error);
  return (
    <section role="alert" className="sheet mx-auto my-6 max-w-xl border-[3px] p-4">
      <h2 className="text-heading">{missing ? `This ${what} could not be fetched` : `Something went wrong on this ${what}`}</h2>
      <p className="mt-2">
        {missing
          ? "The signal went, or Rough Draw was updated meanwhile. What you typed is kept on this device."
          : "The rest goes on working, and what you typed is kept. Reload it; if it comes again, say what you did just before."}
      </p>
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <Button kind="solid" className="inline-flex items-center gap-2" onClick={() => window.location.reload()}>
          <RotateCw size={18} aria-hidden /> Reload
        </Button>
        {again && !missing && <Button onClick={again}>Try it again</Button>}
        <Link to="/" className="inline-flex min-h-12 items-center font-bold underline">
          To the Yard
        </Link>
      </div>
    </section>
  );
}

/** In place of a whole page, the places and alarms beside it going on. */
export function BrokenPage() {
  return <Broken error={useRouteError()} />;
}

/** In place of everything: the frame itself came to grief. */
export function BrokenShell() {
  return (
    <main className="p-3">
      <Broken error={useRouteError()} what="page" />
    </main>
  );
}

/** A part of a page that may come to grief by itself; begun anew where another address is opened. */
export function Guarded({ what, children }: { what: string; children: React.ReactNode }) {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary resetKeys={[pathname]} fallbackRender={({ error, resetErrorBoundary }: FallbackProps) => <Broken error={error} again={resetErrorBoundary} what={what} />}>
      {children}
    </ErrorBoundary>
  );
}
