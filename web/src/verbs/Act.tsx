import { Chip, type ChipProps } from "@mui/material";
import type { ReactNode } from "react";

type Props = Omit<ChipProps<"button">, "label" | "component" | "children"> & { children: ReactNode };

/** A small thing to do, in the midst of words. */
export function Act({ children, ...rest }: Props) {
  return <Chip component="button" type="button" clickable label={children} {...rest} />;
}
