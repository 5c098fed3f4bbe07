import { By, Key } from 'selenium-webdriver'
import { writeFileSync } from 'node:fs'
import { afterAll, beforeAll, beforeEach, describe, expect, it, onTestFailed } from 'vitest'
import { openBrowser, settled, signIn } from '../scripts/browser.mjs'
import { dialog, Page } from './page.ts'
import { putOnDashboard } from './steps.ts'

let browser: Awaited<ReturnType<typeof openBrowser>>
let page: Page

beforeAll(async () => {
  const origin = process.env['BLUESTEM_ORIGIN']
  if (!origin)
    throw new Error('the journeys need a running application: run them by npm run test:browser')
  browser = await openBrowser()
  page = new Page(browser.driver, origin)
})
afterAll(async () => await browser?.close())

// Where a folder is named, a failed journey leaves a picture of what it saw.
beforeEach(({ task }) => {
  const folder = process.env['BLUESTEM_PICTURES']
  if (folder)
    onTestFailed(async () =>
      writeFileSync(
        `${folder}/${task.name.replace(/\W+/g, '-')}.png`,
        Buffer.from(await browser.driver.takeScreenshot(), 'base64'),
      ),
    )
})

/** Everything is by the administrator unless a journey says otherwise. */
const enter = async (name = 'mara.thiel'): Promise<void> =>
  await signIn(browser.driver, page.origin, name)

describe('the whole path', () => {
  it('signs in with a wrong and a right password', async () => {
    await page.open('/definitions/fields')
    expect(await browser.driver.getCurrentUrl()).toContain('/sign-in')
    await page.write('E-mail', 'mara.thiel@marrowmere.example')
    await page.write('Password', 'not this one')
    await page.press('Sign in')
    await page.reads('The e-mail address or the password is not right.')
    await page.write('Password', 'marrowmere')
    await page.press('Sign in')
    await page.reads('defined once')
  })

  it('defines a field and publishes it', async () => {
    await page.press('New field')
    await page.write('Title', 'Slipway number')
    expect(
      await (await page.control('Handle: its name in queries, for ever')).getAttribute('value'),
    ).toBe('slipway_number')
    await page.choose('Kind', 'number')
    await page.write('When to use it, who fills it', 'Which rail of the slipway it lies on.')
    await (await page.control('Defect: on the item')).click()
    await page.press('Put it in the draft')
    await page.reads('2 changes')
    await page.press('Review')
    await page.reads('field Slipway number')
    expect(await page.axe('everything')).toEqual([])
    await page.write('Why', 'The slipmaster asked for it.')
    await page.press('Publish edition 5')
    await page.reads('Edition 5 is published.')
    await page.reads('The slipmaster asked for it.')
  })

  it('fills the field on an item', async () => {
    await page.open('/work/YARD')
    await page.press('New item')
    await page.write('Title', 'Keel block is worn')
    await page.press('Make it')
    await page.reads('Keel block is worn')
    await page.press('Change Slipway number')
    const input = await page.control('Slipway number')
    await input.sendKeys('3', Key.TAB)
    await settled(browser.driver)
    await page.reads('set Slipway number to 3')
  })

  it('asks for it, saves the question and shares it', async () => {
    await page.open('/queries/new')
    const editor = await page.find('.cm-content')
    await editor.click()
    await editor.sendKeys("slipway_nummer = 3 AND type = 'Defect'", Key.ESCAPE)
    await page.reads('Did you mean slipway_number?')
    await page.press('write slipway_number')
    await browser.driver.wait(
      async () => (await page.text('.count')).startsWith('1 answer'),
      10_000,
    )
    await page.press('Sentence')
    await page.reads('Slipway number is 3')
    await page.press('Keep')
    await page.write('Title', 'On rail three')
    await page.press('Keep', dialog)
    await page.reads('shared with nobody yet')
    await page.press('Share with everyone')
    await page.reads('shared with everyone')
  })

  it('arranges it as a board and drags a card', async () => {
    await page.press('Arrange')
    await page.choose('As a', 'board')
    await page.press('Keep')
    await page.write('Title', 'Rail three')
    await (await page.find('[role=dialog] input[value=everyone]')).click()
    await page.press('Keep', dialog)
    await page.reads('Rail three')
    const card = await page.find('[data-card]')
    const cardRef = (await card.getAttribute('data-card'))!
    const refused = await page.find('section[aria-label="Signed off"] .cards')
    await page.carry(card, refused)
    await page.reads('Not from Open. It may go to')
    await page.letGo()
    await page.reads('stays where it is')
    expect(await page.text('section[aria-label="Open"]')).toContain(cardRef)
    await page.carry(
      await page.find(`[data-card="${cardRef}"]`),
      await page.find('section[aria-label="In hand"] .cards'),
    )
    await page.letGo()
    await browser.driver.wait(
      async () => (await page.text('section[aria-label="In hand"]')).includes(cardRef),
      10_000,
    )
  })

  it('moves a card by keyboard, over columns its flow does not allow', async () => {
    const card = await page.find('section[aria-label="In hand"] [data-card]')
    const cardRef = (await card.getAttribute('data-card'))!
    await card.sendKeys(Key.chord(Key.ALT, Key.ARROW_RIGHT))
    await browser.driver.wait(
      async () => !(await page.text('section[aria-label="In hand"]')).includes(cardRef),
      10_000,
    )
    await page.press('Undo', `//*[@data-pc-section='message'][last()]`)
    await browser.driver.wait(
      async () => (await page.text('section[aria-label="In hand"]')).includes(cardRef),
      10_000,
    )
  })

  it('measures it and places the figure on a dashboard', async () => {
    await putOnDashboard(page, {
      measure: 'Defects on rail three',
      query: 'On rail three',
      dashboard: 'Slipway',
    })
    await browser.driver.navigate().refresh()
    await settled(browser.driver)
    expect(await page.text('.widget .big')).toBe('1')
  })

  it('opens the figure and comes back to the item', async () => {
    await (await page.find('.widget .big')).click()
    await settled(browser.driver)
    await page.reads('The items behind the figure')
    await page.reads('1 answer')
    await (await page.find('.line a.title')).click()
    await settled(browser.driver)
    await page.reads('Keel block is worn')
    expect(await page.text('.sheet')).toContain('In hand')
  })
})

