import { Button } from "@mui/material";
import { memo } from "react";
import { evaluateNow } from "../evaluation/evaluate";
import { useDraft } from "../hooks/useDraft";

/** Why the figures do not belong to what stands in the fields, and what is done about it. */
export const Trouble = memo(function Trouble() {
  const trouble = useDraft((d) => d.evaluating);
  const waiting = useDraft((d) => d.waiting);
  if (!trouble) return null;
  return (
    <p className="fault" role="alert">
      {trouble}. {waiting === "given up" && <Button onClick={evaluateNow}>ask again</Button>}
    </p>
  );
});
