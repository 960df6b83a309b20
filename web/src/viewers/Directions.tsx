import { Button } from "@mui/material";
import { memo } from "react";
import { DIRECTIONS, type DirectionName } from "./Stage";

/** From where it is looked at. */
export const Directions = memo(function Directions({ look }: { look(d: DirectionName): void }) {
  return (Object.keys(DIRECTIONS) as DirectionName[]).map((d) => (
    <Button key={d} onClick={() => look(d)}>
      {d}
    </Button>
  ));
});
