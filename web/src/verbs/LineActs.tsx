import { Tooltip } from "@mui/material";
import { memo } from "react";
import type { BenchName } from "../document/bench";
import { copyLine, moveLine, switchLine } from "../document/lines";

interface ActsProps {
  bench: BenchName;
  id: string;
  off: boolean;
  note(): void;
  group(): void;
  remove(): void;
}

/** For the pointer; each has its key as well. */
export const LineActs = memo(function LineActs({ bench, id, off, note, group, remove }: ActsProps) {
  return (
    <span className="line-acts">
      <LineAct
        title="move up (Alt ↑)"
        label={`move ${id} up`}
        run={() => moveLine(bench, id, -1)}
        sign="↑"
      />
      <LineAct
        title="move down (Alt ↓)"
        label={`move ${id} down`}
        run={() => moveLine(bench, id, 1)}
        sign="↓"
      />
      <LineAct
        title={off ? "switch on (space)" : "switch off (space)"}
        label={`switch ${id} ${off ? "on" : "off"}`}
        run={() => switchLine(bench, id)}
        sign={off ? "on" : "off"}
      />
      <LineAct
        title="a remark that stays with the line (Alt R)"
        label={`remark on ${id}`}
        run={note}
        sign="remark"
      />
      <LineAct
        title="begin a group with this line, under a name, that folds (Alt G)"
        label={`group from ${id}`}
        run={group}
        sign="group"
      />
      <LineAct title="copy (D)" label={`copy ${id}`} run={() => copyLine(bench, id)} sign="copy" />
      <LineAct title="take out (Delete)" label={`take out ${id}`} run={remove} sign="×" />
    </span>
  );
});

function LineAct({
  title,
  label,
  run,
  sign,
}: {
  title: string;
  label: string;
  run(): void;
  sign: string;
}) {
  return (
    <Tooltip title={title}>
      <button type="button" tabIndex={-1} aria-label={label} onClick={run}>
        {sign}
      </button>
    </Tooltip>
  );
}
