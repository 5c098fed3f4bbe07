import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { beginJourney, type Journey } from './journey.ts'
import { dialog, type Page } from './page.ts'

let journey: Journey
let page: Page
let other: Awaited<ReturnType<Journey['openOther']>>
let tom: Page

beforeAll(async () => {
  journey = await beginJourney()
  page = journey.page
  await journey.enter()
  other = await journey.openOther('tom.okafor')
  tom = other.page
})
afterAll(async () => {
  await other?.close()
  await journey?.close()
})

describe('two who change definitions at once', () => {
  /** Allows a move that is not allowed yet, in the rulebook that the other one keeps. */
  const allowMove = async (at: Page): Promise<void> => {
    await (await at.find('button.cell.closed')).click()
    await settled(at.driver)
  }
  const openFlows = async (at: Page): Promise<void> => {
    await at.open('/definitions/flows')
    await at.choose('Rulebook', 'Yard and shore work')
  }
  const strip = '.strip[aria-label="Draft"]'

  it('a keeper and an administrator change each a draft of their own', async () => {
    await openFlows(page)
    await allowMove(page)
    await page.reads('1 change')
    await openFlows(tom)
    expect(await tom.text(strip)).not.toContain('1 change ')
    await allowMove(tom)
    await tom.reads('1 change')
    await page.reads('1 draft of others')
    expect(await page.text(strip)).toContain('1 change')
  })

  it('one who publishes at once publishes that change alone; the other sees it, and keeps the draft', async () => {
    await page.press('Waiting for parts, active', '//thead')
    await page.press('Rename or describe')
    await page.write('Title', 'Waiting for spares')
    await page.press('Publish it at once')
    await page.reads('is published.')
    await tom.reads('Waiting for spares')
    for (const at of [page, tom]) {
      await settled(at.driver)
      expect(await at.text(strip)).toContain('1 change')
      expect(await at.all('button.cell.allows')).toHaveLength(1)
    }
  })

  it('one who drops a draft drops no change of another', async () => {
    await page.press('Drop')
    await page.press('Drop it', dialog)
    await page.reads('no draft open')
    await settled(tom.driver)
    expect(await tom.text(strip)).toContain('1 change')
    await tom.open('/definitions/review')
    await tom.reads('not allowed allowed')
    await tom.press('undo')
    await tom.reads('No draft is open.')
  })

  it('both change one draft that is shared, and each change says whose it is', async () => {
    await page.press('New draft …')
    await page.write('What it is to do', 'Moves of the yard')
    await page.press('Begin it', dialog)
    await allowMove(page)
    await page.reads('1 change')
    await openFlows(tom)
    await tom.choose('What you look at', 'draft of Mara Thiel: Moves of the yard')
    await allowMove(tom)
    await tom.reads('2 changes')
    await page.reads('2 changes')
    await page.press('Drop')
    await page.reads('1 change by Mara Thiel')
    await page.reads('1 change by Tom Okafor')
    await page.press('Drop it', dialog)
    await tom.reads('no draft open')
  })
})
