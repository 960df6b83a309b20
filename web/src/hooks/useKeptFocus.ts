import { type RefObject, useEffect } from "react";

/** What is laid over the page keeps its own focus, and gives it back. */
const OVER = ".MuiModal-root";

const usable = (el: HTMLElement) => el.isConnected && !el.matches(":disabled") && el.checkVisibility();

/**
 * Focus never falls to the page: where what had it goes, or can no more be used, the nearest thing around it
 * that is left and can have it takes it.
 */
export function useKeptFocus(page: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const host = page.current;
    if (!host) return;
    let around: HTMLElement[] = [];
    const note = (e: FocusEvent) => {
      const at = e.target as HTMLElement;
      if (at.closest(OVER)) return;
      around = [];
      for (let el: HTMLElement | null = at; el && el !== host; el = el.parentElement) around.push(el);
    };
    const look = () => {
      const held = document.activeElement as HTMLElement | null;
      const [last] = around;
      // A button that was put out of use may hold the focus for a frame yet: it is lost all the same.
      const kept = held && held !== document.body && usable(held);
      // Who left it by a click beside it meant to: only what is gone or can no more be used is followed.
      if (kept || !last || usable(last) || document.querySelector(OVER)) return;
      const left = around.find((el) => usable(el) && el.tabIndex >= 0);
      const next = left ?? document.getElementById("main");
      next?.focus({ preventScroll: true });
    };
    const watch = new MutationObserver(() => requestAnimationFrame(look));
    document.addEventListener("focusin", note);
    watch.observe(host, {
      childList: true,
      subtree: true,
      attributes: true,
      attributeFilter: ["disabled"],
    });
    return () => {
      document.removeEventListener("focusin", note);
      watch.disconnect();
    };
  }, [page]);
}