describe('a place that changes', () => {
  it('explains a refused move on the item', async () => {
    await page.open('/queries/qu_defects')
    const open = await browser.driver.wait(
      async () =>
        (
          await browser.driver.findElements(
            By.xpath(
              `//div[@role='row'][.//span[normalize-space()='Open']]//a[contains(@class, 'title')]`,
            ),
          )
        )[0],
      10_000,
    )
    await open!.click()
    await settled(browser.driver)
    await (await page.find('button.refused')).click()
    expect(await page.text('.told')).toMatch(/does not go from Open to .+ From Open it may go to/)
  })

  it('undoes the only change of a draft, which then goes; drops one, takes it back, and drops it', async () => {
    await page.open('/definitions/flows')
    await (await page.find('button.cell.closed')).click()
    await settled(browser.driver)
    await page.reads('1 change')
    expect(await page.all('button.cell.allows')).toHaveLength(1)
    await page.press('Review')
    await page.reads('not allowed allowed')
    await page.press('undo')
    await page.reads('No draft is open.')
    await page.open('/definitions/flows')
    await page.reads('no draft open')
    await (await page.find('button.cell.closed')).click()
    await settled(browser.driver)
    await page.press('Drop')
    await page.reads('1 change by Mara Thiel goes with it.')
    await page.press('Drop it')
    await page.reads('no draft open')
    await page.press('Undo', `//*[@data-pc-section='message'][last()]`)
    await page.reads('1 change')
    await page.press('Drop')
    await page.press('Drop it')
    await page.reads('no draft open')
  })

  it('renames a status in two clicks and a publish: the board keeps its meaning and shows the new name', async () => {
    await page.open('/definitions/flows')
    await page.choose('Rulebook', 'Yard and shore work')
    await page.press('Waiting for parts, active', '//thead')
    await page.press('Rename or describe')
    await page.write('Title', 'Waiting for spares')
    await page.press('Publish it at once')
    await page.reads('Edition 6 is published.')
    await page.open('/definitions/editions')
    await page.reads('“Waiting for parts” is now called “Waiting for spares”.')
    await page.open('/views/vi_morning')
    await page.reads('Waiting for spares')
  })

  it('shows a board what stands elsewhere, and why some is not shown', async () => {
    await page.open('/views/vi_morning')
    await page.reads('stand elsewhere')
    expect(await page.text('section[aria-label="elsewhere"]')).toContain('Awaiting surveyor')
    await page.press('show them')
    await browser.driver.wait(
      async () => !(await page.text('.shown')).includes('finished over'),
      10_000,
    )
    await page.press('Put back')
  })

  it('scrolls a long list to its end', async () => {
    await page.open('/queries/qu_all')
    const grid = await page.find('[role=grid]')
    await grid.sendKeys(Key.END)
    await settled(browser.driver)
    await browser.driver.wait(
      async () => (await page.all(`[aria-rowindex="2501"], [aria-rowindex="2502"]`)).length > 0,
      10_000,
    )
    expect(await page.all('.line')).not.toHaveLength(2500)
  })
})

