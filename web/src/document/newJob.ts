import type { Job } from "../api/types";

/** A job with nothing in it yet. */
export const NEW_JOB: Job = {
  format: 1,
  title: "New job",
  display: { length: "mm", inches: "1/64" },
  bend_rule: { school: "din6935" },
  stock: [
    { length: "2500", width: "1250" },
    { length: "3000", width: "1500" },
  ],
  pieces: [],
};
