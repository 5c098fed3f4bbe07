import { Key, type WebElement } from 'selenium-webdriver'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { Keys } from './keys.ts'
import { beginJourney, type Journey } from './journey.ts'
import { type Page } from './page.ts'

let journey: Journey
let page: Page
let keys: Keys

beforeAll(async () => {
  journey = await beginJourney()
  page = journey.page
  keys = new Keys(page.driver)
  await journey.enter()
})
afterAll(async () => await journey?.close())

/** Every dialog that a page opens, by what opens it, and the tab it stands under. */
const dialogs: readonly (readonly [path: string, openers: readonly string[], tab?: string])[] = [
  ['/definitions/types', ['New draft …', 'New type', 'Change', 'Arrange its forms']],
  ['/definitions/fields', ['New field', 'Change']],
  ['/definitions/flows', ['New status', 'To enter In hand: nothing']],
  ['/definitions/priorities', ['A ladder of our own …', 'New priority', 'Change']],
  ['/definitions/labels', ['New label', 'Change']],
  ['/definitions/labels', ['New family'], 'Families'],
  ['/definitions/components', ['New component', 'Change']],
  ['/definitions/links', ['New link kind', 'Change']],
  ['/definitions/limits', ['New time limit', 'Change']],
  ['/definitions/templates', ['New template', 'Change']],
  ['/definitions/rulebooks', ['From a file', 'New rulebook', 'choose its keepers', 'Change']],
  ['/definitions/projects', ['New project', 'Change']],
  ['/definitions/calendars', ['New calendar', 'Change']],
  [
    '/definitions/people',
    ['From the directory …', 'Add a person', 'Change', 'Invite …', 'Hand over …'],
  ],
  ['/definitions/people?id=tm_yard', ['New team']],
  ['/definitions/start', ['See and take over: Repairs and upkeep', 'Choose a file of definitions']],
  ['/work/YARD', ['New item']],
  ['/work/YARD/12', ['apply a template …', 'propose a field or a word …']],
  ['/iterations', ['Plan iterations']],
  ['/releases', ['Plan a series …', 'Plan a release …']],
  ['/iterations/it_apps_40', ['Change …', 'Finish …']],
  ['/releases/re_season', ['Change …', 'Finish …']],
  ['/queries/qu_stop', ['Rename']],
  ['/views/vi_stop', ['Rename, share']],
  ['/dashboards', ['New dashboard']],
  ['/dashboards/da_yard', ['Rename, share', 'Add widget']],
  ['/dashboards/measures', ['New measure']],
]

const lists = '[role=listbox], [role=menu], [role=dialog]'

/** Opens what a control opens, leaves it by Escape. @returns what was wrong */
async function throughChoice(control: WebElement): Promise<string[]> {
  const name = await keys.name(control)
  const isButton = (await control.getTagName()) === 'button'
  const before = await control.getText()
  const open = await keys.count(lists)
  await keys.goTo(control)
  await keys.press(isButton ? Key.ENTER : Key.ARROW_DOWN)
  if (!(await keys.areSeen(lists, open + 1))) return [`${name} opens nothing`]
  await keys.press(Key.ARROW_DOWN)
  await keys.press(Key.ESCAPE)
  const wrong = (await keys.areSeen(lists, open)) ? [] : [`${name} is not closed by Escape`]
  const back = await keys.focused()
  if (back !== name) wrong.push(`${name}: the focus is on ${back} afterwards`)
  if ((await control.getText()) !== before) wrong.push(`${name} is changed by being looked at`)
  return wrong
}

/** What opens a list, menu or calendar; what finds items by their words opens once they are written. */
const opens =
  '[aria-haspopup]:not([aria-haspopup=false], [aria-disabled=true], [aria-autocomplete=list])'

/** What is wrong with the choices, menus and dates that are like this. */
async function throughChoices(css: string): Promise<string[]> {
  const wrong: string[] = []
  for (const control of await page.all(css)) {
    if (await control.isDisplayed()) wrong.push(...(await throughChoice(control)))
  }
  return wrong
}

/** Opens by Enter, goes once round, leaves by Escape. @returns what was wrong */
async function throughDialog(opener: string): Promise<string[]> {
  const button = await page.named(opener, '//main')
  await keys.goTo(button)
  await keys.press(Key.ENTER)
  return await roundDialog(opener, button)
}

/** Goes once round the dialog that was just opened, leaves by Escape. @returns what was wrong */
async function roundDialog(opener: string, button: WebElement): Promise<string[]> {
  if (!(await keys.areSeen('[role=dialog]', 1))) return [`${opener} opens no dialog`]
  await settled(page.driver)
  const wrong = (await keys.holdsFocus('[role=dialog]')) ? [] : ['the focus stays on the page']
  wrong.push(...(await keys.walkDialog()), ...(await throughChoices(`[role=dialog] ${opens}`)))
  await keys.press(Key.ESCAPE)
  if (!(await keys.areSeen('[role=dialog]', 0))) wrong.push('Escape does not close it')
  const back = await keys.focused()
  if (back !== (await keys.name(button))) wrong.push(`the focus is on ${back} afterwards`)
  return wrong.map((text) => `${opener}: ${text}`)
}

describe('every dialog by keyboard', () => {
  const stories = dialogs.map(([path, openers, tab]) => ({ path, openers, tab }))
  it.each(stories)('on $path $tab', async ({ path, openers, tab }) => {
    await page.open(path)
    if (tab) await page.press(tab, '//main')
    const wrong: string[] = []
    for (const opener of openers) wrong.push(...(await throughDialog(opener)))
    expect(wrong).toEqual([])
  })

  it.each([
    ['/work', 'Mara Thiel: account', 'Change password'],
    ['/queries/qu_stop', 'Export', 'subscribe to a feed of what changes …'],
  ])('on %s, by the menu %s', async (path, menu, entry) => {
    await page.open(path)
    const button = await page.named(menu)
    await keys.takeFromMenu(button, entry)
    expect(await roundDialog(entry, button)).toEqual([])
  })

  it('for many items', async () => {
    await page.open('/work/YARD')
    await keys.goTo(await page.control('Choose all answers'))
    await keys.press(Key.SPACE)
    await page.named('Change …', '//main')
    expect([...(await throughDialog('Change …')), ...(await throughDialog('Delete …'))]).toEqual([])
  })
})

describe('every choice, menu and date by keyboard', () => {
  it.each([
    '/definitions/types',
    '/definitions/fields',
    '/definitions/flows',
    '/definitions/priorities',
    '/definitions/labels',
    '/definitions/rulebooks',
    '/definitions/projects',
    '/definitions/editions',
    '/definitions/audit',
    '/work/YARD',
    '/iterations',
    '/jots',
    '/queries/qu_stop',
    '/views/vi_stop',
  ])('on %s', async (path) => {
    await page.open(path)
    expect(await throughChoices(`main ${opens}`)).toEqual([])
  })

  it('in the head of every page', async () => {
    await page.open('/work')
    expect(await throughChoices(`header button${opens}`)).toEqual([])
  })

  it.each(['j', '?'])('by the key %s', async (key) => {
    await page.open('/work')
    await keys.press(key)
    expect(await keys.areSeen('[role=dialog]', 1)).toBe(true)
    await settled(page.driver)
    expect(await keys.walkDialog()).toEqual([])
    await keys.press(Key.ESCAPE)
    expect(await keys.areSeen('[role=dialog]', 0)).toBe(true)
  })
})