describe('definitions that others share', () => {
  it('makes labels one that mark the same', async () => {
    await page.open('/definitions/labels')
    await page.press('that say the same: 1 group')
    await page.press('Make them one …')
    await page.press('Make them one', dialog)
    await page.reads('hold it now.')
    await page.reads('No two labels say the same.')
    await page.press('undo')
    await page.reads('hold again what they held.')
    await page.press('show all again')
    await page.reads('that say the same: 1 group')
  })

  it('asks what values in use become before a project has a ladder of its own, and nobody else is touched', async () => {
    await page.open('/definitions/priorities')
    await page.press('A ladder of our own …')
    await page.choose('Project', 'Crewing and Timetable')
    await page.press('Put it in the draft')
    await page.press('Take Passenger nuisance off Crewing and Timetable’s own')
    await page.reads('question open')
    await page.press('Review')
    expect(await (await page.named('Publish edition 7')).isEnabled()).toBe(false)
    await page.choose('What Passenger nuisance becomes in Crewing and Timetable', 'When convenient')
    await page.write('Why', 'A timetable knows no passengers.')
    await page.press('Publish edition 7')
    await page.reads('Edition 7 is published.')
    await page.open('/work/PIER')
    await page.reads('Passenger nuisance')
    await page.open('/work/CREW')
    await page.reads('When convenient')
    expect(await page.text('.sheet')).not.toContain('Passenger nuisance')
  })

  it('lets a member propose a better word, which waits for the keepers', async () => {
    await enter('tom.okafor')
    await page.open('/work/YARD/12')
    await page.press('propose a field or a word …')
    await (await page.control('Instead of')).sendKeys(Key.ARROW_DOWN)
    await (await page.find('[role=option]:nth-child(2)')).click()
    await settled(browser.driver)
    await page.write('Better', 'A plainer word')
    await page.press('Propose it')
    await page.reads('Proposed. It waits in Definitions')
    await enter()
    await page.open('/definitions/types')
    await page.reads('2 proposals wait')
  })

  it('opens a form filled by a template, and makes all of it', async () => {
    await page.open('/work/YARD?make=te_refit')
    const vessel = await page.control('vessel')
    await vessel.sendKeys('MV Heron', Key.TAB)
    await settled(browser.driver)
    await page.reads('Hull of MV Heron')
    await page.press('Make it, with 5 below it')
    await page.reads('Winter refit of MV Heron')
    await page.reads('Engine of MV Heron')
  })

  it('tells what a move still lacks, before it is tried', async () => {
    await page.open('/work/YARD')
    await page.press('New item')
    await page.write('Title', 'Rudder stock is worn')
    await page.press('Make it')
    await page.press('In hand')
    await page.press('Awaiting surveyor …')
    await page.reads('Name the surveyor who is to see it.')
    await page.reads('Surveyor must be filled first.')
  })

  it('gives a team hours of its own, by which the clocks of its items run', async () => {
    await page.open('/definitions/people')
    await page.press('5 teams')
    await page.press('New team')
    await page.write('Title', 'Dive team')
    await page.choose('Works by', 'Yard shifts')
    await (await page.find('[role=dialog] .cm-content')).sendKeys("type = 'Finding'")
    await page.reads('Items of type Finding')
    await page.press('Make the team')
    await page.reads('The clocks of every item in its remit run by its calendar.')
    await page.press('their items')
    await (await page.find('.line a.title')).click()
    await page.reads('counted in Yard shifts, the calendar of Dive team')
  })

  it('makes a project that follows a rulebook', async () => {
    await page.open('/work')
    await page.press('New project')
    await page.write('Name', 'Winter Works')
    await page.write('Code', 'WINT')
    await page.press('Make the project')
    await page.open('/work/WINT')
    await page.press('New item')
    await page.write('Title', 'Ask for the dock')
    await page.press('Make it')
    await page.reads('WINT/1')
  })
})

