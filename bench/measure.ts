/** The middle of the times a thing took, in milliseconds. */
export const median = (times: readonly number[]): number =>
  [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)]!

async function timed(act: () => Promise<unknown>): Promise<number> {
  const began = performance.now()
  await act()
  return performance.now() - began
}

/** Runs two things in turn, so that whatever else the machine does falls on both, and gives the median of each in milliseconds. */
export async function sideBySide(
  a: () => Promise<unknown>,
  b: () => Promise<unknown>,
  rounds: number,
): Promise<[number, number]> {
  const [first, second]: [number[], number[]] = [[], []]
  await a()
  await b()
  for (let round = 0; round < rounds; round += 1) {
    // Who goes first alternates, for the second finds the cache warmer.
    if (round % 2 === 0) {
      first.push(await timed(a))
      second.push(await timed(b))
    } else {
      second.push(await timed(b))
      first.push(await timed(a))
    }
  }
  return [median(first), median(second)]
}

export interface Result {
  readonly what: string
  readonly a: number
  readonly b: number
  readonly budget?: string
}

/** One line a result: what, both times, their ratio, and what was asked for. */
export function show(title: string, results: readonly Result[]): void {
  console.log(`\n${title}`)
  for (const { what, a, b, budget } of results)
    console.log(
      `  ${what.padEnd(58)} ${a.toFixed(1).padStart(9)} ms ${b.toFixed(1).padStart(9)} ms   ratio ${(a / b).toFixed(2).padStart(7)}${budget ? `   (${budget})` : ''}`,
    )
}
