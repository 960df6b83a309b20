import { Tab, Tabs } from "@mui/material";
import type { ReactNode } from "react";

export interface TabOf<T extends string> {
  value: T;
  words: ReactNode;
  /** Said where the pointer rests. */
  title?: string;
}

interface Props<T extends string> {
  label: string;
  tabs: TabOf<T>[];
  value: T | false;
  pick(value: T): void;
  className?: string;
}

/** One of several things to be seen: walked by arrows, one stop of the Tab key. */
export function PickTabs<T extends string>({ label, tabs, value, pick, className }: Props<T>) {
  const known = tabs.some((t) => t.value === value);
  return (
    <Tabs
      className={className}
      aria-label={label}
      value={known ? value : false}
      onChange={(_, v: T) => pick(v)}
      variant="scrollable"
      scrollButtons="auto"
      allowScrollButtonsMobile
    >
      {tabs.map((t) => (
        <Tab key={t.value} value={t.value} label={t.words} title={t.title} />
      ))}
    </Tabs>
  );
}
