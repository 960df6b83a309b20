import { Divider, Menu, MenuItem } from "@mui/material";
import { useEffect, useState } from "react";
import { answer, api, said } from "../api/client";
import type { components } from "../api/schema";
import { docOf } from "../document/bench";
import { draft } from "../document/draft";
import { useDocument } from "../hooks/useDraft";
import { addFocused } from "./palette";
import type { Said } from "./useVerbs";

type S = components["schemas"];

/** Geometry that was clicked: what it is, where on the flat, and where on the screen. */
export interface Asked {
  what: S["Target"];
  name: string;
  line?: string;
  at: [number, number];
  x: number;
  y: number;
}

/** What can be said of it, as the core has it. */
function useOffers(asked: Asked | null, piece: string | undefined): S["Offers"] | undefined {
  const [got, setGot] = useState<{ of: Asked; offers: S["Offers"] }>();
  useEffect(() => {
    const { job } = draft.getState();
    if (!asked || !piece || !job) return;
    const gone = new AbortController();
    const ask = async () => {
      const { what, name, line = "", at } = asked;
      const body = { job, piece, clicked: { what, name, line, at } };
      try {
        const offers = answer(await api.POST("/api/clicked", { body, signal: gone.signal }));
        setGot({ of: asked, offers });
      } catch (e) {
        if (!gone.signal.aborted) setGot({ of: asked, offers: { said: said(e), lines: [] } });
      }
    };
    void ask();
    return () => gone.abort();
  }, [asked, piece]);
  return got?.of === asked ? got?.offers : undefined;
}

/** The lines that make sense where the click went, already filled in. */
export function Offers({ asked, close }: { asked: Asked | null; close(): void }) {
  const piece = useDocument((d) => d.piece);
  const offers = useOffers(asked, piece);
  // It opens whole: what comes late would move what the hand is about to press.
  if (!asked || !offers) return null;
  const goTo = () => {
    close();
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-line="${asked.line}"]`)?.focus(),
    );
  };
  const own = asked.line && docOf("piece")?.lines?.some((l) => l.id === asked.line);
  return (
    <Menu
      open
      onClose={close}
      anchorReference="anchorPosition"
      anchorPosition={{ left: asked.x, top: asked.y }}
      aria-label="offered lines"
    >
      <MenuItem disabled sx={{ opacity: "1 !important", color: "text.secondary" }}>
        {offers.said}
      </MenuItem>
      {offers.lines.map((o) => (
        <MenuItem
          key={o.words}
          onClick={() => {
            close();
            addFocused("piece", { say: o.say as unknown as Said, stem: o.stem });
          }}
        >
          {o.words}
        </MenuItem>
      ))}
      {asked.what !== "panel" && (
        <MenuItem
          onClick={() => {
            close();
            draft.setState({ sizing: asked.name });
          }}
        >
          Dimension from here to what is clicked next
        </MenuItem>
      )}
      {own && <Divider />}
      {own && <MenuItem onClick={goTo}>Go to its line, {asked.line}</MenuItem>}
    </Menu>
  );
}
