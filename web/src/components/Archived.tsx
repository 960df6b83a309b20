import { Button } from "@mui/material";
import { archived, bringBack } from "../document/many";
import { useSteady } from "../hooks/useDraft";

/** What is kept with the job and not made, below its list. */
export function Archived() {
  const all = useSteady((d) => archived(d.job));
  if (all.length === 0) return null;
  return (
    <section className="archived" aria-label="archive of the job">
      <h3>
        Archive <small>{all.length} kept with the job, neither made nor counted</small>
      </h3>
      <ul>
        {all.map((doc) => (
          <li key={`${doc.kind} ${doc.id}`}>
            <b>{doc.mark}</b> {doc.name}
            <Button aria-label={`bring ${doc.mark} back`} onClick={() => bringBack(doc)}>
              bring it back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
