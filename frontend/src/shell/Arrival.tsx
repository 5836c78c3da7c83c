import { useEffect, useLayoutEffect, useRef } from "react";
import { useLocation, useNavigationType } from "react-router";

import { useReach } from "../lib/reach";

/** The longest that what comes later keeps back what stands after it, ms: a slow server holds nobody up. */
const KEPT_BACK = 4000;

/** A page or stage that was gone to begins at its top, and the next key is pressed there; going back finds it as it was left. */
export function Arrival() {
  const { pathname } = useLocation();
  const how = useNavigationType();
  const last = useRef(pathname);
  const dark = !useReach().ok;
  useEffect(() => {
    if (last.current === pathname) return;
    last.current = pathname;
    if (how === "POP") return;
    window.scrollTo(0, 0);
    // Whoever is typing into a field that stays is not torn from it.
    if (!(document.activeElement instanceof HTMLInputElement)) document.getElementById("main")?.focus({ preventScroll: true });
  }, [pathname, how]);
  useLayoutEffect(() => {
    // Without signal what is to come does not.
    if (dark) return;
    const main = document.getElementById("main")!;
    const show = () => delete main.dataset.fresh;
    main.dataset.fresh = "";
    const late = window.setTimeout(show, KEPT_BACK);
    // Nothing goes from under who types.
    main.addEventListener("input", show, { once: true });
    return () => {
      show();
      window.clearTimeout(late);
      main.removeEventListener("input", show);
    };
  }, [pathname, dark]);
  return null;
}
