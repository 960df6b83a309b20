import type { FrameList } from "../api/types";
import { PaperOf } from "./PaperOf";

/** Papers of one frame: its sheet, its lists, templates of its copes, files of its bars. */
export function FramePapers({ job, list, revision }: { job: string; list: FrameList; revision: number }) {
  return (
    <PaperOf
      job={job}
      revision={revision}
      of={{ frame: list.frame }}
      title={`${list.mark} ${list.name}`}
      bench={`/jobs/${job}/frames/${list.frame}`}
      stops={list.stops}
      page
      subjects={["frame", "job"]}
      has={(needs) => {
        if (needs === "cope")
          return list.bars.flatMap((b) => b.cuts.flatMap((c) => (c.template ? [c.template] : [])));
        if (needs === "plates") return list.plates.length > 0;
        if (needs === "bar") return list.bars.map((b) => b.mark);
        return needs === "skin" && list.bars.filter((b) => b.skin).map((b) => b.mark);
      }}
    />
  );
}
