import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { answer, api } from "../api/client";
import { useDocument } from "../hooks/useDraft";
import { useAt, useOwner, useValue } from "./Field";

/** A section, with the catalogue behind it. */
export function SectionField({
  path,
  label,
  empty = "",
}: {
  path: string;
  label: string;
  empty?: string;
}) {
  const { write } = useOwner();
  const at = useAt();
  const pieces = useDocument((d) => d.job?.pieces) ?? [];
  const id = useId();
  const value = String(useValue(at + path) ?? "");
  const [asked, setAsked] = useState(false);
  const found = useQuery({
    queryKey: ["sections", value],
    enabled: asked,
    queryFn: async () => answer(await api.GET("/api/sections", { params: { query: { q: value } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
  });
  return (
    <>
      <input
        className="val words"
        aria-label={label}
        list={id}
        placeholder={empty}
        value={value}
        spellCheck={false}
        autoComplete="off"
        style={{ width: `${Math.max(value.length, empty.length, 6) + 2.5}ch` }}
        onFocus={() => setAsked(true)}
        onChange={(e) =>
          write(at + path, e.target.value === "" && empty ? undefined : e.target.value, true)
        }
      />
      <datalist id={id}>
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
      </datalist>
    </>
  );
}
