import { Button } from "@mui/material";
import { useState } from "react";
import { answer, api, said } from "../api/client";
import type { components } from "../api/schema";
import { draft } from "../document/draft";
import { useDocument } from "../hooks/useDraft";
import { Act } from "../verbs/Act";

type Coverage = components["schemas"]["Coverage"];

interface Asked {
  /** What it was asked of: another job, another answer. */
  job: unknown;
  found?: Coverage;
  trouble?: string;
}

/** Values of the model that no figure of the drawing speaks of: how a forgotten dimension is found. */
export function Unchecked() {
  const job = useDocument((d) => d.job);
  const brief = useDocument((d) => d.brief);
  const [asked, setAsked] = useState<Asked>();
  const [busy, setBusy] = useState(false);
  const ask = async () => {
    if (!job) return;
    setBusy(true);
    try {
      setAsked({ job, found: answer(await api.POST("/api/coverage", { body: { job, brief } })) });
    } catch (e) {
      setAsked({ job, trouble: said(e) });
    } finally {
      setBusy(false);
    }
  };
  const old = asked && asked.job !== job;
  return (
    <div className="unchecked" aria-live="polite">
      <Button disabled={busy} onClick={() => void ask()}>
        {busy ? "every value is being changed…" : "what is not checked?"}
      </Button>
      {old && <span className="hint"> changed since: ask again</span>}
      {asked?.trouble && <p className="fault">{asked.trouble}</p>}
      {asked?.found && !old && <Found found={asked.found} />}
    </div>
  );
}

/** Values under the line that says them. */
function byLine(all: Coverage["unchecked"]): [string, Coverage["unchecked"]][] {
  const lines = [...new Set(all.map((u) => u.line))];
  return lines.map((line) => [line, all.filter((u) => u.line === line)]);
}

function Found({ found }: { found: Coverage }) {
  const { pick } = draft.getState();
  const n = found.unchecked.length;
  return (
    <>
      <p>
        {n === 0
          ? `All ${found.looked} values of the model are followed by some figure.`
          : `No figure follows ${n === 1 ? "this value" : `these ${n} values`} of ${found.looked}:`}
      </p>
      <ul>
        {byLine(found.unchecked).map(([line, all]) => (
          <li key={line}>
            <b>{all.map((u) => u.value).join(", ")}</b>{" "}
            {line ? (
              <>
                in {line}: <span className="num">{all[0]?.said}</span>
              </>
            ) : (
              `of the head: ${all.map((u) => u.path.slice(1)).join(", ")}`
            )}
          </li>
        ))}
      </ul>
      {found.unmoved.length > 0 && (
        <p>
          {`These figures follow nothing that the model says: `}
          {found.unmoved.map((l) => (
            <Act key={l} onClick={() => pick(l)}>
              {l}
            </Act>
          ))}
        </p>
      )}
      {found.unknown.length > 0 && (
        <p className="hint">
          Not looked at, for they cannot be changed by themselves:{" "}
          {found.unknown.map((u) => `${u.value} in ${u.line || "the head"}`).join("; ")}.
        </p>
      )}
    </>
  );
}
