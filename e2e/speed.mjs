// How fast the machine is just now: on one that is shared with others it goes up and down by two and more.

const [A, B] = [new Float64Array(1 << 14).fill(0.7), new Float64Array(1 << 14).fill(1.3)];
let kept = 0;

/** Milliseconds of a piece of work that is always the same, several sums beside one another. */
export function work() {
  const begun = performance.now();
  let [a, b, c, d] = [0, 0, 0, 0];
  for (let round = 0; round < 40; round++)
    for (let i = 0; i < A.length; i += 4) {
      a += A[i] * B[i];
      b += A[i + 1] * B[i + 1];
      c += A[i + 2] * B[i + 2];
      d += A[i + 3] * B[i + 3];
    }
  kept += a + b + c + d;
  return kept === 0 ? Number.NaN : performance.now() - begun;
}

// Compiled before it counts.
for (let i = 0; i < 20; i++) work();
