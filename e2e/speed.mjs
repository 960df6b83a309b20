// How fast the machine is just now: on one that is shared with others it goes up and down by two and more.

const SIZE = 1 << 14;
const [A, B] = [new Float64Array(SIZE), new Float64Array(SIZE)];
for (let i = 0; i < SIZE; i++) [A[i], B[i]] = [0.1 + Math.random(), 0.1 + Math.random()];
let kept = 0;

function sums() {
  let a = 0.5;
  let b = 0.5;
  let c = 0.5;
  let d = 0.5;
  for (let i = 0; i < SIZE; i += 4) {
    a += A[i] * B[i];
    b += A[i + 1] * B[i + 1];
    c += A[i + 2] * B[i + 2];
    d += A[i + 3] * B[i + 3];
  }
  return a + b + c + d;
}

/** Milliseconds of a piece of work that is always the same; the shortest of some, which nobody broke into. */
export function work() {
  let least = Number.POSITIVE_INFINITY;
  for (let once = 0; once < 5; once++) {
    const begun = performance.now();
    for (let round = 0; round < 40; round++) kept += sums();
    least = Math.min(least, performance.now() - begun);
  }
  return kept > 0 ? least : Number.NaN;
}

// Compiled before it counts.
for (let i = 0; i < 20; i++) work();
