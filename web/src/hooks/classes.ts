/** Names of classes: the first always, the others where they are so. */
export function classes(always: string, others: Record<string, boolean | undefined>): string {
  return [always, ...Object.keys(others).filter((name) => others[name])].join(" ");
}
