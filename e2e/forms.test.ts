import { Key } from 'selenium-webdriver'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { beginJourney, type Journey } from './journey.ts'
import { dialog, type Page } from './page.ts'

let journey: Journey
let page: Page

beforeAll(async () => {
  journey = await beginJourney()
  page = journey.page
  await journey.enter()
})
afterAll(async () => await journey?.close())

const fieldsUnder = async (css: string): Promise<string[]> =>
  await Promise.all(
    (await page.all(`${css} li`)).map(
      async (line) => (await line.getAttribute('data-place')) ?? '',
    ),
  )
const onItem = 'section[aria-label="On an item"]'

describe('the forms of a type', () => {
  it('stand beside each other as a real item shows them, and take a field under a new heading by pointer', async () => {
    await page.open('/definitions/types?id=ty_defect')
    await page.press('Arrange its forms')
    await page.reads('When one is made')
    await page.write('A new heading', 'Where and when')
    await page.press('Add it')
    const under = `${onItem} ol[aria-label="Fields under Where and when"]`
    await page.carry(
      await page.find(`${onItem} li[data-place="due"] .grip`),
      await page.find(under),
    )
    await page.letGo()
    expect(await fieldsUnder(under)).toEqual(['due'])
  })

  it('move by keyboard over the edge of a heading, and the focus stays on what moved', async () => {
    const { driver } = page
    const field = `${onItem} li[data-place="due"]`
    await driver.executeScript('document.querySelector(arguments[0]).focus()', field)
    await driver.actions().keyDown(Key.ALT).sendKeys(Key.ARROW_UP).keyUp(Key.ALT).perform()
    expect(await fieldsUnder(`${onItem} ol[aria-label="Fields under Particulars"]`)).toContain(
      'due',
    )
    expect(
      await driver.executeScript('return document.activeElement.getAttribute("data-place")'),
    ).toBe('due')
  })

  it('ask before what was arranged is left, and come into a draft', async () => {
    const { driver } = page
    await driver.actions().sendKeys(Key.ESCAPE).perform()
    await page.reads('What you wrote here is not kept yet.')
    await page.press('Go on writing')
    expect(await page.axe('everything')).toEqual([])
    await page.press('Put it in the draft')
    await driver.wait(
      async () => (await page.all('[role=dialog]')).length === 0,
      15_000,
      'the forms do not close',
    )
    await page.press('Arrange its forms')
    expect(await fieldsUnder(`${onItem} ol[aria-label="Fields under Particulars"]`)).toContain(
      'due',
    )
    await driver.actions().sendKeys(Key.ESCAPE).perform()
    await settled(driver)
    await page.press('Drop')
    await page.press('Drop it', dialog)
    expect(await page.complaints()).toEqual([])
  })
})
