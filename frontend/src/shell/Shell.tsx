import { Menu, Moon, Sun } from "lucide-react";
import { lazy, Suspense, useCallback, useState } from "react";
import { NavLink, Outlet, useLocation } from "react-router";

import { useNews } from "../api/news";
import { useSent } from "../api/queries";
import { useSession } from "../api/session";
import { setTheme, useTheme } from "../lib/theme";
import { Modal } from "../ui/Modal";
import { Alarms } from "./Alarms";
import { Arrival } from "./Arrival";
import { useGlobalKeys } from "./keys";
import { KeysSheet } from "./KeysSheet";
import { Preparing } from "./Preparing";
import { Signal } from "./Signal";
import { Toasts } from "./Toasts";
import { UnitsButton } from "./UnitsButton";

/** Asked of nobody where no passphrase is set. */
const SignIn = lazy(async () => ({ default: (await import("./SignIn")).SignIn }));

/** Places; those that are not `near` stand behind "More" on a phone. */
const PLACES = [
  { to: "/", label: "Yard", near: true },
  { to: "/day", label: "Day", near: true },
  { to: "/kit", label: "Kit", near: true },
  { to: "/quick", label: "Hold check", near: false },
  { to: "/practice", label: "Practice", near: false },
  { to: "/notes", label: "Notes", near: false },
  { to: "/people", label: "People", near: false },
];

/** The frame: places on the left on a desk, at the foot on a phone. */
export function Shell() {
  const now = useTheme();
  const other = now === "day" ? "night" : "day";
  const session = useSession();
  useSent();
  const [help, setHelp] = useState(false);
  useGlobalKeys(useCallback(() => setHelp(true), []));
  if (session.data && !session.data.inside)
    return (
      <Suspense>
        <SignIn />
      </Suspense>
    );
  return (
    <div className="min-h-dvh md:pl-[88px]">
      <a href="#main" className="sr-only focus:not-sr-only focus:fixed focus:top-2 focus:left-2 focus:z-50 focus:bg-sheet focus:p-3">
        To the content
      </a>
      <nav
        aria-label="Places"
        className="fixed inset-x-0 bottom-0 z-30 flex border-t-2 border-ink bg-sheet md:inset-y-0 md:right-auto md:w-[88px] md:flex-col md:border-t-0 md:border-r-2"
      >
        <div className="casual hidden px-2 pt-3 pb-4 text-center text-order leading-[1.05] font-extrabold italic md:block">
          Rough
          <br />
          Draw
        </div>
        {PLACES.map((p) => (
          <NavLink
            key={p.to}
            to={p.to}
            end={p.to === "/"}
            className={({ isActive }) =>
              `${p.near ? "grid" : "hidden md:grid"} min-h-14 flex-1 place-items-center text-center font-bold md:mx-1 md:mb-1 md:min-h-[52px] md:flex-none md:rounded-[6px] ${
                isActive
                  ? "border-t-[5px] border-green bg-green-wash md:border-t-0 md:border-l-[5px]"
                  : "text-soft hover:text-ink"
              }`
            }
          >
            {p.label}
          </NavLink>
        ))}
        <More />
        <UnitsButton />
        <button
          type="button"
          onClick={() => setTheme(other)}
          aria-label={`Switch to ${other}`}
          className="flex min-h-14 flex-1 items-center justify-center gap-1.5 font-bold text-soft hover:text-ink md:mb-3 md:flex-none"
        >
          {now === "day" ? <Moon size={17} aria-hidden /> : <Sun size={17} aria-hidden />}
          <span className="max-md:sr-only">{now === "day" ? "Night" : "Day"}</span>
        </button>
      </nav>
      <main id="main" tabIndex={-1} className="outline-none mx-auto max-w-[1240px] px-3 pt-3 pb-20 md:px-4 md:pb-4">
        <News />
        <Arrival />
        <Preparing />
        <Signal />
        <Alarms />
        <Outlet />
      </main>
      <Toasts />
      <KeysSheet open={help} onClose={() => setHelp(false)} />
    </div>
  );
}

/** On a phone: the places that are not needed beside the unit. */
function More() {
  const [open, setOpen] = useState(false);
  const { pathname } = useLocation();
  const far = PLACES.filter((p) => !p.near);
  const here = far.some((p) => pathname.startsWith(p.to));
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className={`flex min-h-14 flex-1 items-center justify-center gap-1.5 font-bold md:hidden ${here ? "border-t-[5px] border-green bg-green-wash" : "text-soft"}`}
      >
        <Menu size={17} aria-hidden /> More
      </button>
      <Modal open={open} onClose={() => setOpen(false)} title="More places">
        <ul className="list-none p-0">
          {[...far, { to: "/history", label: "History" }].map((p) => (
            <li key={p.to}>
              <NavLink to={p.to} onClick={() => setOpen(false)} className="casual flex min-h-14 items-center border-b-2 border-rule text-lead font-bold">
                {p.label}
              </NavLink>
            </li>
          ))}
        </ul>
      </Modal>
    </>
  );
}

/** Nothing to see: what changes is heard for as long as somebody is in. */
function News() {
  useNews();
  return null;
}
