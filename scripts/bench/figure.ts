/** Prints one JSON line a figure; `ratio` is value over bare. */
export function figure(name: string, value: number, unit: string, bare: number | null = null) {
  const round = (number: number) => Math.round(number * 1000) / 1000;
  const ratio = bare === null ? null : round(value / bare);
  process.stdout.write(
    `${JSON.stringify({ name, value: round(value), unit, bare: bare && round(bare), ratio })}\n`,
  );
}

export const quantile = (values: number[], share: number) =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? 0;

export async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}