describe('what is written and not kept', () => {
  it('is not lost by Escape or Back without a question', async () => {
    await page.open('/definitions/fields')
    await (await page.find('nav a[href="/definitions/people"]')).click()
    await page.press('Add a person')
    await page.write('Name', 'Half a name')
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform()
    await page.reads('What you wrote here is not kept yet.')
    await page.press('Go on writing')
    await browser.driver.executeScript('history.back()')
    await page.reads('What you wrote here is not kept yet.')
    expect(await browser.driver.getCurrentUrl()).toContain('/definitions/people')
    await page.press('Leave it')
    expect(await page.all('[role=dialog]')).toHaveLength(0)
  })
})

describe('by keyboard alone', () => {
  it('finds an item and opens it', async () => {
    await page.open('/dashboards')
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('k').keyUp(Key.CONTROL).perform()
    const box = await browser.driver.switchTo().activeElement()
    expect(await box.getAttribute('aria-label')).toBe('Find anything')
    await box.sendKeys('YARD/12')
    await browser.driver.wait(async () => (await page.text('.find')).includes('YARD/12\n'), 10_000)
    await box.sendKeys(Key.ENTER)
    await browser.driver.wait(
      async () => (await browser.driver.getCurrentUrl()).endsWith('/work/YARD/12'),
      10_000,
    )
  })

  it.each([
    'types',
    'fields',
    'flows',
    'priorities',
    'labels',
    'components',
    'links',
    'templates',
    'limits',
    'calendars',
    'people',
    'projects',
    'rulebooks',
  ])('opens what is selected in %s with Enter, which stays until Escape', async (chapter) => {
    await page.open(`/definitions/${chapter}`)
    await (await page.find('table tbody tr[tabindex]')).sendKeys(Key.ENTER)
    await page.find('[role=dialog]')
    await settled(browser.driver)
    expect(await page.all('[role=dialog]')).toHaveLength(1)
    await browser.driver.actions().sendKeys(Key.ESCAPE).perform()
    await browser.driver.wait(async () => (await page.all('[role=dialog]')).length === 0, 10_000)
  })

  it('walks a list and reads in the margin what is selected', async () => {
    await page.open('/work/YARD')
    const grid = await page.find('[role=grid]')
    await browser.driver.wait(async () => (await page.all('.line[data-ref]')).length > 3, 10_000)
    await grid.sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN)
    const ref = await (await page.find('.line.selected')).getAttribute('data-ref')
    await browser.driver.wait(async () => (await page.text('aside')).includes(ref!), 10_000)
  })

  it('moves a widget of a dashboard and puts it back', async () => {
    await page.open('/dashboards/da_yard')
    await page.press('Arrange')
    const head = await page.find('[gs-id="d"] .widget-head')
    const place = async (): Promise<string | null> =>
      await (await page.find('[gs-id="d"]')).getAttribute('gs-x')
    expect(await place()).toBe('9')
    await head.sendKeys(Key.ARROW_LEFT)
    await browser.driver.wait(async () => (await place()) === '8', 10_000)
    await page.reads('not kept yet')
    await page.press('Put back')
    await browser.driver.wait(async () => (await place()) === '9', 10_000)
  })
})

describe('what a viewer may', () => {
  it('reads everything shared, and is offered no change', async () => {
    await enter('ida.lund')
    await page.open('/definitions/fields')
    expect(await page.text('.sheet')).not.toContain('New field')
    await page.open('/work/YARD')
    expect(await page.text('.sheet')).not.toContain('New item')
    await page.open('/work')
    expect(await page.text('.sheet')).not.toContain('CREW')
    await page.open('/views/vi_morning')
    expect(await page.all('[data-card]')).not.toHaveLength(0)
  })
})

describe('two who change definitions at once', () => {
  let other: Awaited<ReturnType<typeof openBrowser>>
  let tom: Page
  beforeAll(async () => {
    await enter()
    other = await openBrowser()
    tom = new Page(other.driver, page.origin)
    await signIn(other.driver, page.origin, 'tom.okafor')
  })
  afterAll(async () => await other?.close())

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
    await page.press('Waiting for spares, active', '//thead')
    await page.press('Rename or describe')
    await page.write('Title', 'Waiting for parts')
    await page.press('Publish it at once')
    await page.reads('is published.')
    await tom.reads('Waiting for parts')
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

describe.each(['light', 'dark'])('every screen on %s paper', (paper) => {
  beforeAll(async () => {
    await enter()
    await browser.driver.executeScript('localStorage.setItem("theme", arguments[0])', paper)
    await page.complaints()
  })

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
    await settled(browser.driver)
    // The dark paper has other colours and the same structure, which was judged on the light.
    expect(await page.axe(paper === 'light' ? 'everything' : 'colours')).toEqual([])
    expect(await page.complaints()).toEqual([])
  })
})
