import { useEffect, useRef } from "react";
import { useLocation, useNavigationType } from "react-router";

/** A page or stage that was gone to begins at its top, and the next key is pressed there; going back finds it as it was left. */
export function Arrival() {
  const { pathname } = useLocation();
  const how = useNavigationType();
  const last = useRef(pathname);
  useEffect(() => {
    if (last.current === pathname) return;
    last.current = pathname;
    if (how === "POP") return;
    window.scrollTo(0, 0);
    // Whoever is typing into a field that stays is not torn from it.
    if (!(document.activeElement instanceof HTMLInputElement)) document.getElementById("main")?.focus({ preventScroll: true });
  }, [pathname, how]);
  return null;
}
