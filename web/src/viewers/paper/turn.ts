export type Share = [number, number];

/** From the page as it was kept to the page as it is turned: shares of width and height, with the clock. */
export function turned([x, y]: readonly number[], quarters: number): Share {
  const [a, b] = [x ?? 0, y ?? 0];
  return (
    [
      [a, b],
      [1 - b, a],
      [1 - a, 1 - b],
      [b, 1 - a],
    ] as Share[]
  )[((quarters % 4) + 4) % 4]!;
}

/** And back. */
export const straight = (p: readonly number[], quarters: number): Share =>
  turned(p, 4 - (((quarters % 4) + 4) % 4));
