import { origin, today } from './world.ts'
import { addDays } from '@bluestem/core/calendar'
import { show, sideBySide } from './measure.ts'

/** What one person waits for a plain question while another asks the heaviest thing allowed, over and over. */
export async function besideTheHeaviest(plainly: string, heavily: string): Promise<void> {
  const post = async (cookie: string, path: string, body: object): Promise<number> => {
    const response = await fetch(`${origin}/api/v1${path}`, {
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    await response.text()
    return response.status
  }
  const plain = async (): Promise<number> =>
    await post(plainly, '/items/search', {
      filter: "status = 'Waiting for parts'",
      sort: '-changed',
      limit: 100,
    })
  const from = addDays(today, -1099)
  const heavy = async (): Promise<number> =>
    await post(heavily, '/measures/evaluate', {
      filter:
        "done_below < 50 OR parent.status = 'Open' OR changes_of(assignee) > 2 OR days_in(status, 'Open') > 3",
      figure: { kind: 'median', field: 'estimate' },
      by: ['assignee'],
      over: { from, to: today, step: 'day' },
    })
  const [median] = await sideBySide(plain, plain, 25)
  let on = true
  let asked = 0
  const others = Array.from({ length: 8 }, async () => {
    while (on) {
      await heavy()
      asked += 1
    }
  })
  await new Promise((done) => setTimeout(done, 3000))
  const [beside] = await sideBySide(plain, plain, 25)
  on = false
  await Promise.all(others)
  show('A plain question beside somebody who asks the heaviest thing over and over / in quiet', [
    {
      what: `eight at once, ${asked} answered or told to come back`,
      a: beside,
      b: median,
      budget: 'at most 2',
    },
  ])
}
