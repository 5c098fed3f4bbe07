import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settled } from '../scripts/browser.mjs'
import { beginJourney, type Journey } from './journey.ts'
import type { Page } from './page.ts'

let journey: Journey
let page: Page

beforeAll(async () => {
  journey = await beginJourney()
  page = journey.page
})
afterAll(async () => await journey?.close())

describe('every screen on light and dark paper', () => {
  beforeAll(async () => await journey.enter())

  it.each([
    ['sign-in', '/sign-in', 'One vocabulary'],
    ['fields', '/definitions/fields', 'defined once'],
    ['flow grid', '/definitions/flows', 'from \\ to'],
    ['types', '/definitions/types', 'kinds of items'],
    ['priorities', '/definitions/priorities', 'urgency'],
    ['labels', '/definitions/labels', 'of family'],
    ['components', '/definitions/components', 'Keeper'],
    ['link kinds', '/definitions/links', 'name in each direction'],
    ['templates', '/definitions/templates', 'Prefilled items'],
    ['time limits', '/definitions/limits', 'working time'],
    ['calendars', '/definitions/calendars', 'Mon–Fri'],
    ['people', '/definitions/people', 'Tom Okafor'],
    ['projects', '/definitions/projects', 'Fleet Yard'],
    ['setting up', '/definitions/start', 'nine steps'],
    ['rulebooks', '/definitions/rulebooks', 'Its own words'],
    ['editions', '/definitions/editions', 'in force'],
    ['audit', '/definitions/audit', 'Who changed'],
    ['projects', '/work', 'what is done'],
    ['items', '/work/YARD', 'Fleet Yard'],
    ['item', '/work/YARD/12', 'What happened'],
    ['tree', '/work/YARD/tree', 'Done below'],
    ['jots', '/jots', 'Unfiled'],
    ['notices', '/notices', 'yours'],
    ['releases', '/releases', 'Releases'],
    ['a release', '/releases/re_season', 'Summer season'],
    ['iterations', '/iterations', 'running'],
    ['iteration', '/iterations/it_apps_40', 'committed'],
    ['absences', '/definitions/people?away', 'Who is away'],
    ['bin', '/bin', 'Bin'],
    ['changes of many', '/changes', 'Changes'],
    ['bringing in', '/import', 'file'],
    ['library', '/queries', 'saved questions'],
    ['query', '/queries/qu_stop', 'could stop a sailing'],
    ['list', '/views/vi_stop', 'all shown'],
    ['board', '/views/vi_morning', 'elsewhere'],
    ['dashboard', '/dashboards/da_yard', 'Open defects'],
    ['measures', '/dashboards/measures', 'figures named once'],
    ['consistency', '/consistency', 'what drifted'],
    ['jobs', '/consistency/jobs', 'by itself'],
  ])('%s: axe finds nothing, and nothing is blocked', async (_, path, says) => {
    await page.open(path)
    await page.reads(says)
    await settled(page.driver)
    expect(await page.axe('everything')).toEqual([])
    // The dark paper has other colours and the same structure, which was judged on the light.
    await page.turnPaper('dark')
    expect(await page.axe('colours')).toEqual([])
    await page.turnPaper('light')
    expect(await page.complaints()).toEqual([])
  })
})
