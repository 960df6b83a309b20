/** Opens the settings and goes to one; it may take a while to be drawn. */
export function toSetting(tag: string, tries = 30): void {
  const all = document.querySelector<HTMLDetailsElement>(".job-settings");
  if (all) all.open = true;
  const there = document.querySelector<HTMLElement>(`[data-setting="${tag}"]`);
  // Some stand in a part that is folded by itself.
  for (let at = there?.parentElement; at; at = at.parentElement)
    if (at instanceof HTMLDetailsElement) at.open = true;
  if (there) {
    there.scrollIntoView({ block: "center" });
    there.querySelector<HTMLElement>("input, select, button")?.focus();
  } else if (tries > 0) setTimeout(() => toSetting(tag, tries - 1), 50);
}
