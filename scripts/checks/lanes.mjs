/**
 * Runs tasks in lanes beside each other: each lane takes the next task as soon as it is free.
 *
 * @param {number} lanes how many tasks run at the same time
 * @param {readonly (() => Promise<void>)[]} tasks the longest first, so that no lane is left alone with a long one
 */
export async function inLanes(lanes, tasks) {
  const waiting = [...tasks]
  await Promise.all(
    Array.from({ length: lanes }, async () => {
      for (let task = waiting.shift(); task; task = waiting.shift()) await task()
    }),
  )
}
