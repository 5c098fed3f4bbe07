import { By, Key } from 'selenium-webdriver'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { beginJourney, type Journey } from './journey.ts'
import { dialog, type Page } from './page.ts'
import { putOnDashboard } from './steps.ts'

/** From an empty workspace on, by pointer: each journey goes on where the one before ended. */
let journey: Journey
let page: Page

beforeAll(async () => {
  journey = await beginJourney('nothing')
  page = journey.page
  await journey.enter()
})
afterAll(async () => await journey?.close())

describe('from nothing to a working tracker', () => {
  it('begins with the steps, which axe finds nothing wrong with', async () => {
    await page.open('/')
    await page.reads('Set up Bluestem for your teams')
    expect(await page.driver.getCurrentUrl()).toContain('/definitions/start')
    expect(await page.axe('everything')).toEqual([])
  })

  it('comes from a starter to a project by six clicks and its name', async () => {
    await page.press('See and take over: Repairs and upkeep')
    await page.press('Take it over')
    await page.reads('It waits in a draft')
    await page.press('Review and publish')
    await page.press('Publish edition 2')
    await page.reads('Edition 2 is published.')
    await page.press('New project')
    await page.write('Name', 'Harbour works')
    await page.press('Make the project')
    await page.driver.wait(async () => (await page.all('li.done')).length === 5, 10_000)
    expect(await page.complaints()).toEqual([])
  })

  it('adds a person, who comes in by an invitation and chooses a password', async () => {
    await page.press('Add people')
    await page.write('Name', 'Nils Brandt')
    await page.write('E-mail address, by which they sign in', 'nils.brandt@marrowmere.example')
    await page.press('Add them')
    await page.reads('Invite Nils Brandt')
    const field = await page.driver.wait(
      async () => (await page.all('[aria-label="The invitation"]'))[0],
      10_000,
    )
    const address = await field!.getAttribute('value')
    await page.press('Done')
    const other = await journey.openOther()
    try {
      const his = other.page
      await his.driver.get(address!)
      await his.reads('Welcome, Nils Brandt.')
      await his.write('A password, at least eight characters', 'marrowmere')
      await his.press('Come in')
      await his.driver.wait(
        async () => !(await his.driver.getCurrentUrl()).includes('welcome'),
        10_000,
      )
      await his.open('/work')
      await his.reads('Harbour works')
    } finally {
      await other.close()
    }
  })

  it('makes five items', async () => {
    await page.open('/work/HARB')
    for (const title of ['Crane', 'Bollard', 'Ladder', 'Lamp', 'Fender']) {
      await page.press('New item')
      await (await page.find('[role=radiogroup] label:nth-of-type(2)')).click()
      await page.write('Title', `Paint the ${title.toLowerCase()}`)
      await page.press('Make it')
      await page.reads(`Paint the ${title.toLowerCase()}`)
      await page.open('/work/HARB')
    }
    await page.driver.wait(async () => (await page.all('.line[data-ref]')).length === 5, 10_000)
  })

  it('saves a query, arranges it as a board, and puts its figure on a dashboard', async () => {
    await page.open('/queries/new')
    const editor = await page.find('.cm-content')
    await editor.click()
    await editor.sendKeys("phase = 'idle'", Key.ESCAPE)
    await page.driver.wait(async () => (await page.text('.count')).startsWith('5 answers'), 10_000)
    await page.press('Keep')
    await page.write('Title', 'What is open')
    await page.press('Keep', dialog)
    await page.press('Share with everyone')
    await page.reads('shared with everyone')
    await page.press('Arrange')
    await page.choose('As a', 'board')
    await page.press('Keep')
    await page.write('Title', 'Harbour board')
    await page.press('Keep', dialog)
    await page.driver.wait(async () => (await page.all('[data-card]')).length === 5, 10_000)
    await putOnDashboard(page, {
      measure: 'Open work',
      query: 'What is open',
      dashboard: 'Harbour',
    })
    expect(await page.text('.widget .big')).toBe('5')
  })

  it('is then set up: every step is done, and the places begin with what there is', async () => {
    await page.open('/definitions/start')
    await page.reads('all nine steps are done')
    await page.open('/')
    expect(await page.driver.getCurrentUrl()).toContain('/dashboards')
    await settled(page.driver)
    expect(await page.driver.findElements(By.linkText('Setting up'))).toEqual([])
  })
})
