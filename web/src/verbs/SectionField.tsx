import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, api } from "../api/client";
import { useDraft } from "../hooks/useDraft";
import { Listed, useWritten } from "./Listed";

interface Props {
  path: string;
  label: string;
  empty?: string;
}

/** A section, with the catalogue behind it. */
export function SectionField({ path, label, empty = "" }: Props) {
  const pieces = useDraft((d) => d.job?.pieces) ?? [];
  const { value } = useWritten(path);
  const [asked, setAsked] = useState(false);
  const found = useQuery({
    queryKey: ["sections", value],
    enabled: asked,
    queryFn: async () => answer(await api.GET("/api/sections", { params: { query: { q: value } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  });
  return (
    <Listed path={path} label={label} empty={empty} least={6} onFocus={() => setAsked(true)}>
      {found.data?.sections.map((s) => (
        <option key={s.designation} value={s.designation}>
          {`${(s.published ?? s.worked).toFixed(2)} kg/m · ${s.series}`}
        </option>
      ))}
      {pieces.map((p) => (
        <option key={p.id} value={p.mark}>
          {`the flat of ${p.name || "a piece"}`}
        </option>
      ))}
    </Listed>
  );
}
