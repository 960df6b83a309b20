import { Chip, type ChipProps } from "@mui/material";
import { memo, type ReactNode } from "react";
import { useOf } from "./Field";

type Props = Omit<ChipProps<"button">, "label" | "component" | "children"> & { children: ReactNode };

/** A small thing to do, in the midst of words; its name says which line it is of. */
export const Act = memo(function Act({ children, "aria-label": label, ...rest }: Props) {
  const of = useOf();
  const said = label ?? (typeof children === "string" ? children : undefined);
  return (
    <Chip
      component="button"
      type="button"
      clickable
      label={children}
      aria-label={said && of ? `${said}, ${of}` : label}
      {...rest}
    />
  );
});
