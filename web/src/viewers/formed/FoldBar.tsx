import { Button, Slider } from "@mui/material";
import { memo } from "react";

interface Props {
  bends: number;
  /** How many of them are folded. */
  folded: number;
  playing: boolean;
  play(on: boolean): void;
  fold(folded: number): void;
}

/** Folds a piece bend by bend, by hand or by itself. */
export const FoldBar = memo(function FoldBar({ bends, folded, playing, play, fold }: Props) {
  return (
    <span className="fold">
      <Button
        aria-label={playing ? "stop folding" : "fold it bend by bend"}
        onClick={() => play(!playing)}
      >
        {playing ? "❚❚" : "▶"}
      </Button>
      flat
      <Slider
        aria-label="bends folded"
        size="small"
        min={0}
        max={bends}
        step={0.01}
        value={folded}
        marks={Array.from({ length: bends + 1 }, (_, value) => ({ value }))}
        onChange={(_, v) => fold(v as number)}
      />
      formed
    </span>
  );
});
