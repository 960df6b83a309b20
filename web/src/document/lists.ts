/** What a job has several of, each said line by line: what one is called, and the list that it stands in. */
export const LISTS = { piece: "pieces", frame: "frames", brief: "briefs" } as const;

/** What can stand on a bench. */
export type BenchName = keyof typeof LISTS;

export type List = (typeof LISTS)[BenchName];

export const LIST_OF = Object.entries(LISTS) as [BenchName, List][];
export const ALL_LISTS = Object.values(LISTS);
